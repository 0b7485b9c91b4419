import { type Answer, numberFromText, orElse, orProblem, Problem, type Scope } from '@nailset/core';
import { isText } from '../../shared/stored';
import type { StudentKind } from '../kind';
import { isSameText, ShownText } from '../typed';
import { NumberBench } from './NumberBench';

export const number: StudentKind<'number'> = {
  Bench: ({ part, answer, last, scope, solution, together, onChange }) => (
    <NumberBench
      {...{ part, solution, together, text: answer.text, answer: numberOf(last?.answer, part.unit, scope) }}
      onChange={(text) => onChange({ ...answer, text })}
    />
  ),
  Shown: ShownText,
  blank: ({ kind }) => ({ kind, text: '' }),
  readable({ unit }, { text }, scope) {
    const value = orProblem(() => numberFromText(text, unit, scope.names));
    if (!(value instanceof Problem))
      return { shown: `${Number(value.toPrecision(6))} ${unit}`, words: '', problem: undefined };
    return { shown: null, words: '', problem: text.trim() ? value.message : 'Type your answer first.' };
  },
  isStored: ({ text }) => isText(text),
  isSame: isSameText,
  ladder: null,
  isFormula: false,
  isProjected: false,
  isSmall: () => true,
  entersByKey: true,
  symbols: ['√', '^', '(', ')', 'π', 'ζ', 'ωₙ', 'τ'],
};

const numberOf = (answer: Answer | undefined, unit: string, { names }: Scope): number | undefined =>
  answer?.kind === 'number' ? orElse(undefined, () => numberFromText(answer.text, unit, names)) : undefined;
