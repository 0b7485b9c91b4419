import { type Complex, complex, magnitude, minus, over, plus, times } from '../system/complex.js';
import type { Root } from '../system/roots.js';
import type { Motion, Rate } from './motion.js';

/** c·t^power/power!·e^(pole·t); of a conjugate pair only the upper half is kept, `weight` 2. */
interface Mode {
  readonly pole: Complex;
  readonly power: number;
  readonly c: Complex;
  readonly weight: 1 | 2;
}

/**
 * Partial fractions of gain·Π(s − zero)/Π(s − pole) as modes of the time function.
 * `error` estimates how much rounding the sum of the modes can carry (absolute); it is large near repeated poles.
 * The fraction must be strictly proper. Method: Taylor series of the remaining factors at each pole.
 */
export function modalMotion(
  gain: number,
  zeros: readonly Root[],
  poles: readonly Root[],
): { motion: Motion; error: number } {
  const modes: Mode[] = [];
  let error = 0;
  for (const pole of poles) {
    if (pole.im < 0) continue;
    const m = pole.multiplicity;
    let series: Complex[] = [complex(gain), ...Array.from({ length: m - 1 }, () => complex(0))];
    let closest = Infinity;
    for (const zero of zeros) {
      for (let k = 0; k < zero.multiplicity; k++) series = timesFactor(series, minus(pole, zero));
    }
    for (const other of poles) {
      if (other === pole) continue;
      const distance = minus(pole, other);
      closest = Math.min(closest, magnitude(distance));
      for (let k = 0; k < other.multiplicity; k++) series = overFactor(series, distance);
    }
    const weight = pole.im > 0 ? 2 : 1;
    series.forEach((c, k) => modes.push({ pole, power: m - 1 - k, c, weight }));
    const shift = closest === Infinity ? 1 : 1 + (magnitude(pole) / closest) * m;
    error += weight * Math.max(...series.map(magnitude)) * shift * Number.EPSILON;
  }
  return { motion: new ModalMotion(modes), error };
}

/** Series times (distance + x), cut to its length. */
function timesFactor(series: readonly Complex[], distance: Complex): Complex[] {
  return series.map((c, k) => (k === 0 ? times(c, distance) : plus(times(c, distance), series[k - 1]!)));
}

/** Series over (distance + x), cut to its length. */
function overFactor(series: readonly Complex[], distance: Complex): Complex[] {
  const result: Complex[] = [];
  series.forEach((c, k) => result.push(over(k === 0 ? c : minus(c, result[k - 1]!), distance)));
  return result;
}

class ModalMotion implements Motion {
  private readonly table: Float64Array;

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

  derivative(): Motion {
    return new ModalMotion(
      this.modes.map((mode, k) => {
        const next = this.modes[k - 1];
        const raised = next?.pole === mode.pole && next.power === mode.power + 1 ? next.c : complex(0);
        return { ...mode, c: plus(times(mode.pole, mode.c), raised) };
      }),
    );
  }

  get rates(): Rate[] {
    return this.modes.map(({ pole, power, c, weight }) => {
      let factorial = 1;
      for (let i = 2; i <= power; i++) factorial *= i;
      return { re: pole.re, im: pole.im, power, size: (weight * magnitude(c)) / factorial };
    });
  }
}
