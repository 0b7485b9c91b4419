import { nameToLatex, type SeenOf } from '@nailset/core';
import { Formula } from '../../shared/Formula';
import { AnswerBox, PaperDrawing } from '../onPaper';

/** The part on paper. */
export const DiagramPaper = ({ part }: { part: SeenOf<'diagram'> }) => (
  <>
    <PaperDrawing
      title={part.title}
      equations={part.equations}
      from={part.asked[0]?.from ?? ''}
      outputs={part.asked.map(({ to }) => to)}
    />
    {part.asked.map(({ id, from, to }) => (
      <AnswerBox
        key={id}
        lines={2}
        before={<Formula latex={`\\displaystyle\\frac{${nameToLatex(to)}}{${nameToLatex(from)}}=`} />}
      />
    ))}
  </>
);
