import { withKnownLetters } from '../../expression/letters.js';
import { parse } from '../../expression/parse.js';
import { Problem } from '../../expression/problem.js';
import { delayedToLatex } from '../../exercise/studentView.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { type Fraction, isProper, isSameFraction } from '../../rational/fraction.js';
import { coefficients } from '../../rational/polynomial.js';
import { curveDistance } from '../../response/curve.js';
import { stepResponse } from '../../response/step.js';
import { coefficientsOf, systemOf } from '../../system/system.js';
import { type Transfer, asDelayedFraction } from '../../system/transfer.js';
import { constantOf, isSameTransfer, transferFrom } from '../../system/transferAlgebra.js';
import { verdictOf } from '../verdictOf.js';
import { listOf } from '../words.js';
import type { AnswerKind } from './kind.js';

/** What differs between an answer and the expected fraction; an empty list when they count as equal. */
export interface Comparison {
  readonly differences: readonly string[];
  /** Equal up to a constant factor. */
  readonly onlyGain: boolean;
}

/**
 * Compares coefficient by coefficient, both in lowest terms with a monic denominator. Equal forms are equal exactly;
 * otherwise each coefficient may be off by the tolerance (relative), and one that should be zero must be zero. Where a
 * factor of the expected fraction cancels with these numbers, an answer that keeps it, rounded, is compared with the
 * fraction as it was written.
 */
export function compareFractions(answer: Fraction, expected: Fraction, tolerance: number): Comparison {
  if (isSameFraction(answer, expected)) return { differences: [], onlyGain: false };
  const got = coefficientsOf(answer);
  const lowest = coefficientsOf(expected);
  const differences = differencesOf(got, lowest, tolerance);
  if (differences.length === 0) return { differences, onlyGain: false };
  const written = writtenCoefficients(expected);
  if (written.denominator.length > lowest.denominator.length) {
    const kept = [got, writtenCoefficients(answer)].some(
      (given) => differencesOf(given, written, tolerance).length === 0,
    );
    if (kept) return { differences: [], onlyGain: false };
  }
  const ratio = got.numerator[0]! / lowest.numerator[0]!;
  const onlyGain =
    differences.length === 1 &&
    differences[0]!.startsWith('numerator') &&
    lowest.numerator.every((c, k) => Math.abs(got.numerator[k]! - ratio * c) <= tolerance * Math.abs(ratio * c));
  return { differences, onlyGain };
}

interface Coefficients {
  readonly numerator: readonly number[];
  readonly denominator: readonly number[];
}

/** As written, common factors kept, for a leading 1 below the line. */
function writtenCoefficients({ numerator, denominator }: Fraction): Coefficients {
  const below = coefficients(denominator);
  const scaled = (falling: readonly number[]): number[] => falling.map((c) => c / below[0]!);
  return { numerator: scaled(coefficients(numerator)), denominator: scaled(below) };
}

function differencesOf(got: Coefficients, want: Coefficients, tolerance: number): string[] {
  const differences: string[] = [];
  if (got.denominator.length !== want.denominator.length) {
    differences.push(`the denominator is of order ${got.denominator.length - 1} in lowest terms, which is not right`);
  }
  if (got.numerator.length !== want.numerator.length) {
    differences.push(`the numerator is of degree ${got.numerator.length - 1} in lowest terms, which is not right`);
  }
  if (differences.length > 0) return differences;
  for (const part of ['numerator', 'denominator'] as const) {
    const off = want[part].flatMap((c, k) =>
      Math.abs(got[part][k]! - c) <= tolerance * Math.abs(c) * (1 + 1e-9) ? [] : [want[part].length - 1 - k],
    );
    if (off.length > 0) differences.push(`${part}, ${listOf(off.map(powerName))}`);
  }
  return differences;
}

const powerName = (power: number): string =>
  power === 0 ? 'the constant term' : power === 1 ? 'the term in s' : `the term in s^${power}`;

/** The fraction of a transfer function, refused when dead time is inside a loop; and its dead time in seconds. */
function plain(transfer: Transfer): { fraction: Fraction; deadTime: number } {
  return asDelayedFraction(transfer, 'This comparison');
}

/**
 * What a student typed. A block that is itself what is asked for is no answer.
 * @throws Problem with the position of the mistake, and for more zeros than poles.
 */
export function typedTransfer(text: string, own: Scope, expected: Transfer): Transfer {
  const names = new Map(
    [...own.names].filter(([, value]) => constantOf(value) !== null || !isSameTransfer(value, expected)),
  );
  const transfer = transferFrom(withKnownLetters(parse(text), [...names.keys()]), names);
  if (!isProper(plain(transfer).fraction)) {
    throw new Problem(
      'improper',
      'This has more zeros than poles: above the line stands a higher power of s than below.',
    );
  }
  return transfer;
}

/** Compares dead time and coefficients. */
export function compareTransfers(answer: Transfer, expected: Transfer, tolerance: number): Comparison {
  const [got, want] = [plain(answer), plain(expected)];
  const found = compareFractions(got.fraction, want.fraction, tolerance);
  if (Math.abs(got.deadTime - want.deadTime) <= tolerance * want.deadTime * (1 + 1e-9)) return found;
  return { differences: [...found.differences, 'the dead time'], onlyGain: false };
}

export const transferFunction: AnswerKind<'transferFunction'> = {
  kind: 'transferFunction',
  fromText: (_part, text) => ({ kind: 'transferFunction', text }),
  read(part, { scope, own }, answer) {
    typedTransfer(answer.text, own, systemFrom(part.expected, scope));
  },
  check(part, { scope, own }, answer) {
    const want = systemFrom(part.expected, scope);
    const got = typedTransfer(answer.text, own, want);
    const { differences, onlyGain } = compareTransfers(got, want, part.tolerancePercent / 100);
    const met = differences.length === 0;
    const words = met
      ? 'The transfer function is right.'
      : onlyGain
        ? 'Right up to a constant factor: the gain is not.'
        : `Not equal yet. With the highest power below the line scaled to 1, off: ${differences.join('; ')}.`;
    const item = { id: part.id, label: 'Transfer function', unit: '', measured: null, limit: null };
    const points = met ? part.points : 0;
    return verdictOf(
      [{ ...item, relation: 'equal', met, close: false, points, outOf: part.points, words }],
      words,
      met ? {} : distanceBetween(plain(got).fraction, plain(want).fraction),
    );
  },
  solution(part, { scope }) {
    const { fraction, deadTime } = plain(systemFrom(part.expected, scope));
    return delayedToLatex(fraction, deadTime);
  },
};

/** Distance of the step responses over eight time constants of the slower one, when both are stable. */
function distanceBetween(got: Fraction, want: Fraction): { curveDistance?: number } {
  const [left, right] = [systemOf(got), systemOf(want)];
  if (!left.stable || !right.stable) return {};
  const slowest = Math.max(...[...left.poles, ...right.poles].map((pole) => pole.timeConstant ?? 0));
  const scale = Math.max(Math.abs(left.dcGain ?? 0), Math.abs(right.dcGain ?? 0));
  return { curveDistance: curveDistance(stepResponse(left), stepResponse(right), 8 * (slowest || 1), scale) };
}
