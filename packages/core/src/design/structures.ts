import { rational, rationalFromNumber } from '../rational/number.js';
import { type Polynomial, polynomialOf } from '../rational/polynomial.js';
import { delayed, type Transfer } from '../system/transfer.js';

/** What is read off measured data before any calculation. Times in seconds, frequencies in rad/s. */
export interface Reading {
  /** Gain at rest (or at the lowest frequency); for a rising response the slope. */
  readonly gain: number;
  readonly deadTime: number;
  /** Time to 63 % of the change, dead time taken off. */
  readonly timeConstant: number;
  readonly dampingRatio: number;
  readonly naturalFrequency: number;
}

/** A family of models to fit: its parameters in order, a start from what was read, and the transfer they stand for. */
export interface Structure {
  readonly name: StructureName;
  readonly parameters: readonly string[];
  /** Least value of each parameter. */
  readonly least: readonly number[];
  /** Powers of the units of time and of the gain that each parameter grows with. */
  readonly units: readonly (readonly [time: number, gain: number])[];
  start(reading: Reading): number[];
  transfer(values: readonly number[]): Transfer;
}

export type StructureName =
  | 'firstOrder'
  | 'firstOrderDeadTime'
  | 'twoLags'
  | 'twoLagsDeadTime'
  | 'secondOrder'
  | 'secondOrderDeadTime'
  | 'integratorDeadTime';

const polynomial = (...falling: number[]): Polynomial => polynomialOf(falling.map(rationalFromNumber));

const over = (numerator: number[], denominator: number[], deadTime = 0): Transfer =>
  delayed(
    { numerator: polynomial(...numerator), denominator: polynomial(...denominator) },
    deadTime > 0 ? rationalFromNumber(deadTime) : rational(0n),
  );

const tiny = 1e-9;
const ofTime = [1, 0] as const;
const ofGain = [0, 1] as const;

const plain: readonly Structure[] = [
  {
    name: 'firstOrder',
    parameters: ['K', 'T'],
    units: [ofGain, ofTime],
    least: [-Infinity, tiny],
    start: ({ gain, timeConstant, deadTime }) => [gain, timeConstant + deadTime],
    transfer: ([K, T]) => over([K!], [T!, 1]),
  },
  {
    name: 'twoLags',
    parameters: ['K', 'T1', 'T2'],
    units: [ofGain, ofTime, ofTime],
    least: [-Infinity, tiny, tiny],
    start: ({ gain, timeConstant }) => [gain, timeConstant * 0.7, timeConstant * 0.3],
    transfer: ([K, T1, T2]) => over([K!], [T1! * T2!, T1! + T2!, 1]),
  },
  {
    name: 'secondOrder',
    parameters: ['K', 'wn', 'zeta'],
    units: [ofGain, [-1, 0], [0, 0]],
    least: [-Infinity, tiny, tiny],
    start: ({ gain, naturalFrequency, dampingRatio }) => [gain, naturalFrequency, dampingRatio],
    transfer: ([K, wn, zeta]) => over([K! * wn! * wn!], [1, 2 * zeta! * wn!, wn! * wn!]),
  },
];

const integrator: Structure = {
  name: 'integratorDeadTime',
  parameters: ['K', 'L'],
  units: [[-1, 1], ofTime],
  least: [-Infinity, 0],
  start: ({ gain, deadTime }) => [gain, deadTime],
  transfer: ([K, L]) => over([K!], [1, 0], L),
};

/** Every structure by name; those with dead time have it as their last parameter L. */
export const structures: Readonly<Record<StructureName, Structure>> = Object.fromEntries(
  [...plain.flatMap((structure) => [structure, withDeadTime(structure)]), integrator].map((s) => [s.name, s]),
) as Record<StructureName, Structure>;

function withDeadTime(structure: Structure): Structure {
  const count = structure.parameters.length;
  return {
    name: `${structure.name}DeadTime` as StructureName,
    parameters: [...structure.parameters, 'L'],
    units: [...structure.units, ofTime],
    least: [...structure.least, 0],
    start(reading) {
      const start = structure.start({ ...reading, timeConstant: reading.timeConstant });
      if (structure.name === 'firstOrder') start[1] = reading.timeConstant;
      return [...start, reading.deadTime];
    },
    transfer(values) {
      const without = structure.transfer(values.slice(0, count));
      const delay = values[count]!;
      return {
        ...without,
        numerator: without.numerator.map(({ polynomial: p }) => ({
          polynomial: p,
          delay: delay > 0 ? rationalFromNumber(delay) : rational(0n),
        })),
      };
    },
  };
}
