import type { Motion } from './motion.js';

/** Samples of a response for drawing: times and values of equal length, times rising. */
export interface Curve {
  readonly times: Float64Array;
  readonly values: Float64Array;
}

const mostPoints = 2000;

/**
 * Samples a motion from 0 to `until` for drawing: close enough together for the fastest term that still matters, then
 * halved where the curve leaves its chord by more than `tolerance`. Values beyond ±1e6 end the curve.
 */
export function curveOf(motion: Motion, until: number, tolerance: number): Curve {
  const times: number[] = [];
  const values: number[] = [];
  const longest = until / 60;
  const shortest = until / 1200;
  let time = 0;
  let value = motion.at(0);
  times.push(0);
  values.push(value);
  while (time < until && times.length < mostPoints && Math.abs(value) < 1e6) {
    const step = Math.min(Math.max(motion.step(time, tolerance), shortest), longest);
    const next = Math.min(until, time + step);
    const nextValue = motion.at(next);
    refineChord(motion, time, value, next, nextValue, tolerance, 5, times, values);
    times.push(next);
    values.push(nextValue);
    time = next;
    value = nextValue;
  }
  return { times: Float64Array.from(times), values: Float64Array.from(values) };
}

function refineChord(
  motion: Motion,
  a: number,
  fa: number,
  b: number,
  fb: number,
  tolerance: number,
  depth: number,
  times: number[],
  values: number[],
): void {
  if (depth === 0 || times.length >= mostPoints) return;
  const middle = (a + b) / 2;
  const value = motion.at(middle);
  if (Math.abs(value - (fa + fb) / 2) <= tolerance) return;
  refineChord(motion, a, fa, middle, value, tolerance, depth - 1, times, values);
  times.push(middle);
  values.push(value);
  refineChord(motion, middle, value, b, fb, tolerance, depth - 1, times, values);
}

/**
 * Largest distance between two step responses over a time, as a share of the larger final value (or of 1).
 */
export function curveDistance(left: Motion, right: Motion, until: number, scale: number): number {
  let largest = 0;
  for (let k = 0; k <= 400; k++) {
    const time = (until * k) / 400;
    largest = Math.max(largest, Math.abs(left.at(time) - right.at(time)));
  }
  return largest / (Math.abs(scale) || 1);
}
