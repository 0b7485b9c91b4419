import { later } from '../../shared/later';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, readableWhen, ShownText } from '../typed';

const [PathsBench, bringBench] = later(() => import('./PathsBench'));

export const paths: StudentKind<'paths'> = {
  Bench: ({ part, answer, solution, onChange }) => (
    <PathsBench
      {...{ part, text: answer.text, solution: solution?.text }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown: ShownText,
  bring: bringBench,
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
