import { Jets, type Motion } from './motion.js';

/** A motion times a factor, shifted to begin later. */
export interface ShiftedMotion {
  readonly motion: Motion;
  readonly factor: number;
  readonly from: number;
}

/** The sum of motions that begin at different times, and a constant. */
export class Superposition implements Motion {
  private jets?: Jets;
  readonly breaks: number[];

  constructor(
    private readonly parts: readonly ShiftedMotion[],
    private readonly level = 0,
  ) {
    const times = parts.flatMap(({ motion, from }) => [from, ...(motion.breaks ?? []).map((time) => from + time)]);
    this.breaks = [...new Set(times)].filter((time) => time > 0).sort((a, b) => a - b);
  }

  at(time: number): number {
    let sum = this.level;
    for (const { motion, factor, from } of this.parts) if (time >= from) sum += factor * motion.at(time - from);
    return sum;
  }

  jet(time: number, into: Float64Array): void {
    this.jets ??= new Jets(this);
    this.jets.write(time, into);
  }

  derivative(): Motion {
    return new Superposition(this.parts.map((part) => ({ ...part, motion: part.motion.derivative() })));
  }

  step(time: number, floor: number): number {
    let shortest = Infinity;
    for (const { motion, factor, from } of this.parts) {
      shortest = Math.min(shortest, time < from ? from - time : motion.step(time - from, floor / Math.abs(factor)));
    }
    return shortest;
  }

  remaining(time: number): number {
    let sum = 0;
    for (const { motion, factor, from } of this.parts) {
      if (time < from) return Infinity;
      sum += Math.abs(factor) * motion.remaining(time - from);
    }
    return sum;
  }
}
