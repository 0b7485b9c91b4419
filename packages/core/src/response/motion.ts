/**
 * A response as a function of time, t ≥ 0, that can be evaluated anywhere and differentiated exactly.
 * `at(0)` is the value just after the input is applied.
 */
export interface Motion {
  at(time: number): number;
  derivative(): Motion;
  /** Writes value, slope and curvature at a time. */
  jet(time: number, into: Float64Array): void;
  /** Time to the next sample: no extreme higher than `floor` hides between it and this one. */
  step(time: number, floor: number): number;
  /** Upper bound, never rising, of everything that still moves after a time; infinite while something is yet to come. */
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

const radiansPerStep = 0.6;

/** The rates of what moves, fastest first, so that steps are found at once. */
export class Pace {
  private readonly speeds: Float64Array;
  private readonly moving: readonly Rate[];
  private readonly logSizes: Float64Array;

  constructor(rates: readonly Rate[]) {
    this.moving = rates
      .filter(({ re, im }) => re !== 0 || im !== 0)
      .sort((a, b) => b.re * b.re + b.im * b.im - a.re * a.re - a.im * a.im);
    this.speeds = Float64Array.from(this.moving, ({ re, im }) => Math.hypot(re, im));
    this.logSizes = Float64Array.from(this.moving, ({ size }) => Math.log(size));
  }

  /** A fraction of a radian of the fastest term still above the floor. */
  step(time: number, floor: number): number {
    const { moving, speeds, logSizes } = this;
    const least = Math.log(floor);
    for (let k = 0; k < moving.length; k++) {
      const { re, power } = moving[k]!;
      // t^power·e^(re·t) may still have its largest value, at power/|re|, before it.
      const at = power > 0 ? Math.max(time, (re < 0 ? -power / re : 0) || radiansPerStep / speeds[k]!) : time;
      const raised = power > 0 ? power * Math.log(at) : 0;
      if (logSizes[k]! + re * at + raised > least) return radiansPerStep / speeds[k]!;
    }
    return radiansPerStep / (speeds[speeds.length - 1] ?? 1);
  }
}

/** Upper bound of all terms that decay, at a time and after; infinite when one does not. */
export function remainingOf(rates: readonly Rate[], time: number): number {
  let sum = 0;
  for (const { re, im, power, size } of rates) {
    if (re === 0 && im === 0 && power === 0) continue;
    if (re >= 0 && size > 0) return Infinity;
    // t^power·e^(re·t) is largest at power/|re|.
    const at = power === 0 ? time : Math.max(time, -power / re);
    sum += size * (power === 0 ? 1 : at ** power) * Math.exp(re * at);
  }
  return sum;
}

/** Value, slope and curvature by the derivatives, for motions that have nothing quicker. */
export class Jets {
  private readonly slope: Motion;
  private readonly curvature: Motion;

  constructor(private readonly motion: Motion) {
    this.slope = motion.derivative();
    this.curvature = this.slope.derivative();
  }

  write(time: number, into: Float64Array): void {
    into[0] = this.motion.at(time);
    into[1] = this.slope.at(time);
    into[2] = this.curvature.at(time);
  }
}
