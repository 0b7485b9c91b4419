import type { Motion, Rate } from './motion.js';

/** A stretch of time on which the motion only rises or only falls. */
export interface Piece {
  readonly from: number;
  readonly to: number;
  readonly fromValue: number;
  readonly toValue: number;
}

const radiansPerStep = 0.4;
const longestWalk = 400_000;

/** Upper bound of all terms that decay or grow, at a time. */
export function envelope(rates: readonly Rate[], time: number): number {
  let sum = 0;
  for (const { re, im, power, size } of rates) {
    if (re === 0 && im === 0 && power === 0) continue;
    sum += size * time ** power * Math.exp(re * time);
  }
  return sum;
}

/**
 * Cuts a motion into monotone pieces from t = 0 until `enough` says so after a step.
 * No extreme is missed: steps are a fraction of a radian of the fastest term that still matters (above `floor`), and
 * inside a step the derivative's own extreme is checked for a double crossing.
 */
export function* monotonePieces(
  motion: Motion,
  floor: number,
  enough: (time: number) => boolean,
): Generator<Piece, void, undefined> {
  const slope = motion.derivative();
  const curvature = slope.derivative();
  const rates = motion.rates.filter((r) => r.re !== 0 || r.im !== 0);
  let time = 0;
  let start = 0;
  let startValue = motion.at(0);
  let here = slope.at(0);
  let bend = curvature.at(0);
  for (let step = 0; step < longestWalk; step++) {
    const next = time + stepAt(rates, time, floor);
    const there = slope.at(next);
    const bendThere = curvature.at(next);
    for (const turn of turnsBetween(slope, curvature, time, next, here, there, bend, bendThere)) {
      const value = motion.at(turn);
      yield { from: start, to: turn, fromValue: startValue, toValue: value };
      start = turn;
      startValue = value;
    }
    [time, here, bend] = [next, there, bendThere];
    if (enough(time)) break;
  }
  yield { from: start, to: time, fromValue: startValue, toValue: motion.at(time) };
}

/** Time to the next sample: a fraction of a radian of the fastest term still above the floor. */
export function stepAt(rates: readonly Rate[], time: number, floor: number): number {
  let fastest = 0;
  let slowest = Infinity;
  for (const { re, im, power, size } of rates) {
    const speed = Math.hypot(re, im);
    if (speed < slowest) slowest = speed;
    if (speed > fastest && size * (time === 0 ? 1 : Math.max(1, time ** power)) * Math.exp(re * time) > floor) {
      fastest = speed;
    }
  }
  return radiansPerStep / (fastest || (Number.isFinite(slowest) ? slowest : 1));
}

function turnsBetween(
  slope: Motion,
  curvature: Motion,
  a: number,
  b: number,
  slopeA: number,
  slopeB: number,
  bendA: number,
  bendB: number,
): number[] {
  if (slopeA * slopeB < 0) return [crossing((t) => slope.at(t), a, b)];
  if (bendA * bendB < 0 && slopeA * bendA < 0) {
    const middle = crossing((t) => curvature.at(t), a, b);
    if (slope.at(middle) * slopeA < 0) {
      return [crossing((t) => slope.at(t), a, middle), crossing((t) => slope.at(t), middle, b)];
    }
  }
  return [];
}

/**
 * The zero of a continuous function between two points of opposite sign, to the last bits of a double.
 * Method: regula falsi with the Illinois weights, bisection when it stalls.
 */
export function crossing(f: (x: number) => number, from: number, to: number): number {
  let a = from;
  let b = to;
  let fa = f(a);
  let fb = f(b);
  if (fa === 0) return a;
  if (fb === 0) return b;
  for (let k = 0; k < 200; k++) {
    const width = b - a;
    let x = b - (fb * width) / (fb - fa);
    if (k % 6 === 5 || !(x > a && x < b)) x = a + width / 2;
    if (x <= a || x >= b || width <= 4 * Number.EPSILON * Math.abs(b)) return x;
    const fx = f(x);
    if (fx === 0) return x;
    if (fx > 0 === fb > 0) {
      [b, fb] = [x, fx];
      fa /= 2;
    } else {
      [a, fa] = [x, fx];
      fb /= 2;
    }
    if (b - a < 1e-15 * Math.abs(b)) break;
  }
  return (a + b) / 2;
}
