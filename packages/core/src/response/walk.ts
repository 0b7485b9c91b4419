import type { Motion } from './motion.js';

/** A stretch of time on which the motion only rises or only falls. */
export interface Piece {
  readonly from: number;
  readonly to: number;
  readonly fromValue: number;
  readonly toValue: number;
}

const longestWalk = 400_000;

/**
 * Cuts a motion into monotone pieces from t = 0 until `enough` says so after a step; a jump is a piece without length.
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
  const breaks = (motion.breaks ?? []).filter((time) => time > 0);
  let upcoming = 0;
  let time = 0;
  let start = 0;
  let startValue = motion.at(0);
  let here = slope.at(0);
  let bend = curvature.at(0);
  for (let step = 0; step < longestWalk; step++) {
    let next = time + motion.step(time, floor);
    const atBreak = upcoming < breaks.length && next >= breaks[upcoming]!;
    if (atBreak) next = breaks[upcoming++]!;
    const end = atBreak ? before(next) : next;
    const there = slope.at(end);
    const bendThere = curvature.at(end);
    for (const turn of turnsBetween(slope, curvature, time, end, here, there, bend, bendThere)) {
      const value = motion.at(turn);
      yield { from: start, to: turn, fromValue: startValue, toValue: value };
      start = turn;
      startValue = value;
    }
    [time, here, bend] = [next, there, bendThere];
    if (atBreak) {
      const [left, right] = [motion.at(end), motion.at(next)];
      yield { from: start, to: next, fromValue: startValue, toValue: left };
      if (left !== right) yield { from: next, to: next, fromValue: left, toValue: right };
      [start, startValue, here, bend] = [next, right, slope.at(next), curvature.at(next)];
    }
    if (enough(time)) break;
  }
  yield { from: start, to: time, fromValue: startValue, toValue: motion.at(time) };
}

/** The last double before a positive time. */
export const before = (time: number): number => time * (1 - Number.EPSILON / 2);

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
  if (fb === 0 || a === b) return b;
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
