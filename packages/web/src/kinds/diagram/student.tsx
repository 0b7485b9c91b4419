import { later } from '../../shared/later';
import { areNamedTexts } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { bare, readableWhen } from '../typed';

// Diagrams come with a layout library of their own size, so they are loaded when a part has one.
const [DiagramBench, bringBench] = later(() => import('./DiagramBench'));

export const diagram: StudentKind<'diagram'> = {
  Bench: ({ part, answer, bench, last, solution, onChange }) => (
    <DiagramBench
      {...{ part, last, parameters: bench.parameters, texts: answer.texts, solution: solution?.text }}
      onChange={(texts) => onChange({ ...answer, texts })}
    />
  ),
  Shown: ({ answer }) =>
    Object.entries(answer.texts).map(([id, text]) => (
      <p key={id} className="mt-1 font-mono text-[14px] break-all">
        {text || '–'}
      </p>
    )),
  bring: bringBench,
  blank: ({ kind }) => ({ kind, texts: {} }),
  readable: (_part, { texts }) =>
    readableWhen(Object.values(texts).every((text) => !text.trim()) && 'Type your answer first.'),
  isStored: ({ texts }) => areNamedTexts(texts),
  isSame: (left, right) =>
    [...new Set([...Object.keys(left.texts), ...Object.keys(right.texts)])].every(
      (id) => bare(left.texts[id]) === bare(right.texts[id]),
    ),
  ladder: null,
  isFormula: true,
  isProjected: false,
  isSmall: () => false,
  entersByKey: false,
  symbols: ['^', '(', ')', '·', '/', '−'],
};
