import { type SeenOf } from '@nailset/core';
import { AnswerBox, PaperDrawing } from '../onPaper';

/** The part on paper. */
export const ReductionPaper = ({ part }: { part: SeenOf<'reduction'> }) => (
  <>
    <PaperDrawing title={part.title} equations={part.equations} from={part.from} outputs={[part.to]} />
    <AnswerBox lines={8} />
  </>
);
