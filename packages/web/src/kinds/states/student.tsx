import { later } from '../../shared/later';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { readableWhen } from '../typed';

const [StatesBench, bringBench] = later(() => import('./StatesBench'));
const names = ['a', 'b', 'c', 'd'] as const;

export const states: StudentKind<'states'> = {
  Bench: ({ answer, solution, onChange }) => (
    <StatesBench
      {...{ matrices: answer, solution: solution?.text }}
      onChange={({ a, b, c, d }) => onChange({ ...answer, a, b, c, d })}
    />
  ),
  Shown: ({ answer }) =>
    names.map((name) => (
      <p key={name} className="mt-1 font-mono text-[14px] whitespace-pre-wrap">
        {name.toUpperCase()} = {answer[name]}
      </p>
    )),
  bring: bringBench,
  blank: ({ kind }) => ({ kind, a: '', b: '', c: '', d: '' }),
  readable: (_part, answer) => readableWhen(names.some((name) => !answer[name].trim()) && 'Fill in all four matrices.'),
  isStored: (kept) => names.every((name) => isText(kept[name])),
  isSame: (left, right) => names.every((name) => left[name] === right[name]),
  ladder: null,
  isFormula: true,
  isProjected: false,
  isSmall: () => false,
  entersByKey: false,
  symbols: ['−', '/', '√'],
};
