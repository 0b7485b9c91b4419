import { Problem } from '../expression/problem.js';
import { type ErrorIntegrals, errorIntegrals } from '../response/integrals.js';
import type { QuantityName } from './names.js';
import type { Quantity } from './quantity.js';
import type { Subject } from './subject.js';

const integral = {
  source: 'error',
  unit: '',
  excess: 'too much',
  lack: 'too little',
  usualRelation: 'atMost',
  usualLimit: 1,
} as const;

/** Infinite for an error that does not die out. */
function integralOf({ stable, transfer, motion }: Subject, which: keyof ErrorIntegrals): number | null {
  if (!stable) return null;
  if (motion) throw new Problem('exercise', 'Integrals of the error are not worked out for loops with limits.');
  return errorIntegrals(transfer)?.[which] ?? Infinity;
}

/** Integrals of an error over all time. */
export const errorQuantities = {
  integralAbsolute: {
    ...integral,
    label: 'Integral of |e|',
    short: 'Integral of |e|',
    definition: 'The error without sign, summed over all time; infinite when an offset stays.',
    read: (subject) => integralOf(subject, 'absolute'),
  },
  integralSquared: {
    ...integral,
    label: 'Integral of e²',
    short: 'Integral of e²',
    definition: 'The squared error, summed over all time; infinite when an offset stays.',
    read: (subject) => integralOf(subject, 'squared'),
  },
  integralTimeWeighted: {
    ...integral,
    label: 'Integral of t·|e|',
    short: 'Integral of t·|e|',
    definition: 'The error without sign times the time, summed over all time; infinite when an offset stays.',
    read: (subject) => integralOf(subject, 'timeWeighted'),
  },
} satisfies Partial<Record<QuantityName, Quantity>>;
