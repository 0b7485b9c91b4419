/**
 * Points on circles whose radii are the slopes of the Newton polygon of log |coefficient|.
 * Source: Bini, Numerical computation of polynomial zeros by means of Aberth's method (1996).
 */
export function startingPoints(p: Float64Array, re: Float64Array, im: Float64Array): void {
  const n = p.length - 1;
  const height = (k: number): number => Math.log(Math.abs(p[k]!));
  const hull: number[] = [];
  for (let k = 0; k <= n; k++) {
    if (p[k] === 0) continue;
    while (hull.length >= 2) {
      const [a, b] = [hull[hull.length - 2]!, hull[hull.length - 1]!];
      if ((height(b) - height(a)) * (k - a) > (height(k) - height(a)) * (b - a)) break;
      hull.pop();
    }
    hull.push(k);
  }
  for (let h = 1, i = 0; h < hull.length; h++) {
    const [from, to] = [hull[h - 1]!, hull[h]!];
    const radius = Math.exp((height(from) - height(to)) / (to - from));
    for (let k = 0; k < to - from; k++, i++) {
      const angle = (2 * Math.PI * k) / (to - from) + (2 * Math.PI * h) / n + 0.7;
      re[i] = radius * Math.cos(angle);
      im[i] = radius * Math.sin(angle);
    }
  }
}

/**
 * Improves all roots of a polynomial (coefficients lowest power first) together, in place, until a move is less than
 * `least` of a root; says whether doubles gave each to about 1e-12 relative. Method: Aberth, Iteration methods for finding all zeros simultaneously (1973).
 */
export function aberth(p: Float64Array, re: Float64Array, im: Float64Array, least = 1e-16): boolean {
  const n = p.length - 1;
  const square = least * least;
  const settled = new Uint8Array(n);
  let left = n;
  for (let round = 0; round < 100 && left > 0; round++) {
    for (let i = 0; i < n; i++) {
      if (settled[i]) continue;
      const x = re[i]!;
      const y = im[i]!;
      newtonStep(p, x, y);
      const { stepRe, stepIm, atNoise } = step;
      let sumRe = 0;
      let sumIm = 0;
      for (let k = 0; k < n; k++) {
        if (k === i) continue;
        const dx = x - re[k]!;
        const dy = y - im[k]!;
        const scale = 1 / (dx * dx + dy * dy || Number.MIN_VALUE);
        sumRe += dx * scale;
        sumIm -= dy * scale;
      }
      const divRe = 1 - (stepRe * sumRe - stepIm * sumIm);
      const divIm = -(stepRe * sumIm + stepIm * sumRe);
      const size = divRe * divRe + divIm * divIm;
      const moveRe = (stepRe * divRe + stepIm * divIm) / size;
      const moveIm = (stepIm * divRe - stepRe * divIm) / size;
      if (!Number.isFinite(moveRe) || !Number.isFinite(moveIm)) return false;
      re[i] = x - moveRe;
      im[i] = y - moveIm;
      if (atNoise || moveRe * moveRe + moveIm * moveIm < square * (x * x + y * y)) {
        settled[i] = 1;
        left -= 1;
      }
    }
  }
  if (left > 0) return false;
  for (let i = 0; i < n; i++) {
    newtonStep(p, re[i]!, im[i]!);
    if (step.uncertainty > 1e-12 * Math.sqrt(re[i]! * re[i]! + im[i]! * im[i]!)) return false;
  }
  return true;
}

/** The result of the last `newtonStep`; one object, so that the iteration allocates nothing. */
const step = { stepRe: 0, stepIm: 0, atNoise: false, uncertainty: 0 };

