import type { Motion } from './motion.js';

/** A motion that was worked out in another unit of time: factor·of(t/unit). */
export class StretchedMotion implements Motion {
  constructor(
    private readonly of: Motion,
    /** In seconds. */
    private readonly unit: number,
    private readonly factor = 1,
  ) {}

  at(time: number): number {
    return this.factor * this.of.at(time / this.unit);
  }

  derivative(): Motion {
    return new StretchedMotion(this.of.derivative(), this.unit, this.factor / this.unit);
  }

  jet(time: number, into: Float64Array): void {
    this.of.jet(time / this.unit, into);
    into[0]! *= this.factor;
    into[1]! *= this.factor / this.unit;
    into[2]! *= this.factor / this.unit / this.unit;
  }

  step(time: number, floor: number): number {
    return this.unit * this.of.step(time / this.unit, floor / Math.abs(this.factor));
  }

  remaining(time: number): number {
    return Math.abs(this.factor) * this.of.remaining(time / this.unit);
  }

  get accuracy(): number {
    return Math.abs(this.factor) * (this.of.accuracy ?? 0);
  }

  get breaks(): readonly number[] {
    return (this.of.breaks ?? []).map((time) => time * this.unit);
  }
}
