import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import { rationalFromNumber } from '../rational/number.js';
import { add, coefficients, constant, degree, derivative, multiply } from '../rational/polynomial.js';
import { rootsOfNumbers } from '../system/aberth.js';
import { type Complex, magnitude, over, plus } from '../system/complex.js';
import { roots } from '../system/roots.js';
import type { ParametricPolynomial } from './parameter.js';
import { gainAt, type SpecialPoints, valueAt } from './specialPoints.js';

/** One branch: gains rising, a point for each. */
export interface Branch {
  readonly gains: Float64Array;
  readonly re: Float64Array;
  readonly im: Float64Array;
}

/** The window to draw, in which branches must look smooth. */
export interface Window {
  readonly left: number;
  readonly right: number;
  readonly bottom: number;
  readonly top: number;
}

/** Rows of a matrix of points: one gain, all roots in the order of the branches. */
interface Row {
  readonly gain: number;
  readonly re: Float64Array;
  readonly im: Float64Array;
}

/** Largest distance of a drawn chord from the branch, as a share of the window. */
const chordError = 1 / 1500;
const mostRows = 1500;

/**
 * The branches of D + K·N = 0 for K from 0 until they leave the window or end, ready to draw.
 * Method: all roots at every gain from those at the gain before (Aberth), each paired with the nearest; gains are put in
 * between until chords are close. Break points are gains of their own, so branches run into them and out again.
 */
export function branchesOf(fraction: Fraction, special: SpecialPoints, window: Window): Branch[] {
  const n = coefficients(fraction.numerator);
  const d = coefficients(fraction.denominator);
  const order = Math.max(degree(fraction.numerator), degree(fraction.denominator));
  if (order < 1) return [];
  const trace = new Tracer(order, window, (gain, falling) => {
    for (let k = 0; k <= order; k++) {
      const fromD = d[k - (order + 1 - d.length)] ?? 0;
      const fromN = n[k - (order + 1 - n.length)] ?? 0;
      falling[k] = fromD + gain * fromN;
    }
  });
  const scale = typicalGain(fraction);
  const stops = [...special.breakPoints, ...special.axisCrossings].map(({ gain }) => gain);
  const even = Array.from({ length: 41 }, (_, k) => scale * 10 ** (k / 4 - 5));
  const gains = [...new Set([...stops, ...even])].filter((gain) => gain > 0).sort((a, b) => a - b);
  const rows = trace.along([0, ...gains]);
  // Onwards until every branch has ended at a zero or left the window.
  for (let gain = gains[gains.length - 1]! * 2; rows.length < mostRows && gain < scale * 1e12; gain *= 2) {
    const last = rows[rows.length - 1]!;
    const next = trace.at(gain, last);
    trace.fill(rows, last, next, 0);
    if (trace.rests(last, next)) break;
  }
  return branchesFrom(rows, order);
}

/**
 * The roots of a polynomial with one free parameter, for the parameter from one value to another, as branches; `gains`
 * holds the parameter.
 * @throws Problem `notPossible` when the order changes on the way, because a root then comes from or goes to infinity.
 */
export function parameterBranches(p: ParametricPolynomial, from: number, to: number, window: Window): Branch[] {
  const order = p.coefficients.length - 1;
  const falling = p.coefficients.map(coefficients).reverse();
  const valueOf = (c: readonly number[], at: number): number => c.reduce((sum, value) => sum * at + value, 0);
  const lead = roots(p.coefficients[order]!);
  if (lead.some(({ re, im }) => im === 0 && re >= from && re <= to)) {
    throw new Problem('notPossible', 'The number of poles changes in this range of the parameter.');
  }
  return tracedBranches(order, (at, into) => falling.forEach((c, k) => (into[k] = valueOf(c, at))), from, to, window);
}

/**
 * The roots of a polynomial of one order whose coefficients follow a value, from one value to another, as branches;
 * `gains` holds the value.
 * @param write puts the coefficients for a value, highest power first
 */
