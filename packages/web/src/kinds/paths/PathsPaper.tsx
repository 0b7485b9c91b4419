import { type SeenOf } from '@nailset/core';
import { AnswerBox, PaperDrawing } from '../onPaper';

/** The part on paper. */
export const PathsPaper = ({ part }: { part: SeenOf<'paths'> }) => (
  <>
    <PaperDrawing title={part.title} equations={part.equations} from={part.from} outputs={[part.to]} />
    <AnswerBox lines={4} />
  </>
);
