import { type Complex, complex, magnitude, plus, times } from '../system/complex.js';
import { partialFractions } from '../system/partialFractions.js';
import type { Root } from '../system/roots.js';
import { type Motion, Pace, type Rate, remainingOf } from './motion.js';

/** c·t^power/power!·e^(pole·t); of a conjugate pair only the upper half is kept, `weight` 2. */
interface Mode {
  readonly pole: Complex;
  readonly power: number;
  readonly c: Complex;
  readonly weight: 1 | 2;
}

/**
 * The time function of gain·Π(s − zero)/Π(s − pole), strictly proper, as a sum of modes; `error` estimates how much
 * rounding it can carry (absolute), which is large near repeated poles.
 */
export function modalMotion(
  gain: number,
  zeros: readonly Root[],
  poles: readonly Root[],
): { motion: Motion; error: number } {
  const { terms, error } = partialFractions({ gain, zeros, poles });
  const modes = terms.map(({ pole, power, residue }): Mode => {
    return { pole, power: power - 1, c: residue, weight: pole.im > 0 ? 2 : 1 };
  });
  return { motion: new ModalMotion(modes), error };
}

class ModalMotion implements Motion {
  private readonly table: Float64Array;
  private known: { rates?: readonly Rate[]; pace?: Pace; slope?: ModalMotion } = {};

  constructor(private readonly modes: readonly Mode[]) {
    this.table = new Float64Array(modes.length * 5);
    modes.forEach(({ pole, power, c, weight }, k) => {
      let factorial = 1;
      for (let i = 2; i <= power; i++) factorial *= i;
      this.table.set([pole.re, pole.im, power, (weight * c.re) / factorial, (weight * c.im) / factorial], 5 * k);
    });
  }

  at(time: number): number {
    const table = this.table;
    let sum = 0;
    for (let k = 0; k < table.length; k += 5) {
      const im = table[k + 1]!;
      const power = table[k + 2]!;
      let term = table[k + 3]!;
      if (im !== 0) term = term * Math.cos(im * time) - table[k + 4]! * Math.sin(im * time);
      if (power > 0) term *= time ** power;
      const re = table[k]!;
      sum += re === 0 ? term : term * Math.exp(re * time);
    }
    return sum;
  }

  jet(time: number, into: Float64Array): void {
    const first = this.derivative();
    const [a, b, c] = [this.table, first.table, first.derivative().table];
    let [value, slope, curvature] = [0, 0, 0];
    for (let k = 0; k < a.length; k += 5) {
      const re = a[k]!;
      const im = a[k + 1]!;
      const power = a[k + 2]!;
      let size = re === 0 ? 1 : Math.exp(re * time);
      if (power > 0) size *= time ** power;
      if (im === 0) {
        value += size * a[k + 3]!;
        slope += size * b[k + 3]!;
        curvature += size * c[k + 3]!;
        continue;
      }
      const x = size * Math.cos(im * time);
      const y = size * Math.sin(im * time);
      value += a[k + 3]! * x - a[k + 4]! * y;
      slope += b[k + 3]! * x - b[k + 4]! * y;
      curvature += c[k + 3]! * x - c[k + 4]! * y;
    }
    into[0] = value;
    into[1] = slope;
    into[2] = curvature;
  }

  derivative(): ModalMotion {
    return (this.known.slope ??= this.findSlope());
  }

  step(time: number, floor: number): number {
    this.known.pace ??= new Pace(this.rates);
    return this.known.pace.step(time, floor);
  }

  remaining(time: number): number {
    return remainingOf(this.rates, time);
  }

  private findSlope(): ModalMotion {
    return new ModalMotion(
      this.modes.map((mode, k) => {
        const next = this.modes[k - 1];
        const raised = next?.pole === mode.pole && next.power === mode.power + 1 ? next.c : complex(0);
        return { ...mode, c: plus(times(mode.pole, mode.c), raised) };
      }),
    );
  }

  private get rates(): readonly Rate[] {
    return (this.known.rates ??= this.modes.map(({ pole, power, c, weight }) => {
      let factorial = 1;
      for (let i = 2; i <= power; i++) factorial *= i;
      return { re: pole.re, im: pole.im, power, size: (weight * magnitude(c)) / factorial };
    }));
  }
}
