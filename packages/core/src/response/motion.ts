/**
 * A response as a function of time, t ≥ 0, that can be evaluated anywhere and differentiated exactly.
 * `at(0)` is the value just after the input is applied.
 */
export interface Motion {
  at(time: number): number;
  derivative(): Motion;
  /** Time to the next sample: no extreme higher than `floor` hides between it and this one. */
  step(time: number, floor: number): number;
  /** Upper bound of everything that still moves after a time; infinite while something grows or is yet to come. */
  remaining(time: number): number;
  /** Largest error of a value, where it is more than rounding. */
  readonly accuracy?: number;
  /** Times, rising, at which the value or its slope may jump. */
  readonly breaks?: readonly number[];
}

/** One term of a motion for the choice of time steps: an exponential's rate and an upper bound of its size at t = 0. */
export interface Rate {
  readonly re: number;
  readonly im: number;
  readonly size: number;
  /** Power of t that multiplies the exponential. */
  readonly power: number;
}

const radiansPerStep = 0.4;

/** A fraction of a radian of the fastest term still above the floor. */
export function stepOf(rates: readonly Rate[], time: number, floor: number): number {
  let fastest = 0;
  let slowest = Infinity;
  for (const { re, im, power, size } of rates) {
    if (re === 0 && im === 0) continue;
    const speed = Math.hypot(re, im);
    if (speed < slowest) slowest = speed;
    if (
      speed > fastest &&
      size * (power === 0 || time === 0 ? 1 : Math.max(1, time ** power)) * Math.exp(re * time) > floor
    ) {
      fastest = speed;
    }
  }
  return radiansPerStep / (fastest || (Number.isFinite(slowest) ? slowest : 1));
}

/** Upper bound of all terms that decay or grow, at a time. */
export function remainingOf(rates: readonly Rate[], time: number): number {
  let sum = 0;
  for (const { re, im, power, size } of rates) {
    if (re === 0 && im === 0 && power === 0) continue;
    sum += size * (power === 0 ? 1 : time ** power) * Math.exp(re * time);
  }
  return sum;
}
