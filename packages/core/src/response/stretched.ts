import type { Motion } from './motion.js';

/** A motion that was worked out in another unit of time: factor·of(t/unit). */
export class StretchedMotion implements Motion {
  constructor(
    private readonly motion: Motion,
    /** In seconds. */
    private readonly unit: number,
    private readonly factor = 1,
  ) {}

  at(time: number): number {
    return this.factor * this.motion.at(time / this.unit);
  }

  derivative(): Motion {
    return new StretchedMotion(this.motion.derivative(), this.unit, this.factor / this.unit);
  }

  jet(time: number, into: Float64Array): void {
    this.motion.jet(time / this.unit, into);
    into[0]! *= this.factor;
    into[1]! *= this.factor / this.unit;
    into[2]! *= this.factor / this.unit / this.unit;
  }

  step(time: number, floor: number): number {
    return this.unit * this.motion.step(time / this.unit, floor / Math.abs(this.factor));
  }

  remaining(time: number): number {
    return Math.abs(this.factor) * this.motion.remaining(time / this.unit);
  }

  get accuracy(): number {
    return Math.abs(this.factor) * (this.motion.accuracy ?? 0);
  }

  get breaks(): readonly number[] {
    return (this.motion.breaks ?? []).map((time) => time * this.unit);
  }
}
