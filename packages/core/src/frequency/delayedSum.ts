import { Problem } from '../expression/problem.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficients } from '../rational/polynomial.js';
import { type Complex, magnitude, over } from '../system/complex.js';
import { inTimeUnit, timeUnitOf } from '../system/timeUnit.js';
import { type DelayedPolynomial, type Transfer } from '../system/transfer.js';

/** A sum of delayed polynomials in doubles, for evaluation on the imaginary axis. */
export class DelayedSumOnAxis {
  private readonly terms: readonly { delay: number; falling: readonly number[] }[];

  constructor(terms: readonly DelayedPolynomial[]) {
    this.terms = terms.map(({ delay, polynomial }) => ({
      delay: rationalToNumber(delay),
      falling: coefficients(polynomial),
    }));
  }

  at(omega: number): Complex {
    let sumRe = 0;
    let sumIm = 0;
    for (const { delay, falling } of this.terms) {
      let re = 0;
      let im = 0;
      for (const c of falling) [re, im] = [c - im * omega, re * omega];
      const cos = Math.cos(omega * delay);
      const sin = -Math.sin(omega * delay);
      sumRe += re * cos - im * sin;
      sumIm += re * sin + im * cos;
    }
    return { re: sumRe, im: sumIm };
  }

  /** Upper bound of the derivative by ω, up to `omega`. */
  slopeBound(omega: number): number {
    let sum = 0;
    for (const { delay, falling } of this.terms) {
      let value = 0;
      let slope = 0;
      for (const c of falling) [value, slope] = [value * omega + Math.abs(c), slope * omega + value];
      sum += slope + delay * value;
    }
    return sum;
  }

  /** Upper bound of the size up to `omega`, without the first term. */
  restBound(omega: number): number {
    let sum = 0;
    for (const { falling } of this.terms.slice(1)) {
      let value = 0;
      for (const c of falling) value = value * omega + Math.abs(c);
      sum += value;
    }
    return sum;
  }

  firstSize(omega: number): number {
    let re = 0;
    let im = 0;
    for (const c of this.terms[0]!.falling) [re, im] = [c - im * omega, re * omega];
    return Math.hypot(re, im);
  }

  get longestDelay(): number {
    return Math.max(...this.terms.map(({ delay }) => delay));
  }
}

/** Steps by which a phase is followed, at most. */
const mostSteps = 100_000;

/** A transfer with dead times in loops or sums; the phase is followed from ω = 0 in small steps. */
export class DelayedSum {
  private readonly above: DelayedSumOnAxis;
  private readonly below: DelayedSumOnAxis;
  /** Followed so far: frequencies rising, phases continuous. */
  private readonly omegas: number[] = [];
  private readonly phases: number[] = [];

  /** In seconds; frequencies within are those of this unit. */
  private readonly unit: number;

  constructor(written: Transfer) {
    this.unit = timeUnitOf([...written.numerator, ...written.denominator]);
    const transfer = inTimeUnit(written, this.unit);
    this.above = new DelayedSumOnAxis(transfer.numerator);
    this.below = new DelayedSumOnAxis(transfer.denominator);
  }

  value(omega: number): Complex {
    return this.valueInUnit(omega * this.unit);
  }

  private valueInUnit(omega: number): Complex {
    return over(this.above.at(omega), this.below.at(omega));
  }

  logMagnitude(omega: number): number {
    return Math.log(magnitude(this.value(omega)));
  }

  phase(frequency: number): number {
    const omega = frequency * this.unit;
    if (this.omegas.length === 0) {
      const start = Math.min(omega, 1e-6) || 1e-6;
      this.omegas.push(start);
      this.phases.push(this.angle(start));
    }
    let last = this.omegas.length - 1;
    while (last > 0 && this.omegas[last]! > omega) last -= 1;
    let at = this.omegas[last]!;
    let phase = this.phases[last]!;
    while (at < omega) {
      const next = Math.min(omega, this.safeStep(at));
      phase += wrapped(this.angle(next) - phase);
      at = next;
      if (at > this.omegas[this.omegas.length - 1]!) {
        if (this.omegas.length > mostSteps) {
          throw new Problem('work', 'Its phase turns too often up to this frequency to be followed.');
        }
        this.omegas.push(at);
        this.phases.push(phase);
      }
    }
    return at === omega ? phase : this.angle(omega);
  }

  /** The largest step within which neither sum can turn by more than a quarter of π. */
  private safeStep(omega: number): number {
    let reach = Math.max(0.5 * omega, 1e-6);
    for (let halvings = 0; halvings < 30; halvings++, reach /= 2) {
      const safe = [this.above, this.below].every(
        (part) => part.slopeBound(omega + reach) * reach < 0.7 * magnitude(part.at(omega)),
      );
      if (safe) break;
    }
    return omega + reach;
  }

  private angle(omega: number): number {
    const { re, im } = this.valueInUnit(omega);
    return Math.atan2(im, re);
  }
}

/** An angle moved into (−π, π]. */
export function wrapped(angle: number): number {
  const rest = angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));
  return rest <= -Math.PI ? rest + 2 * Math.PI : rest;
}
