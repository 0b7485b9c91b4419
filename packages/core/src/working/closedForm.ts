import { lowestTerms } from '../rational/fraction.js';
import { degree, multiply, s } from '../rational/polynomial.js';
import { partialFractions } from '../system/partialFractions.js';
import { systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { numeral } from './step.js';

/** A unit step response written down, behind its dead time. */
export interface ClosedForm {
  /** `1 - e^{-2t}`, of the time since the dead time. */
  readonly latex: string;
  /** In seconds. */
  readonly deadTime: number;
  /** The response so long after the dead time. */
  at(time: number): number;
}

const most = 6;

/**
 * The unit step response as a sum of exponentials by partial fractions of G(s)/s; null for dead time inside a loop, for
 * repeated complex poles, for more than six poles and for more zeros than poles.
 */
export function closedFormOf(transfer: Transfer): ClosedForm | null {
  const plain = withDeadTime(transfer);
  if (!plain) return null;
  const fraction = lowestTerms(plain.fraction);
  if (degree(fraction.denominator) > most || degree(fraction.numerator) > degree(fraction.denominator)) return null;
  const system = systemOf({ numerator: fraction.numerator, denominator: multiply(fraction.denominator, s) });
  if (system.poles.some(({ im, multiplicity }) => im !== 0 && multiplicity > 1)) return null;
  const { terms } = partialFractions(system);
  const size = Math.max(...terms.map(({ residue }) => Math.hypot(residue.re, residue.im)), 1e-300);
  const modes = terms
    .filter(({ residue }) => Math.hypot(residue.re, residue.im) > 1e-10 * size)
    .map(({ pole, power, residue }) => {
      const isPair = pole.im > 0;
      return {
        pole,
        power: power - 1,
        factor: isPair ? 2 * Math.hypot(residue.re, residue.im) : residue.re / factorial(power - 1),
        angle: isPair ? Math.atan2(residue.im, residue.re) : 0,
      };
    })
    .sort((a, b) => b.pole.re - a.pole.re);
  return {
    latex: modes.map((mode, k) => modeLatex(mode, k === 0)).join('') || '0',
    deadTime: Number(plain.deadTime.numerator) / Number(plain.deadTime.denominator),
    at: (time) =>
      modes.reduce(
        (sum, { pole, power, factor, angle }) =>
          sum + factor * time ** power * Math.exp(pole.re * time) * Math.cos(pole.im * time + angle),
        0,
      ),
  };
}

interface Mode {
  readonly pole: { readonly re: number; readonly im: number };
  readonly power: number;
  readonly factor: number;
  readonly angle: number;
}

function modeLatex({ pole, power, factor, angle }: Mode, isFirst: boolean): string {
  const sign = factor < 0 ? '-' : isFirst ? '' : '+';
  const parts = [
    power === 0 ? '' : power === 1 ? 't' : `t^{${power}}`,
    pole.re === 0 ? '' : `e^{${pole.re === -1 ? '-' : numeral(pole.re)}\\,t}`.replace('-\\,', '-'),
    pole.im === 0 ? '' : `\\cos(${numeral(pole.im)}\\,t${angle < 0 ? '-' : '+'}${numeral(Math.abs(angle))})`,
  ].filter(Boolean);
  const size = Math.abs(factor);
  const lead = Math.abs(size - 1) < 1e-12 && parts.length > 0 ? '' : numeral(size);
  return [`${sign}${lead}`, ...parts].filter((part) => part !== '').join('\\,');
}

const factorial = (n: number): number => (n <= 1 ? 1 : n * factorial(n - 1));
