import { ratioToNumber } from '../rational/integer.js';

const bits = 320n;
const unit = 1n << bits;

/**
 * Improves roots of a square-free polynomial that doubles cannot separate, in place.
 * `integers` lowest power first; roots are given and returned in units of 2^exponent.
 * Method: Aberth's iteration on fixed-point numbers of 320 fractional bits.
 */
export function refine(integers: readonly bigint[], exponent: number, re: Float64Array, im: Float64Array): void {
  const n = integers.length - 1;
  const offset = exponent < 0 ? -exponent * n : 0;
  const shifted = integers.map((c, k) => c << BigInt(exponent * k + offset));
  const largest = shifted.reduce((m, c) => (c > m ? c : -c > m ? -c : m), 1n);
  const p = shifted.map((c) => (c * unit) / largest);
  const x = Array.from(re, fixed);
  const y = Array.from(im, fixed);
  const enough = 1n << (bits - 80n);
  for (let round = 0; round < 200; round++) {
    let moving = false;
    for (let i = 0; i < n; i++) {
      const [pRe, pIm, dRe, dIm] = valueAndSlope(p, x[i]!, y[i]!);
      if (pRe === 0n && pIm === 0n) continue;
      const [stepRe, stepIm] = quotient(pRe, pIm, dRe, dIm);
      let sumRe = 0n;
      let sumIm = 0n;
      for (let k = 0; k < n; k++) {
        if (k === i) continue;
        const [a, b] = quotient(unit, 0n, x[i]! - x[k]!, y[i]! - y[k]!);
        sumRe += a;
        sumIm += b;
      }
      const divRe = unit - ((stepRe * sumRe - stepIm * sumIm) >> bits);
      const divIm = -((stepRe * sumIm + stepIm * sumRe) >> bits);
      const [moveRe, moveIm] = quotient(stepRe, stepIm, divRe, divIm);
      x[i]! -= moveRe;
      y[i]! -= moveIm;
      const size = magnitudeOf(x[i]!, y[i]!);
      if (magnitudeOf(moveRe, moveIm) * unit > size * enough) moving = true;
    }
    if (!moving) break;
  }
  for (let i = 0; i < n; i++) {
    re[i] = ratioToNumber(x[i]!, unit);
    im[i] = ratioToNumber(y[i]!, unit);
  }
}

function fixed(value: number): bigint {
  return BigInt(Math.round(value * 2 ** 52)) << (bits - 52n);
}

const magnitudeOf = (x: bigint, y: bigint): bigint => (x < 0n ? -x : x) + (y < 0n ? -y : y);

function valueAndSlope(p: readonly bigint[], x: bigint, y: bigint): [bigint, bigint, bigint, bigint] {
  let re = 0n;
  let im = 0n;
  let dRe = 0n;
  let dIm = 0n;
  for (let k = p.length - 1; k >= 0; k--) {
    [dRe, dIm] = [((dRe * x - dIm * y) >> bits) + re, ((dRe * y + dIm * x) >> bits) + im];
    [re, im] = [((re * x - im * y) >> bits) + p[k]!, (re * y + im * x) >> bits];
  }
  return [re, im, dRe, dIm];
}

function quotient(aRe: bigint, aIm: bigint, bRe: bigint, bIm: bigint): [bigint, bigint] {
  const square = bRe * bRe + bIm * bIm || 1n;
  return [((aRe * bRe + aIm * bIm) << bits) / square, ((aIm * bRe - aRe * bIm) << bits) / square];
}
