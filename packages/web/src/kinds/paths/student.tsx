import { lazy } from 'react';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, readableWhen, ShownText } from '../typed';

const PathsBench = lazy(() => import('./PathsBench'));

export const paths: StudentKind<'paths'> = {
  Bench: ({ part, answer, solution, onChange }) => (
    <PathsBench
      {...{ part, text: answer.text, solution: solution?.text }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown: ShownText,
  blank: ({ kind }) => ({ kind, text: '' }),
  readable: (_part, { text }) => readableWhen(!text.trim() && 'List them first.'),
  isStored: ({ text }) => isText(text),
  isSame: isSameText,
  ladder: null,
  isFormula: true,
  isProjected: false,
  isSmall: () => false,
  entersByKey: false,
  symbols: ['−', '·', '/'],
};
