import { type Complex, complex, magnitude, minus, plus, times } from '../system/complex.js';
import type { Root } from '../system/roots.js';
import { powerOfTwo } from '../system/timeUnit.js';
import { Jets, type Motion, Pace, type Rate } from './motion.js';
import { StretchedMotion } from './stretched.js';

const taylorTerms = 18;

/**
 * The time function of gain·Π(s − zero)/Π(s − pole) without dividing by distances between poles, for poles that nearly
 * coincide. The fraction must be strictly proper.
 * Method: the numerator in Newton's form over the poles; the divided differences of e^(pt) are the first column of the
 * exponential of the bidiagonal matrix with the poles on its diagonal (Opitz 1964; McCurdy, Ng and Parlett 1984),
 * by scaling and squaring.
 */
export function dividedDifferenceMotion(gain: number, zeros: readonly Root[], poles: readonly Root[]): Motion {
  // In the unit of time in which the fastest pole is near 1, so that nothing depends on the scale of time.
  const rate = powerOfTwo(Math.max(...poles.map(magnitude)) || 1);
  const inUnit = (roots: readonly Root[]): Root[] =>
    roots.map(({ re, im, multiplicity }) => ({ re: re / rate, im: im / rate, multiplicity }));
  const count = (roots: readonly Root[]): number => roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  const factor = rate ** (count(zeros) - count(poles) + 1);
  return new StretchedMotion(motionInUnit(gain, inUnit(zeros), inUnit(poles)), 1 / rate, factor);
}

function motionInUnit(gain: number, zeros: readonly Root[], poles: readonly Root[]): Motion {
  const nodes = originFirst(inLejaOrder(spread(poles)));
  const n = nodes.length;
  // Newton's form by repeated factors: the value at a node times what follows, built up zero by zero.
  let newton: Complex[] = [complex(gain)];
  for (const zero of spread(zeros)) {
    const longer: Complex[] = Array.from({ length: newton.length + 1 }, () => complex(0));
    newton.forEach((c, k) => {
      // (s − zero) = (s − node_k from the end) + (node − zero)
      const node = nodes[n - 1 - k]!;
      longer[k + 1] = plus(longer[k + 1]!, c);
      longer[k] = plus(longer[k]!, times(c, minus(node, zero)));
    });
    newton = longer;
  }
  // Σ c_k Π_{last k nodes}(s − node) / Π all = Σ c_k / Π_{first n−k nodes}.
  const weights: Complex[] = Array.from({ length: n }, () => complex(0));
  newton.forEach((c, k) => (weights[n - 1 - k] = c));
  return new BidiagonalMotion(nodes, weights, new Exponentials(nodes));
}

const spread = (roots: readonly Root[]): Complex[] =>
  roots.flatMap((root) => Array.from({ length: root.multiplicity }, () => complex(root.re, root.im)));

/** Integrators in front, so that what follows them is known to settle. */
const originFirst = (nodes: readonly Complex[]): Complex[] => {
  const isOrigin = (node: Complex): boolean => node.re === 0 && node.im === 0;
  return [...nodes.filter(isOrigin), ...nodes.filter((node) => !isOrigin(node))];
};

/** Each node as far as possible from those before it, so that the divided differences grow slowly. */
function inLejaOrder(points: Complex[]): Complex[] {
  const rest = [...points].sort((a, b) => magnitude(b) - magnitude(a));
  const order: Complex[] = [];
  while (rest.length > 0) {
    let best = 0;
    let bestProduct = -Infinity;
    rest.forEach((point, k) => {
      const product = order.reduce((sum, other) => sum + Math.log(magnitude(minus(point, other)) + 1e-300), 0);
      if (product > bestProduct) [best, bestProduct] = [k, product];
    });
    order.push(rest.splice(order.length === 0 ? 0 : best, 1)[0]!);
  }
  return order;
}

/**
 * First column of e^(tB), B lower bidiagonal with the nodes on its diagonal and ones below it. The matrices
 * e^(h·2^k·B) are worked out once; a column for a time is what its binary digits make of them.
 */
class Exponentials {
  private readonly unit: number;
  private readonly powers: [Float64Array, Float64Array][] = [];

  constructor(private readonly nodes: readonly Complex[]) {
    this.unit = 0.5 / (Math.max(...nodes.map(magnitude)) + 1);
  }

  firstColumn(time: number): { re: Float64Array; im: Float64Array } {
    const n = this.nodes.length;
    const units = Math.floor(time / this.unit);
    const column = { re: new Float64Array(n), im: new Float64Array(n) };
    this.taylorColumn(0, time - units * this.unit, column.re, column.im, 1, 0);
    let left = units;
    for (let k = 0; left > 0; k++, left = Math.floor(left / 2)) {
      if (left % 2 === 1) applied(this.power(k), column.re, column.im);
    }
    return column;
  }