export function tracedBranches(
  order: number,
  write: (at: number, falling: Float64Array) => void,
  from: number,
  to: number,
  window: Window,
): Branch[] {
  if (order < 1) return [];
  const even = Array.from({ length: 41 }, (_, k) => (k === 40 ? to : from + ((to - from) * k) / 40));
  return branchesFrom(new Tracer(order, window, write).along(even), order);
}

function branchesFrom(rows: readonly Row[], order: number): Branch[] {
  const length = Math.min(rows.length, mostRows);
  const column = (of: (row: Row) => number): Float64Array => {
    const values = new Float64Array(length);
    for (let at = 0; at < length; at++) values[at] = of(rows[at]!);
    return values;
  };
  const gains = column(({ gain }) => gain);
  return Array.from({ length: order }, (_, k) => ({
    gains,
    re: column(({ re }) => re[k]!),
    im: column(({ im }) => im[k]!),
  }));
}

/** A gain near which branches are midway: |D/N| at the mean size of poles and zeros, every power of s counting alike. */
function typicalGain({ numerator, denominator }: Fraction): number {
  const sizes = [...roots(numerator), ...roots(denominator)].map(magnitude).filter((size) => size > 0);
  const mean = sizes.length > 0 ? Math.exp(sizes.reduce((sum, size) => sum + Math.log(size), 0) / sizes.length) : 1;
  const size = (p: Fraction['numerator']): number =>
    coefficients(p).reduce((sum, value) => sum * mean + Math.abs(value), 0);
  return size(denominator) / size(numerator) || 1;
}

class Tracer {
  private readonly width: number;
  private readonly falling: Float64Array;

  /** @param write puts the coefficients for a gain, highest power first */
  constructor(
    private readonly order: number,
    private readonly window: Window,
    private readonly write: (gain: number, falling: Float64Array) => void,
  ) {
    this.width = Math.max(window.right - window.left, window.top - window.bottom);
    this.falling = new Float64Array(order + 1);
  }

  /** Rows at all gains and as many in between as drawing and pairing need. */
  along(gains: readonly number[]): Row[] {
    const rows: Row[] = [this.at(gains[0]!, null)];
    for (const gain of gains.slice(1)) {
      const last = rows[rows.length - 1]!;
      this.fill(rows, last, this.at(gain, last), 0);
      if (rows.length > mostRows) break;
    }
    return rows;
  }

  /** All roots at a gain, in the order of the row before. */
  at(gain: number, previous: Row | null): Row {
    this.write(gain, this.falling);
    const roots = rootsOfNumbers(this.falling, previous);
    return previous ? paired(gain, roots, previous) : { gain, ...inOrder(roots) };
  }

  /** Adds `next` after `last`, with as many rows in between as drawing and pairing need. */
  fill(rows: Row[], last: Row, next: Row, depth: number): void {
    if (depth < 12 && rows.length < mostRows && !this.rests(last, next)) {
      const middleGain = between(last.gain, next.gain);
      const middle = this.at(middleGain, last);
      const ahead = paired(next.gain, next, middle);
      if (!this.isSmooth(last, middle, ahead)) {
        this.fill(rows, last, middle, depth + 1);
        this.fill(rows, rows[rows.length - 1]!, paired(next.gain, next, rows[rows.length - 1]!), depth + 1);
        return;
      }
      rows.push(middle, ahead);
      return;
    }
    rows.push(next);
  }

  private isSmooth(a: Row, b: Row, c: Row): boolean {
    for (let k = 0; k < this.order; k++) {
      if (!this.isSeen(b.re[k]!, b.im[k]!) && !this.isSeen(c.re[k]!, c.im[k]!)) continue;
      const [x, y] = [c.re[k]! - a.re[k]!, c.im[k]! - a.im[k]!];
      const length = Math.sqrt(x * x + y * y);
      const [u, v] = [b.re[k]! - a.re[k]!, b.im[k]! - a.im[k]!];
      const along = length === 0 ? 0 : (u * x + v * y) / length;
      const off = length === 0 ? Math.sqrt(u * u + v * v) : Math.abs(u * y - v * x) / length;
      if (off > chordError * this.width || along < -chordError * this.width) return false;
      if (length > this.width / 12) return false;
    }
    return true;
  }