/** p/p′ at z = x + iy, whether |p| is down to rounding noise, and how far that noise may shift the root. */
function newtonStep(p: Float64Array, x: number, y: number): void {
  const n = p.length - 1;
  const radius = Math.sqrt(x * x + y * y);
  const reversed = radius > 1;
  // Beyond the unit circle the reversed polynomial is evaluated at 1/z, so that no power overflows.
  const zx = reversed ? x / radius / radius : x;
  const zy = reversed ? -y / radius / radius : y;
  const r = reversed ? 1 / radius : radius;
  let re = 0;
  let im = 0;
  let dRe = 0;
  let dIm = 0;
  let bound = 0;
  for (let k = 0; k <= n; k++) {
    const c = reversed ? p[k]! : p[n - k]!;
    const d = dRe * zx - dIm * zy + re;
    dIm = dRe * zy + dIm * zx + im;
    dRe = d;
    const v = re * zx - im * zy + c;
    im = re * zy + im * zx;
    re = v;
    bound = bound * r + Math.abs(c);
  }
  const noise = 2 * Number.EPSILON * bound;
  let slopeRe = dRe;
  let slopeIm = dIm;
  if (reversed) {
    // With q(w) = w^n p(1/w): p′/p = (n − w q′/q)·w, so p/p′ = q / ((n·q − w·q′)·w).
    const ax = n * re - (zx * dRe - zy * dIm);
    const ay = n * im - (zx * dIm + zy * dRe);
    slopeRe = ax * zx - ay * zy;
    slopeIm = ax * zy + ay * zx;
  }
  const square = slopeRe * slopeRe + slopeIm * slopeIm;
  step.stepRe = (re * slopeRe + im * slopeIm) / square;
  step.stepIm = (im * slopeRe - re * slopeIm) / square;
  step.atNoise = re * re + im * im <= noise * noise;
  step.uncertainty = noise / Math.sqrt(square);
}

/** Directions that are far from each other. */
const directions = Array.from({ length: 60 }, (_, k) => [Math.cos(2.399963 * k), Math.sin(2.399963 * k)] as const);

/** After a move that small what is left of the error of a simple root is rounding. */
const lastMove = 1e-9;

/**
 * All roots of a polynomial in doubles (coefficients highest power first, the first not zero), from those of one like
 * it where they are known. Near-multiple roots carry the error that doubles leave them.
 */
export function rootsOfNumbers(
  falling: ArrayLike<number>,
  near: { readonly re: Float64Array; readonly im: Float64Array } | null,
): { re: Float64Array; im: Float64Array } {
  const n = falling.length - 1;
  const re = new Float64Array(n);
  const im = new Float64Array(n);
  let zeros = 0;
  while (zeros < n && falling[n - zeros] === 0) zeros += 1;
  const order = n - zeros;
  const size = Math.exp((Math.log(Math.abs(falling[order]!)) - Math.log(Math.abs(falling[0]!))) / (order || 1));
  const p = new Float64Array(order + 1);
  let largest = 0;
  for (let k = 0, power = 1; k <= order; k++, power *= size) {
    p[k] = falling[order - k]! * power;
    largest = Math.max(largest, Math.abs(p[k]!));
  }
  for (let k = 0; k <= order; k++) p[k]! /= largest;
  const [x, y] = zeros === 0 ? [re, im] : [re.subarray(zeros), im.subarray(zeros)];
  if (near && zeros === 0) {
    for (let k = 0; k < n; k++) {
      // A little apart, so that roots which met can part again.
      const [cos, sin] = directions[k % directions.length]!;
      const nudge = 1e-5 * (Math.sqrt(near.re[k]! ** 2 + near.im[k]! ** 2) / size + 1e-3);
      x[k] = near.re[k]! / size + nudge * cos;
      y[k] = near.im[k]! / size + nudge * sin;
    }
  } else {
    startingPoints(p, x, y);
  }
  aberth(p, x, y, lastMove);
  for (let k = 0; k < x.length; k++) {
    x[k]! *= size;
    y[k]! *= size;
    if (Math.abs(y[k]!) < 1e-13 * Math.abs(x[k]!)) y[k] = 0;
  }
  return { re, im };
}