  /** e^(unit·2^k·B). */
  private power(k: number): [Float64Array, Float64Array] {
    const n = this.nodes.length;
    while (this.powers.length <= k) {
      const last = this.powers[this.powers.length - 1];
      if (last) {
        this.powers.push(squared(last[0], last[1], n));
        continue;
      }
      const re = new Float64Array(n * n);
      const im = new Float64Array(n * n);
      for (let j = 0; j < n; j++) this.taylorColumn(j, this.unit, re, im, n, j);
      this.powers.push([re, im]);
    }
    return this.powers[k]!;
  }

  /** Adds column j of e^(hB) for a small h, by its Taylor series; entry i goes to i·stride + offset. */
  private taylorColumn(j: number, h: number, re: Float64Array, im: Float64Array, stride: number, offset: number): void {
    const n = this.nodes.length;
    const termRe = new Float64Array(n);
    const termIm = new Float64Array(n);
    termRe[j] = 1;
    for (let k = 0; k <= taylorTerms; k++) {
      for (let i = j; i < n; i++) {
        re[i * stride + offset]! += termRe[i]!;
        im[i * stride + offset]! += termIm[i]!;
      }
      const scale = h / (k + 1);
      for (let i = n - 1; i >= j; i--) {
        const node = this.nodes[i]!;
        const aboveRe = i > j ? termRe[i - 1]! : 0;
        const aboveIm = i > j ? termIm[i - 1]! : 0;
        const x = termRe[i]!;
        const y = termIm[i]!;
        termRe[i] = (node.re * x - node.im * y + aboveRe) * scale;
        termIm[i] = (node.re * y + node.im * x + aboveIm) * scale;
      }
    }
  }
}

/** Multiplies a column by a lower triangular matrix, in place. */
function applied([a, b]: readonly [Float64Array, Float64Array], re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = n - 1; i >= 0; i--) {
    let x = 0;
    let y = 0;
    for (let k = 0; k <= i; k++) {
      const p = a[i * n + k]!;
      const q = b[i * n + k]!;
      x += p * re[k]! - q * im[k]!;
      y += p * im[k]! + q * re[k]!;
    }
    re[i] = x;
    im[i] = y;
  }
}

function squared(re: Float64Array, im: Float64Array, n: number): [Float64Array, Float64Array] {
  const outRe = new Float64Array(n * n);
  const outIm = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k <= i; k++) {
      const a = re[i * n + k]!;
      const b = im[i * n + k]!;
      for (let j = 0; j <= k; j++) {
        outRe[i * n + j]! += a * re[k * n + j]! - b * im[k * n + j]!;
        outIm[i * n + j]! += a * im[k * n + j]! + b * re[k * n + j]!;
      }
    }
  }
  return [outRe, outIm];
}

class BidiagonalMotion implements Motion {
  private jets?: Jets;
  private pace?: Pace;
  constructor(
    private readonly nodes: readonly Complex[],
    private readonly weights: readonly Complex[],
    private readonly exponentials: Exponentials,
  ) {}

  at(time: number): number {
    const { re, im } = this.exponentials.firstColumn(time);
    let sum = 0;
    this.weights.forEach((w, k) => (sum += w.re * re[k]! - w.im * im[k]!));
    return sum;
  }

  jet(time: number, into: Float64Array): void {
    this.jets ??= new Jets(this);
    this.jets.write(time, into);
  }

  derivative(): Motion {
    const weights = this.weights.map((w, k) => plus(times(w, this.nodes[k]!), this.weights[k + 1] ?? complex(0)));
    return new BidiagonalMotion(this.nodes, weights, this.exponentials);
  }

  step(time: number, floor: number): number {
    this.pace ??= new Pace(this.rates());
    return this.pace.step(time, floor);
  }

  /**
   * The divided difference of e^(pt) over k + 1 poles that all decay at least as fast as e^(−at) is at most
   * t^k/k!·e^(−at); an integrator before them turns that into the tail of its integral.
   */
  remaining(time: number): number {
    const { nodes, weights } = this;
    const integrators = nodes.filter(({ re, im }) => re === 0 && im === 0).length;
    const slowest = Math.max(...nodes.slice(integrators).map(({ re }) => re));
    if (integrators > 1 || slowest >= 0) return Infinity;
    const a = -slowest;
    let sum = 0;
    // term: (at)^j/j!·e^(−at); tail: the sum of the terms before it.
    let term = Math.exp(-a * time);
    let tail = 0;
    for (let k = 0; k < nodes.length; k++) {
      const size = magnitude(weights[k]!);
      if (integrators === 1) {
        if (k > 0) sum += (size * tail) / a ** k;
      } else {
        sum += (size * (a * time < k ? 1 : term)) / a ** k;
      }
      tail += term;
      term *= (a * time) / (k + 1);
    }
    return sum;
  }

  private rates(): Rate[] {
    const size = this.weights.reduce((sum, w) => sum + magnitude(w), 0);
    return this.nodes.map(({ re, im }) => ({ re, im, power: 0, size }));
  }
}
