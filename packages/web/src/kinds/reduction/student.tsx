import { type AnswerOf } from '@nailset/core';
import isEqual from 'fast-deep-equal';
import { beginLayout } from '../../diagram/elk';
import { later } from '../../shared/later';
import { areTexts, isObject, isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { readableWhen } from '../typed';

const [ReductionBench, bringBench] = later(() => import('./ReductionBench'));

const stepNames: Record<AnswerOf<'reduction'>['steps'][number]['kind'], string> = {
  series: 'series',
  parallel: 'parallel',
  loop: 'loop',
  unity: 'unity block removed',
  sign: 'minus sign as a block',
  line: 'one name for a line',
  join: 'sums joined',
  exchange: 'sums exchanged',
  sumBehind: 'sum behind',
  sumBefore: 'sum before',
  tapBefore: 'tap before',
  tapBehind: 'tap behind',
  tapBeforeSum: 'tap before the sum',
};

const isStep = (step: unknown): boolean =>
  isObject(step) &&
  isText(step['kind']) &&
  areTexts(step['of']) &&
  (step['gain'] === undefined || isText(step['gain']));

export const reduction: StudentKind<'reduction'> = {
  Bench: ({ part, answer, solution, onChange }) => (
    <ReductionBench
      {...{ part, steps: answer.steps, solution: solution?.text }}
      onChange={(steps) => onChange({ ...answer, steps: [...steps] })}
    />
  ),
  Shown: ({ answer }) => (
    <ol className="mt-1 list-decimal pl-5 text-[13px]">
      {answer.steps.map(({ kind, of, gain }, k) => (
        <li key={k}>
          {stepNames[kind]} {of.filter((id) => !/^[#@]/.test(id)).join(', ')}
          {gain !== undefined && <span className="font-mono"> → {gain}</span>}
        </li>
      ))}
    </ol>
  ),
  bring: () => {
    beginLayout();
    return bringBench();
  },
  blank: ({ kind }) => ({ kind, steps: [] }),
  readable(_part, { steps: { length: count } }) {
    const words = count === 0 ? '' : count === 1 ? 'One step made.' : `${count} steps made.`;
    return readableWhen(count === 0 && 'Make a first step.', words);
  },
  isStored: ({ steps }) => Array.isArray(steps) && steps.every(isStep),
  isSame: isEqual,
  ladder: null,
  isFormula: true,
  isProjected: false,
  isSmall: () => false,
  entersByKey: false,
  symbols: [],
};
