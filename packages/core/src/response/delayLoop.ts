import { Problem } from '../expression/problem.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficient, coefficients, degree, type Polynomial } from '../rational/polynomial.js';
import { magnitude } from '../system/complex.js';
import { roots } from '../system/roots.js';
import { inTimeUnit, timeUnitOf } from '../system/timeUnit.js';
import { highestDegree, type Transfer } from '../system/transfer.js';
import { inputAt } from './input.js';
import { LinearRun } from './linearRun.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion } from './piecewise.js';
import { StretchedMotion } from './stretched.js';

const tolerance = 1e-9;
const manyPieces = 6000;

/** A run with one output, and the unit in which it counts time, in seconds. */
export interface DelayRun {
  readonly run: LinearRun;
  readonly unit: number;
}

/**
 * Response to t^power/power! of a transfer with dead time inside a loop, as a run with one output; as the ramp and the
 * parabola are those of the run's own time, its values count for unit^power.
 * Method: observer form of the part without dead time, driven by the delayed input and the delayed output.
 * @throws Problem `improper` when the output would depend on derivatives of the input or of its own past.
 */
export function delayRun(written: Transfer, power: 0 | 1 | 2): DelayRun {
  const unit = timeUnitOf(written.denominator);
  const transfer = inTimeUnit(written, unit);
  const [undelayed, ...loops] = transfer.denominator;
  const order = degree(undelayed!.polynomial);
  if (highestDegree(transfer.numerator) > order || highestDegree(loops) > order) {
    throw new Problem('improper', 'More zeros than poles: this cannot be built or simulated.');
  }
  const inputs = transfer.numerator.map(({ delay, polynomial }) => ({ delay: rationalToNumber(delay), polynomial }));
  const pasts = loops.map(({ delay, polynomial }) => ({ delay: rationalToNumber(delay), polynomial }));
  const { a, column } = observerForm(undelayed!.polynomial);
  const columns = [
    ...inputs.map(({ polynomial }) => column(polynomial, 1)),
    ...pasts.map(({ polynomial }) => column(polynomial, -1)),
  ];
  const driving = [{ power, amplitude: 1, at: 0 }];
  const shortest = Math.min(...pasts.map(({ delay }) => delay));
  const run = new LinearRun({
    modes: [
      {
        a,
        b: a.map((_, i) => columns.map(({ states }) => states[i]!)),
        c: [a.map((_, i) => (i === 0 ? 1 : 0))],
        d: [columns.map(({ direct }) => direct)],
      },
    ],
    initial: a.map(() => 0),
    forcingCount: columns.length,
    forcing(time, after, into, run) {
      inputs.forEach(({ delay }, k) => (into[k] = inputAt(driving, time - delay, after)));
      pasts.forEach(({ delay }, k) => {
        const then = time - delay;
        const begun = then > 1e-12 * delay || (after && then > -1e-12 * delay);
        into[inputs.length + k] = begun ? run.value(0, Math.max(0, then), after) : 0;
      });
    },
    breaks: kinks(
      inputs.map(({ delay }) => delay),
      pasts.map(({ delay, polynomial }) => ({ delay, smoothing: order - degree(polynomial) })),
    ),
    longest: shortest,
    tolerance,
    sizes: [sizeOf(transfer)],
  });
  return { run, unit };
}

/** About how large a response is, in the unit of time in which dead times are near 1. */
function sizeOf({ numerator, denominator }: Transfer): number {
  const sum = (terms: Transfer['numerator']): number =>
    terms.reduce((all, { polynomial: p }) => all + coefficients(p).reduce((size, c) => size + Math.abs(c), 0), 0);
  return sum(numerator) / sum(denominator);
}

/**
 * The step response of a stable transfer with dead time inside a loop, worked out until it rests at its final value.
 * @throws Problem `numberSize` when that takes too long.
 */
export function settledMotion(written: Transfer, finalValue: number): Motion {
  const { run, unit } = delayRun(written, 0);
  const transfer = inTimeUnit(written, unit);
  const source = run.source(0);
  const slowest = roots(transfer.denominator[0]!.polynomial).reduce(
    (t, { re }) => (re < 0 ? Math.max(t, -1 / re) : t),
    0,
  );
  let until = 4 * (Math.max(...transfer.denominator.map(({ delay }) => rationalToNumber(delay))) + slowest);
  for (;;) {
    source.reach(until);
    let largest = Math.abs(finalValue);
    let off = 0;
    for (const { from, powers } of source.pieces) {
      largest = Math.max(largest, Math.abs(powers[0]!));
      if (from >= until / 2) off = Math.max(off, Math.abs(powers[0]! - finalValue));
    }
    // A loop that hardly decays is left where what still moves cannot change a settling time.
    const enough = source.pieces.length > manyPieces ? 2e-4 * Math.abs(finalValue) : 1e-9 * largest;
    if (off < enough) {
      return new StretchedMotion(new PiecewiseMotion(source, 0, until, 2 * off + 1e-9 * largest), unit);
    }
    until *= 1.5;
  }
}

/**
 * States of the observer form of 1/p, scaled so that the matrix is balanced, and the column with which a signal enters
 * that is multiplied by another polynomial of no higher degree.
 */
export function observerForm(p: Polynomial): {
  a: number[][];
  column: (polynomial: Polynomial, sign: 1 | -1) => { states: number[]; direct: number };
} {
  const n = degree(p);
  const lead = coefficient(p, n);
  const sizes = roots(p).flatMap((root) => Array<number>(root.multiplicity).fill(magnitude(root)));
  const nonzero = sizes.filter((size) => size > 0);
  const pace =
    nonzero.length > 0 ? Math.exp(nonzero.reduce((sum, size) => sum + Math.log(size), 0) / nonzero.length) : 1;
  const monic = (polynomial: Polynomial, k: number): number =>
    rationalToNumber(coefficient(polynomial, k)) / rationalToNumber(lead);
  const a = Array.from({ length: n }, (_, i) => {
    const row = new Array<number>(n).fill(0);
    row[0] = -monic(p, n - 1 - i) / pace ** i;
    if (i + 1 < n) row[i + 1] = pace;
    return row;
  });
  return {
    a,
    column(polynomial, sign) {
      const direct = sign * monic(polynomial, n);
      const states = a.map((_, i) => (sign * monic(polynomial, n - 1 - i)) / pace ** i + a[i]![0]! * direct);
      return { states, direct };
    },
  };
}

const mostKinks = 2000;
/** Kinks in a derivative of this order or higher are left to the steps' own error control. */
const smoothEnough = 8;

/**
 * Times at which the output or one of its lower derivatives may jump: the delays of the input, plus any sum of the
 * loop's delays; each pass through the loop smooths by its own number of orders.
 */
function kinks(starts: readonly number[], loops: readonly { delay: number; smoothing: number }[]): number[] {
  const jumps = new Map<string, number>();
  let current = starts.map((time) => ({ time, order: 0 }));
  while (current.length > 0 && jumps.size < mostKinks) {
    const next: typeof current = [];
    for (const { time, order } of current.sort((a, b) => a.time - b.time)) {
      const key = time.toPrecision(12);
      if (jumps.has(key) || jumps.size >= mostKinks) continue;
      jumps.set(key, time);
      for (const { delay, smoothing } of loops) {
        if (order + smoothing <= smoothEnough) next.push({ time: time + delay, order: order + smoothing });
      }
    }
    current = next;
  }
  return [...jumps.values()].filter((time) => time > 0).sort((a, b) => a - b);
}
