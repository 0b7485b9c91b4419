import { pointsFromText } from '@nailset/core';
import { later } from '../../shared/later';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, readableAs, ShownText } from '../typed';

const [PointsBench, bringBench] = later(() => import('./PointsBench'));

export const points: StudentKind<'points'> = {
  Bench: ({ part, answer, solution, revealed, together, onChange }) => (
    <PointsBench
      {...{ part, revealed, together, text: answer.text, solution: solution?.text }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown: ShownText,
  bring: bringBench,
  blank: ({ kind }) => ({ kind, text: '' }),
  readable: (_part, { text }) =>
    readableAs(() => {
      const count = pointsFromText(text).length;
      return count === 1 ? 'One point.' : `${count} points.`;
    }),
  isStored: ({ text }) => isText(text),
  isSame: isSameText,
  ladder: null,
  isFormula: false,
  isProjected: true,
  isSmall: () => true,
  entersByKey: true,
  symbols: ['±', '−', 'j', '√', '/'],
};