  private isSeen(re: number, im: number): boolean {
    const { left, right, bottom, top } = this.window;
    const rim = this.width / 4;
    return re > left - rim && re < right + rim && im > bottom - rim && im < top + rim;
  }

  /** Whether nothing that is seen moves any more. */
  rests(a: Row, b: Row): boolean {
    for (let k = 0; k < this.order; k++) {
      if (squareBetween(a, k, b, k) <= (chordError * this.width) ** 2) continue;
      if (this.isSeen(a.re[k]!, a.im[k]!) || this.isSeen(b.re[k]!, b.im[k]!)) return false;
    }
    return true;
  }
}

/** Roots by rising real part, the upper one of a pair first, whatever order they were found in. */
function inOrder({ re, im }: Points): { re: Float64Array; im: Float64Array } {
  const alike = (a: number, b: number): boolean => Math.abs(a - b) <= 1e-6 * (Math.abs(a) + Math.abs(b));
  const order = Array.from(re.keys()).sort((a, b) => (alike(re[a]!, re[b]!) ? im[b]! - im[a]! : re[a]! - re[b]!));
  return { re: Float64Array.from(order, (k) => re[k]!), im: Float64Array.from(order, (k) => im[k]!) };
}

/** Between two gains: their geometric mean, or near the first when that is zero; between others the middle. */
function between(from: number, to: number): number {
  if (from > 0) return Math.sqrt(from * to);
  return from === 0 ? to / 4 : (from + to) / 2;
}

/** The roots in the order of the row before: each the nearest where that is certain, otherwise nearest pairs first. */
function paired(gain: number, roots: { re: Float64Array; im: Float64Array }, previous: Row): Row {
  const order = roots.re.length;
  const chosen = nearestOfEach(roots, previous) ?? nearestPairsFirst(roots, previous);
  const re = new Float64Array(order);
  const im = new Float64Array(order);
  for (let i = 0; i < order; i++) {
    re[i] = roots.re[chosen[i]!]!;
    im[i] = roots.im[chosen[i]!]!;
  }
  return { gain, re, im };
}

interface Points {
  readonly re: Float64Array;
  readonly im: Float64Array;
}

const squareBetween = (a: Points, i: number, b: Points, k: number): number =>
  (a.re[i]! - b.re[k]!) ** 2 + (a.im[i]! - b.im[k]!) ** 2;

/** The nearest root of each branch; null when two branches want the same. */
function nearestOfEach(roots: Points, previous: Points): Int32Array | null {
  const order = roots.re.length;
  const chosen = new Int32Array(order);
  const used = new Uint8Array(order);
  for (let i = 0; i < order; i++) {
    let best = 0;
    let nearest = Infinity;
    for (let k = 0; k < order; k++) {
      const square = squareBetween(previous, i, roots, k);
      if (square < nearest) {
        nearest = square;
        best = k;
      }
    }
    if (used[best]) return null;
    used[best] = 1;
    chosen[i] = best;
  }
  return chosen;
}

function nearestPairsFirst(roots: Points, previous: Points): Int32Array {
  const order = roots.re.length;
  const pairs = Array.from({ length: order * order }, (_, at) => at).sort(
    (a, b) =>
      squareBetween(previous, Math.floor(a / order), roots, a % order) -
      squareBetween(previous, Math.floor(b / order), roots, b % order),
  );
  const chosen = new Int32Array(order).fill(-1);
  const used = new Uint8Array(order);
  for (const pair of pairs) {
    const [i, k] = [Math.floor(pair / order), pair % order];
    if (chosen[i]! >= 0 || used[k]) continue;
    chosen[i] = k;
    used[k] = 1;
  }
  return chosen;
}

