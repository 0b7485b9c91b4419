import type { Model } from '../../checking/model.js';
import { attempted, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import type { Verdict } from '../../checking/verdict.js';
import type { Answer } from '../../exercise/parts.js';
import { rightStates } from './check.js';
import type { StatesPart } from './part.js';

type States = Extract<Answer, { kind: 'states' }>;

const signs = {
  id: 'matrixSigns',
  words: 'With signs turned round it is right: the coefficients of the denominator stand in A with a minus.',
};
const exchanged = { id: 'exchanged', words: 'With B and C exchanged it is right: are they mixed up?' };

/** States beyond which no slip is looked for: each row and column is worked out like an answer. */
const mostStates = 8;

/** What matrices go wrong by: a row or a column of A, or B or C, with the signs turned round. */
export function slipOfStates(answer: States, check: (answer: Answer) => Verdict): Slip | undefined {
  const isRight = (other: States): boolean => attempted(check, other)?.met === true;
  const rows = rowsOf(answer.a);
  if (rows.length > mostStates) return undefined;
  const turned = [
    ...rows.map((_, i) => rows.map((row, k) => (k === i ? row.map(negated) : row))),
    ...(rows[0] ?? []).map((_, j) => rows.map((row) => row.map((entry, k) => (k === j ? negated(entry) : entry)))),
    rows.map((row) => row.map(negated)),
  ];
  if (turned.some((a) => isRight({ ...answer, a: textOf(a) }))) return signs;
  const mirrored = (text: string): string => {
    const m = rowsOf(text);
    return textOf((m[0] ?? []).map((_, j) => m.map((row) => row[j] ?? '0')));
  };
  const other = { ...answer, b: mirrored(answer.c), c: mirrored(answer.b) };
  return isRight(other) ? exchanged : undefined;
}

/** The right matrices with the signs of their coefficients turned round. */
export function wrongStates(part: StatesPart, model: Model): WrongAnswer[] {
  const right = rightStates(part, model);
  const rows = rowsOf(right.a);
  const last = rows.map((row, i) => (i === rows.length - 1 ? row.map(negated) : row));
  return [{ ...signs, answer: { ...right, a: textOf(last) } }];
}

const rowsOf = (text: string): string[][] =>
  text
    .split(/[;\n]/)
    .map((row) => row.trim())
    .filter(Boolean)
    .map((row) => row.split(/[\s,]/).filter(Boolean));
const textOf = (rows: readonly (readonly string[])[]): string => rows.map((row) => row.join(', ')).join('; ');
const negated = (entry: string): string =>
  /^[-−]/.test(entry) ? entry.slice(1) : entry === '0' ? entry : `-(${entry})`;
