import { must } from '../expression/must.js';
import { addFractions, type Fraction, lowestTerms, multiplyFractions } from '../rational/fraction.js';
import { compareRational, type Rational, rational } from '../rational/number.js';
import { coefficient, degree, isZero, negate, one, polynomialOf, zero } from '../rational/polynomial.js';
import { fractionToLatex } from '../system/latex.js';
import { roots } from '../system/roots.js';
import { line, numeral, type WorkingStep } from './step.js';

/** The Routh array of D + K·N with the gain K kept as a letter; entries are fractions in K where `Fraction` says s. */
export interface GainArray {
  readonly rows: readonly { readonly power: number; readonly entries: readonly Fraction[] }[];
  /** Gains above 0 at which an entry of the first column vanishes. */
  readonly candidates: readonly number[];
}

const mostRows = 7;

/**
 * The array with the rule of crosses; null where an entry in front is zero whatever K is, and for loops of an order
 * above 6. Source: Routh, A Treatise on the Stability of a Given State of Motion (1877).
 */
export function gainArray({ numerator, denominator }: Fraction): GainArray | null {
  const order = Math.max(degree(numerator), degree(denominator));
  if (order < 1 || order >= mostRows) return null;
  const at = (power: number): Fraction => ({
    numerator: polynomialOf([coefficient(numerator, power), coefficient(denominator, power)]),
    denominator: one,
  });
  const every = (start: number): Fraction[] => {
    const entries: Fraction[] = [];
    for (let power = start; power >= 0; power -= 2) entries.push(at(power));
    return entries;
  };
  const rows = [
    { power: order, entries: every(order) },
    { power: order - 1, entries: every(order - 1) },
  ];
  for (let power = order - 2; power >= 0; power--) {
    const [upper, lower] = [must(rows.at(-2)).entries, must(rows.at(-1)).entries];
    if (isZero(must(lower[0]).numerator)) return null;
    rows.push({ power, entries: below(upper, lower) });
  }
  const first = rows.map(({ entries }) => must(entries[0]));
  if (first.some((entry) => isZero(entry.numerator))) return null;
  const candidates = first.flatMap((entry) =>
    roots(entry.numerator)
      .filter(({ re, im }) => im === 0 && re > 0)
      .map(({ re }) => re),
  );
  return { rows, candidates };
}

const nothing: Fraction = { numerator: zero, denominator: one };

function below(upper: readonly Fraction[], lower: readonly Fraction[]): Fraction[] {
  const lead = must(lower[0]);
  const ratio = multiplyFractions(must(upper[0]), { numerator: lead.denominator, denominator: lead.numerator });
  const entries: Fraction[] = [];
  for (let k = 1; k < upper.length; k++) {
    const back = multiplyFractions(ratio, lower[k] ?? nothing);
    entries.push(
      lowestTerms(addFractions(must(upper[k]), { numerator: negate(back.numerator), denominator: back.denominator })),
    );
  }
  return entries;
}

/** An entry of the array as LaTeX, in K. */
const inGain = (entry: Fraction): string => fractionToLatex(entry).replaceAll('s', 'K');

/** One coefficient of D + K·N. */
function coefficientLatex({ numerator, denominator }: Fraction, power: number): string {
  const [n, d] = [coefficient(numerator, power), coefficient(denominator, power)];
  return inGain({ numerator: polynomialOf([n, d]), denominator: one });
}

/** D + K·N by falling powers: `s^3+8 s^2+12 s+K`. */
export function characteristicLatex(loop: Fraction): string {
  const order = Math.max(degree(loop.numerator), degree(loop.denominator));
  let text = '';
  for (let power = order; power >= 0; power--) {
    const latex = coefficientLatex(loop, power);
    if (latex === '0') continue;
    const isSum = /[+-]/.test(latex.slice(1));
    const variable = power === 0 ? '' : power === 1 ? 's' : `s^{${power}}`;
    const factor = isSum && variable ? `(${latex})` : latex === '1' && variable ? '' : latex;
    const sign = text && !factor.startsWith('-') ? '+' : '';
    text += `${sign}${factor}${factor && variable ? '\\,' : ''}${variable}`;
  }
  return text;
}

/** The characteristic equation, the array and what its first column asks for; without the array where there is none. */
export function routhSteps(loop: Fraction, array: GainArray | null): WorkingStep[] {
  const characteristic = line('The closed loop has its poles where', `${characteristicLatex(loop)}=0`);
  if (!array) return [characteristic];
  const width = must(array.rows[0]).entries.length;
  const rows = array.rows.map(
    ({ power, entries }) =>
      `s^{${power}} & ${Array.from({ length: width }, (_, k) => (entries[k] ? inGain(entries[k]) : '')).join(' & ')}`,
  );
  const first = array.rows.map(({ entries }) => must(entries[0]));
  const sign = leadingSign(must(first[0])) < 0 ? '<' : '>';
  const asked = first
    .filter(({ numerator, denominator }) => degree(numerator) > 0 || degree(denominator) > 0)
    .map(inGain);
  return [
    characteristic,
    line('The Routh array:', `\\begin{array}{c|${'c'.repeat(width)}}${rows.join('\\\\ ')}\\end{array}`),
    line(
      'All roots lie on the left when no sign changes in the first column:',
      [...new Set(asked)].map((entry) => `${entry}${sign} 0`).join(',\\quad ') || '\\text{whatever }K',
    ),
  ];
}

/** Of the constant part: what decides for small gains. */
function leadingSign({ numerator }: Fraction): number {
  const sign = (value: Rational) => compareRational(value, rational(0n));
  return sign(coefficient(numerator, 0)) || sign(coefficient(numerator, 1));
}

/** `0 < K < 96`; ends may be infinite. */
export function rangeLatex([from, to]: readonly [number, number]): string {
  if (to === Infinity) return `K>${numeral(from)}`;
  return `${numeral(from)}<K<${numeral(to)}`;
}
