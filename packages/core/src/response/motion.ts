/** One term of a motion for the choice of time steps: an exponential's rate and an upper bound of its size at t = 0. */
export interface Rate {
  readonly re: number;
  readonly im: number;
  readonly size: number;
  /** Power of t that multiplies the exponential. */
  readonly power: number;
}

/**
 * A response as a function of time, t ≥ 0, that can be evaluated anywhere and differentiated exactly.
 * `at(0)` is the value just after the input is applied.
 */
export interface Motion {
  at(time: number): number;
  derivative(): Motion;
  readonly rates: readonly Rate[];
}
