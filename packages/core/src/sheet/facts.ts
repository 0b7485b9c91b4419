import { orProblem, Problem } from '../expression/problem.js';
import { isStable } from '../frequency/stability.js';
import { rationalToNumber } from '../rational/number.js';
import { limitedLoop } from '../response/limitedLoop.js';
import { type Measures, measuresOfMotion, measuresOfTransfer, noMeasures } from '../response/measures.js';
import { factoredToLatex, fractionToLatex, gainZeroPoleToLatex, timeConstantToLatex } from '../system/latex.js';
import { hiddenModes, type Pole, type System, systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import type { LimitedSystem } from './plant.js';

/** What is always said about a system. Frequencies in rad/s, times in seconds. */
export interface Facts {
  readonly stable: boolean;
  /** Without its dead time; null where dead time stands inside of sums, and poles cannot be listed. */
  readonly system: System | null;
  readonly deadTime: number;
  /** Modes that cancel. */
  readonly hidden: readonly Pole[];
  /** How many poles, how many of them at the origin, and how many more than zeros. */
  readonly order: number;
  readonly type: number;
  readonly relativeDegree: number;
  /** Of its unit step response; null where it has none. */
  readonly measures: Measures | null;
}

/**
 * @param limited where the system is a signal of a loop with limits, which its step response keeps
 * @throws Problem for a system whose stability cannot be decided.
 */
export function factsOf(transfer: Transfer, limited?: LimitedSystem): Facts {
  const plain = withDeadTime(transfer);
  const measures = once(() => {
    const measured = orProblem(() => (limited ? limitedMeasures(limited, transfer) : measuresOfTransfer(transfer)));
    return measured instanceof Problem ? null : measured;
  });
  if (!plain) {
    return {
      ...{ stable: isStable(transfer), system: null, deadTime: 0, hidden: [] },
      ...{ order: NaN, type: NaN, relativeDegree: NaN },
      get measures() {
        return measures();
      },
    };
  }
  const system = systemOf(plain.fraction);
  const hidden = hiddenModes(plain.fraction);
  const count = (roots: readonly { readonly multiplicity: number }[]) =>
    roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  const order = count(system.poles);
  return {
    ...{ system, hidden, order, stable: system.stable && hidden.every(({ re }) => re < 0) },
    deadTime: rationalToNumber(plain.deadTime),
    type: count(system.poles.filter(({ re, im }) => re === 0 && im === 0)),
    relativeDegree: order - count(system.zeros),
    // Asked for by few panes, and not while a number is slid.
    get measures() {
      return measures();
    },
  };
}

/** Worked out when it is first asked for. */
function once<Of>(work: () => Of): () => Of {
  let done: { readonly value: Of } | undefined;
  return () => (done ??= { value: work() }).value;
}

/** Of the response to a unit step of the reference, within the limits; none where it does not come to rest. */
function limitedMeasures({ loop, signal }: LimitedSystem, transfer: Transfer): Measures {
  if (signal === 'demand') return noMeasures;
  const linear = orProblem(() => measuresOfTransfer(transfer));
  const horizon = 4 * ((linear instanceof Problem ? null : linear.settlingTime) ?? 10);
  const signals = limitedLoop({ ...loop, reference: { kind: 'step' }, horizon });
  const settled = isStable(transfer) ? signals.settled()?.[signal] : undefined;
  return settled ? measuresOfMotion(settled.motion, settled.finalValue) : noMeasures;
}

/** The ways in which a system is written, as LaTeX, without dead time. */
export const writtenForms = {
  expanded: ({ fraction }: System) => fractionToLatex(fraction),
  factored: ({ fraction }: System) => factoredToLatex(fraction),
  'time constants': timeConstantToLatex,
  'gain, zeros, poles': gainZeroPoleToLatex,
} as const;
export type WrittenForm = keyof typeof writtenForms;

/**
 * A time over which systems show what they do, rounded to 1, 1.5, 2, 3, 5 or 7 times a power of ten: until the slowest
 * has settled, or until what grows has grown some fifty times.
 */
export function timeFor(all: readonly Facts[]): number {
  const needed = all.map(({ system, deadTime, measures }) => {
    if (measures?.settlingTime) return 1.35 * measures.settlingTime;
    const rates = (system?.poles ?? [])
      .map(({ re, im }) => Math.abs(re) || Math.abs(im) / 6)
      .filter((rate) => rate > 0);
    return deadTime + (rates.length > 0 ? 4 / Math.min(...rates) : 1);
  });
  const longest = Math.max(...needed, 1e-9);
  const power = 10 ** Math.floor(Math.log10(longest));
  return power * ([1, 1.5, 2, 3, 5, 7].find((step) => step * power >= 0.999 * longest) ?? 10);
}
