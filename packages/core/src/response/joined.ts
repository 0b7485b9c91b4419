import { Jets, type Motion } from './motion.js';
import { PiecewiseMotion, type PolynomialPiece } from './piecewise.js';

/** A motion of pieces up to a time, and another from there on. */
export class JoinedMotion implements Motion {
  private readonly before: Motion;
  readonly accuracy: number;
  private jets?: Jets;

  constructor(
    private readonly pieces: readonly PolynomialPiece[],
    private readonly from: number,
    private readonly after: Motion,
    private readonly order = 0,
  ) {
    this.before = new PiecewiseMotion(
      { pieces: pieces.filter((piece) => piece.from < from), reach: () => undefined },
      order,
    );
    // Events are located, and steps made, a little better than this.
    this.accuracy = 1e-10 * pieces.reduce((most, { powers }) => Math.max(most, Math.abs(powers[0]!)), 0);
  }

  at(time: number): number {
    return time < this.from ? this.before.at(time) : this.after.at(time - this.from);
  }

  derivative(): Motion {
    return new JoinedMotion(this.pieces, this.from, this.after.derivative(), this.order + 1);
  }

  jet(time: number, into: Float64Array): void {
    this.jets ??= new Jets(this);
    this.jets.write(time, into);
  }

  step(time: number, floor: number): number {
    if (time >= this.from) return this.after.step(time - this.from, floor);
    return Math.min(this.before.step(time, floor), this.from - time);
  }

  remaining(time: number): number {
    if (time >= this.from) return this.after.remaining(time - this.from);
    return this.before.remaining(time) + this.after.remaining(0);
  }

  get breaks(): readonly number[] {
    return [...(this.before.breaks ?? []), this.from];
  }
}

/** A motion that rests. */
export function constantMotion(value: number): Motion {
  const motion: Motion = {
    at: () => value,
    derivative: () => constantMotion(0),
    jet: (_time, into) => into.set([value, 0, 0]),
    step: () => 1,
    remaining: () => 0,
  };
  return motion;
}
