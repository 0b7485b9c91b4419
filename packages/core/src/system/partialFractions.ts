import { type Complex, complex, magnitude, minus, over, plus, times } from './complex.js';
import type { Root } from './roots.js';

/** residue/(s − pole)^power. */
export interface PartialFraction<Pole extends Root = Root> {
  readonly pole: Pole;
  readonly power: number;
  readonly residue: Complex;
}

/**
 * Partial fractions of gain·Π(s − zero)/Π(s − pole), with `direct` what is left at high frequency; the fraction must
 * be proper. Terms come pole by pole, of falling power; of a conjugate pair only the upper half is given.
 * `error` estimates how much rounding the time function can carry (absolute); it is large near repeated poles.
 * Method: Taylor series of the remaining factors at each pole.
 */
export function partialFractions<Pole extends Root>({
  gain,
  zeros,
  poles,
}: {
  readonly gain: number;
  readonly zeros: readonly Root[];
  readonly poles: readonly Pole[];
}): { terms: PartialFraction<Pole>[]; direct: number; error: number } {
  const terms: PartialFraction<Pole>[] = [];
  let error = 0;
  for (const pole of poles) {
    if (pole.im < 0) continue;
    const m = pole.multiplicity;
    if (m === 1) {
      const { residue, closest } = simpleResidue(gain, zeros, poles, pole);
      terms.push({ pole, power: 1, residue });
      const shift = closest === Infinity ? 1 : 1 + magnitude(pole) / closest;
      error += (pole.im > 0 ? 2 : 1) * magnitude(residue) * shift * Number.EPSILON;
      continue;
    }
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
    series.forEach((residue, k) => terms.push({ pole, power: m - k, residue }));
    const shift = closest === Infinity ? 1 : 1 + (magnitude(pole) / closest) * m;
    error += (pole.im > 0 ? 2 : 1) * Math.max(...series.map(magnitude)) * shift * Number.EPSILON;
  }
  const order = (roots: readonly Root[]): number => roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  return { terms, direct: order(zeros) === order(poles) ? gain : 0, error };
}

/** The residue at a simple pole, and the distance to the pole nearest to it. */
function simpleResidue(
  gain: number,
  zeros: readonly Root[],
  poles: readonly Root[],
  pole: Root,
): { residue: Complex; closest: number } {
  let [aboveRe, aboveIm, belowRe, belowIm] = [gain, 0, 1, 0];
  let nearest = Infinity;
  for (const { re, im, multiplicity } of zeros) {
    const dx = pole.re - re;
    const dy = pole.im - im;
    for (let k = 0; k < multiplicity; k++) {
      const x = aboveRe * dx - aboveIm * dy;
      aboveIm = aboveRe * dy + aboveIm * dx;
      aboveRe = x;
    }
  }
  for (const other of poles) {
    if (other === pole) continue;
    const dx = pole.re - other.re;
    const dy = pole.im - other.im;
    nearest = Math.min(nearest, dx * dx + dy * dy);
    for (let k = 0; k < other.multiplicity; k++) {
      const x = belowRe * dx - belowIm * dy;
      belowIm = belowRe * dy + belowIm * dx;
      belowRe = x;
    }
  }
  const residue = over({ re: aboveRe, im: aboveIm }, { re: belowRe, im: belowIm });
  return { residue, closest: Math.sqrt(nearest) };
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
