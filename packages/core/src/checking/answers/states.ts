import { Problem } from '../../expression/problem.js';
import type { Answer } from '../../exercise/answer.js';
import type { StatesPart } from '../../exercise/parts.js';
import { type Scope, numberFrom, systemFrom } from '../../formula/evaluate.js';
import { degree } from '../../rational/polynomial.js';
import { lowestTerms } from '../../rational/fraction.js';
import { type StateMatrices, fractionOfStates, stateSpaceOf, statesOf } from '../../system/stateSpace.js';
import { type Transfer, asDelayedFraction, delayed } from '../../system/transfer.js';
import type { Model } from '../model.js';
import { formatNumber } from '../words.js';
import { verdictOf } from '../verdictOf.js';
import type { AnswerKind } from './kind.js';
import { compareTransfers } from './transferFunction.js';

type States = Extract<Answer, { kind: 'states' }>;
const names = ['a', 'b', 'c', 'd'] as const;

/** Rows on lines or between semicolons, entries between commas or blanks; entries may use the student's numbers. */
function matrixFrom(text: string, name: string, { own }: Model): number[][] {
  const rows = text
    .split(/[;\n]/)
    .map((row) => row.trim())
    .filter(Boolean)
    .map((row) => row.split(/\s*,\s*|\s+/).filter(Boolean));
  if (rows.length === 0) throw new Problem('empty', `${name.toUpperCase()} is empty.`);
  return rows.map((row) => row.map((entry) => numberFrom(entry, own)));
}

function typedStates(model: Model, answer: States): { transfer: Transfer; order: number } {
  const matrices = Object.fromEntries(names.map((name) => [name, matrixFrom(answer[name], name, model)]));
  const space = stateSpaceOf(matrices as Record<(typeof names)[number], number[][]>);
  if (space.d.length !== 1 || space.d[0]!.length !== 1) {
    throw new Problem('matrix', 'One input and one output are asked for: D is a single number.');
  }
  return { transfer: delayed(fractionOfStates(space)), order: space.a.length };
}

/** Matrices of the system, as they could be typed. @throws Problem for dead time and for more zeros than poles. */
export function rightStates(part: StatesPart, { scope }: Model): States {
  const form = formOf(part, scope);
  const text = (rows: readonly (readonly number[])[]): string => rows.map((row) => row.join(', ')).join('; ');
  return { kind: 'states', a: text(form.a), b: text(form.b), c: text(form.c), d: text(form.d) };
}

function formOf({ expected }: StatesPart, scope: Scope): StateMatrices {
  const { fraction } = asDelayedFraction(systemFrom(expected, scope), 'State matrices');
  return statesOf(lowestTerms(fraction), 'controllable');
}

export const states: AnswerKind<'states'> = {
  kind: 'states',
  fromText(_part, text) {
    const pieces = text.split('|').map((piece) => piece.trim());
    if (pieces.length !== 4) throw new Problem('exercise', 'A, B, C and D are asked for, separated by |.');
    const [a, b, c, d] = pieces as [string, string, string, string];
    return { kind: 'states', a, b, c, d };
  },
  read(_part, model, answer) {
    typedStates(model, answer);
  },
  check(part, model, answer) {
    const { transfer, order } = typedStates(model, answer);
    const expected = systemFrom(part.expected, model.scope);
    const least = degree(lowestTerms(asDelayedFraction(expected, 'State matrices').fraction).denominator);
    const same = compareTransfers(transfer, expected, part.tolerancePercent / 100).differences.length === 0;
    const met = same && order === least;
    const words = met
      ? 'These matrices describe the system.'
      : same
        ? `They lead to the right transfer function, but with ${order} states; ${least} are enough.`
        : 'Their transfer function is not that of the system.';
    const item = {
      id: part.id,
      label: 'State matrices',
      unit: '',
      measured: null,
      limit: null,
      relation: 'equal' as const,
    };
    return verdictOf([{ ...item, met, close: false, points: met ? part.points : 0, outOf: part.points, words }], words);
  },
  solution(part, { scope }) {
    const form = formOf(part, scope);
    return names.map((name) => `${name.toUpperCase()}=${matrixLatex(form[name])}`).join(',\\ ');
  },
};

const matrixLatex = (rows: readonly (readonly number[])[]): string =>
  `\\begin{bmatrix}${rows.map((row) => row.map((value) => formatNumber(value)).join('&')).join('\\\\')}\\end{bmatrix}`;
