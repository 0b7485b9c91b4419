import type { QuantityName } from '../quantity/names.js';
import { TransferSubject } from '../quantity/subject.js';
import { lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficient } from '../rational/polynomial.js';
import { polynomialToLatex } from '../system/latex.js';
import { secondOrderOf } from '../system/standardForms.js';
import { systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { pairSteps } from './standardForm.js';
import { complexLatex, line, numeral, rootsLatex, withUnitLatex, type Worked, type WorkingStep } from './step.js';

/** The way to what is read off the slowest poles, or off the value at s = 0; null for other quantities. */
export function workedOnPoles(name: QuantityName, transfer: Transfer): Worked | null {
  if (name === 'gainAtRest') return gainAtRestSteps(transfer, 'G(0)');
  const last = lastStep[name];
  const plain = withDeadTime(transfer);
  if (!last || plain?.deadTime.numerator !== 0n) return null;
  const slowest = new TransferSubject(transfer).slowest;
  if (!slowest) return null;
  const { re, im } = slowest;
  const step = last({ re, im: Math.abs(im) });
  if (!step) return null;
  const pair = secondOrderOf(transfer);
  const isPair = pair !== null && pair.dampingRatio > 0 && pair.dampingRatio < 1;
  const { value } = step;
  if (isPair && (name === 'dampingRatio' || name === 'naturalFrequency')) {
    const steps = pairSteps(pair);
    return { steps: name === 'dampingRatio' ? steps : steps.slice(0, 2), value };
  }
  return { steps: [...polesSteps(transfer), line(step.words, step.latex)], value };
}

/** The denominator set to zero, and its roots with the slowest one named. */
export function polesSteps(transfer: Transfer): WorkingStep[] {
  const plain = withDeadTime(transfer);
  if (!plain) return [];
  const { denominator } = lowestTerms(plain.fraction);
  const { poles } = systemOf(plain.fraction);
  const slowest = new TransferSubject(transfer).slowest;
  return [
    line('The poles are the roots of the denominator:', `${polynomialToLatex(denominator)}=0`),
    line('They are', `s=${rootsLatex(poles)}`),
    ...(slowest && poles.length > 1
      ? [line('The slowest lies farthest to the right:', `p=${complexLatex({ ...slowest, im: Math.abs(slowest.im) })}`)]
      : []),
  ];
}

interface Last {
  readonly words: string;
  readonly latex: string;
  readonly value: number;
}

const lastStep: Partial<Record<QuantityName, (pole: { re: number; im: number }) => Last | null>> = {
  naturalFrequency({ re, im }) {
    const value = Math.hypot(re, im);
    return {
      words: 'The natural frequency is its distance from the origin:',
      latex: `\\omega_n=|p|=${withUnitLatex(value, 'rad/s')}`,
      value,
    };
  },
  dampingRatio({ re, im }) {
    const size = Math.hypot(re, im);
    if (size === 0) return null;
    return {
      words: 'The damping ratio is the share of its real part:',
      latex: `\\zeta=\\frac{-\\operatorname{Re}p}{|p|}=\\frac{${numeral(-re)}}{${numeral(size)}}=${numeral(-re / size)}`,
      value: -re / size,
    };
  },
  dampedFrequency: ({ im }) =>
    im === 0
      ? null
      : {
          words: 'It swings with its imaginary part:',
          latex: `\\omega_d=\\operatorname{Im}p=${withUnitLatex(im, 'rad/s')}`,
          value: im,
        },
  timeConstant: ({ re }) =>
    re >= 0
      ? null
      : {
          words: 'Its part dies out with',
          latex: `\\tau=\\frac{-1}{\\operatorname{Re}p}=\\frac{1}{${numeral(-re)}}=${withUnitLatex(-1 / re, 's')}`,
          value: -1 / re,
        },
  slowestRealPart: ({ re }) => ({
    words: 'Its real part:',
    latex: `\\operatorname{Re}p=${withUnitLatex(re, '1/s')}`,
    value: re,
  }),
};

/** The value at s = 0: the last coefficients, one over the other; null for a pole there. */
export function gainAtRestSteps(transfer: Transfer, name: string): Worked | null {
  const plain = withDeadTime(transfer);
  if (!plain) return null;
  const { numerator, denominator } = lowestTerms(plain.fraction);
  const [above, below] = [numerator, denominator].map((p) => rationalToNumber(coefficient(p, 0))) as [number, number];
  if (below === 0) return null;
  const value = above / below;
  const words = 'At rest s is 0; what is left are the last coefficients:';
  return { steps: [line(words, `${name}=\\frac{${numeral(above)}}{${numeral(below)}}=${numeral(value)}`)], value };
}
