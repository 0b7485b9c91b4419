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
  const turns = new Turns(motion);
  const breaks = (motion.breaks ?? []).filter((time) => time > 0);
  let upcoming = 0;
  let time = 0;
  let start = 0;
  let here = turns.jetAt(0);
  let there: Float64Array = new Float64Array(3);
  let startValue = here[0]!;
  for (let step = 0; step < longestWalk; step++) {
    let next = time + motion.step(time, floor);
    const atBreak = upcoming < breaks.length && next >= breaks[upcoming]!;
    if (atBreak) next = breaks[upcoming++]!;
    const end = atBreak ? before(next) : next;
    turns.jetAt(end, there);
    for (const turn of turns.between(time, end, here, there)) {
      const value = motion.at(turn);
      yield { from: start, to: turn, fromValue: startValue, toValue: value };
      start = turn;
      startValue = value;
    }
    time = next;
    const old = here;
    here = there;
    there = old;
    if (atBreak) {
      const left = here[0]!;
      turns.jetAt(next, here);
      yield { from: start, to: next, fromValue: startValue, toValue: left };
      if (left !== here[0]) yield { from: next, to: next, fromValue: left, toValue: here[0]! };
      start = next;
      startValue = here[0]!;
    }
    if (enough(time)) break;
  }
  yield { from: start, to: time, fromValue: startValue, toValue: here[0]! };
}

/** The lowest and the highest value of a motion that comes to rest, but for what is below `floor`. */
export function rangeOf(motion: Motion, floor: number): { low: number; high: number } {
  const least = Math.max(floor, 4 * (motion.accuracy ?? 0));
  let [low, high] = [Infinity, -Infinity];
  for (const { fromValue, toValue } of monotonePieces(motion, least, (time) => motion.remaining(time) < least)) {
    low = Math.min(low, fromValue, toValue);
    high = Math.max(high, fromValue, toValue);
  }
  return { low, high };
}

/**
 * The last time at which a motion leaves or enters the band around a level, searched backwards from a time after which
 * it stays inside; 0 when it is never outside.
 */
export function lastOutside(motion: Motion, level: number, band: number, from: number, floor: number): number {
  const turns = new Turns(motion);
  const breaks = (motion.breaks ?? []).filter((time) => time > 0 && time < from);
  const isOutside = (value: number): boolean => Math.abs(value - level) > band;
  const entry = (outside: number, value: number, inside: number): number => {
    const edge = level + Math.sign(value - level) * band;
    return levelCrossing(motion, edge, outside, inside);
  };
  let time = from;
  let there = turns.jetAt(time);
  let here: Float64Array = new Float64Array(3);
  for (let step = 0; step < longestWalk && time > 0; step++) {
    let length = motion.step(time, floor);
    length = Math.min(length, motion.step(Math.max(0, time - length), floor));
    let back = Math.max(0, time - length);
    const brake = breaks[breaks.length - 1];
    const atBreak = brake !== undefined && back <= brake;
    if (atBreak) back = breaks.pop()!;
    turns.jetAt(back, here);
    let later = time;
    for (const turn of turns.between(back, time, here, there).reverse()) {
      const value = motion.at(turn);
      if (isOutside(value)) return entry(turn, value, later);
      later = turn;
    }
    if (isOutside(here[0]!)) return entry(back, here[0]!, later);
    time = back;
    const old = there;
    there = here;
    here = old;
    if (atBreak) {
      // Just before a jump the motion may be outside although it is inside right after.
      time = before(back);
      turns.jetAt(time, there);
      if (isOutside(there[0]!)) return back;
    }
  }
  return 0;
}

/**
 * Where a motion passes a level inside a piece on which it only rises or only falls; the nearer end when it does not.
 * Method: Newton from the chord, kept inside the bracket by bisection.
 */
export function levelCrossing(motion: Motion, level: number, from: number, to: number): number {
  const fromValue = motion.at(from) - level;
  const toValue = motion.at(to) - level;
  if (fromValue === 0 || toValue === 0 || from === to) return toValue === 0 ? to : from;
  if (fromValue > 0 === toValue > 0) return Math.abs(fromValue) < Math.abs(toValue) ? from : to;
  let [a, b] = [from, to];
  let time = from - (fromValue * (to - from)) / (toValue - fromValue);
  for (let round = 0; round < 100; round++) {
    motion.jet(time, levelJet);
    const value = levelJet[0]! - level;
    if (value === 0) return time;
    if (value > 0 === fromValue > 0) a = time;
    else b = time;
    let next = time - value / levelJet[1]!;
    if (!(next > a && next < b)) next = (a + b) / 2;
    if (Math.abs(next - time) <= 2 * Number.EPSILON * Math.abs(time) || next <= a || next >= b) return next;
    time = next;
  }
  return time;
}

const levelJet = new Float64Array(3);

/** The last double before a positive time. */
export const before = (time: number): number => time * (1 - Number.EPSILON / 2);

/** Finds the extremes of a motion within a step that is short against its fastest term. */
class Turns {
  private readonly slope: Motion;
  private readonly curvature: Motion;

  private readonly scratch = new Float64Array(3);

  constructor(private readonly motion: Motion) {
    this.slope = motion.derivative();
    this.curvature = this.slope.derivative();
  }

  /** Value, slope and curvature. */
  jetAt(time: number, into: Float64Array = new Float64Array(3)): Float64Array {
    this.motion.jet(time, into);
    return into;
  }

  /** Times, rising, at which the motion turns between two jets. */
  between(a: number, b: number, here: Float64Array, there: Float64Array): number[] {
    if (here[1]! * there[1]! < 0) return [this.turn(a, b, here[1]!)];
    if (here[2]! * there[2]! < 0 && here[1]! * here[2]! < 0) {
      const curvature = this.curvature;
      const middle = crossing((t) => curvature.at(t), a, b);
      if (this.slope.at(middle) * here[1]! < 0) {
        return [this.turn(a, middle, here[1]!), this.turn(middle, b, -here[1]!)];
      }
    }
    return [];
  }

  /** The zero of the slope. Method: Newton, kept inside the bracket by bisection. */
  private turn(from: number, to: number, slopeAtFrom: number): number {
    let [a, b] = [from, to];
    let time = (a + b) / 2;
    for (let round = 0; round < 100; round++) {
      this.motion.jet(time, this.scratch);
      const slope = this.scratch[1]!;
      if (slope === 0) return time;
      if (slope > 0 === slopeAtFrom > 0) a = time;
      else b = time;
      let next = time - slope / this.scratch[2]!;
      if (!(next > a && next < b)) next = (a + b) / 2;
      if (Math.abs(next - time) <= 2 * Number.EPSILON * Math.abs(time) || next <= a || next >= b) return next;
      time = next;
    }
    return time;
  }
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