/** The point of drawn branches nearest to a place, and its gain, as close as the chords are. */
export function nearestOnBranches(
  branches: readonly Branch[],
  place: Complex,
): (Complex & { gain: number; branch: number }) | null {
  let best: (Complex & { gain: number; branch: number }) | null = null;
  let nearest = Infinity;
  branches.forEach(({ gains, re, im }, branch) => {
    for (let k = 0; k + 1 < gains.length; k++) {
      const [x, y] = [re[k + 1]! - re[k]!, im[k + 1]! - im[k]!];
      const square = x * x + y * y;
      const share = square === 0 ? 0 : ((place.re - re[k]!) * x + (place.im - im[k]!) * y) / square;
      const at = Math.min(1, Math.max(0, share));
      const point = { re: re[k]! + at * x, im: im[k]! + at * y };
      const distance = Math.hypot(point.re - place.re, point.im - place.im);
      if (distance < nearest) {
        nearest = distance;
        best = { ...point, gain: gains[k]! + at * (gains[k + 1]! - gains[k]!), branch };
      }
    }
  });
  return best;
}

/**
 * The point of the locus D + K·N = 0, K ≥ 0, nearest to a place, exact up to rounding. Method: from the nearest point of
 * the drawn branches, steps along the branch (ds/dK = −N/(D′ + K·N′)) to where the place lies at right angles to it.
 * Null without branches.
 */
export function nearestOnLocus(
  fraction: Fraction,
  branches: readonly Branch[],
  place: Complex,
): (Complex & { gain: number; branch: number }) | null {
  const drawn = nearestOnBranches(branches, place);
  if (!drawn) return null;
  const exact = gainAt(fraction, drawn).re;
  let best = rootNear(fraction, Number.isFinite(exact) && exact > 0 ? exact : drawn.gain, drawn);
  let factor = 1;
  for (let round = 0; round < 60; round++) {
    const slope = slopeOn(fraction, best);
    const square = slope.re * slope.re + slope.im * slope.im;
    const step = ((place.re - best.re) * slope.re + (place.im - best.im) * slope.im) / square;
    if (!Number.isFinite(step)) break;
    const gain = Math.max(0, best.gain + factor * step);
    const next = rootNear(fraction, gain, {
      re: best.re + (gain - best.gain) * slope.re,
      im: best.im + (gain - best.gain) * slope.im,
    });
    if (distanceBetween(next, place) <= distanceBetween(best, place) * (1 + 1e-12)) {
      const rests = Math.abs(gain - best.gain) <= 1e-14 * gain;
      best = next;
      if (rests) break;
    } else if (factor < 1 / 64) break;
    else factor /= 4;
  }
  return { ...best, branch: drawn.branch };
}

/** The root of D + K·N for a gain that is nearest to a place. */
function rootNear({ numerator, denominator }: Fraction, gain: number, near: Complex): Complex & { gain: number } {
  const characteristic = add(denominator, multiply(constant(rationalFromNumber(gain)), numerator));
  let best: Complex = near;
  let nearest = Infinity;
  for (const { re, im } of roots(characteristic)) {
    const distance = distanceBetween({ re, im }, near);
    if (distance < nearest) [nearest, best] = [distance, { re, im }];
  }
  return { re: best.re, im: best.im, gain };
}

/** ds/dK on the locus. */
function slopeOn({ numerator, denominator }: Fraction, at: Complex & { gain: number }): Complex {
  const below = valueAt(derivative(denominator), at);
  const further = valueAt(derivative(numerator), at);
  const slope = over(valueAt(numerator, at), plus(below, { re: at.gain * further.re, im: at.gain * further.im }));
  return { re: -slope.re, im: -slope.im };
}

const distanceBetween = (a: Complex, b: Complex): number => Math.hypot(a.re - b.re, a.im - b.im);
