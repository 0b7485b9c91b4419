import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';

/** |value|. */
export const absolute = (value: bigint): bigint => (value < 0n ? -value : value);

/** Whole numbers below this are exact in doubles. */
const safe = 9_007_199_254_740_992n;

/** Greatest common divisor, never negative. Method: Euclid. */
export function greatestCommonDivisor(left: bigint, right: bigint): bigint {
  let a = absolute(left);
  let b = absolute(right);
  while (b !== 0n) {
    if (a < safe && b < safe) return BigInt(smallDivisor(Number(a), Number(b)));
    [a, b] = [b, a % b];
  }
  return a;
}

const asDouble = new Float64Array(1);
const asWords = new Uint32Array(asDouble.buffer);
/** Position of the upper word of a double in memory. */
const upperWord = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1 ? 1 : 0;

function smallDivisor(left: number, right: number): number {
  let a = left;
  let b = right;
  while (b !== 0) {
    const rest = a % b;
    a = b;
    b = rest;
  }
  return a;
}

/** Number of bits of |value|; one more just below a power of two beyond 2^53. */
export function bitLength(value: bigint): number {
  if (value === 0n) return 0;
  asDouble[0] = Number(value);
  const exponent = (asWords[upperWord]! >>> 20) & 0x7ff;
  if (exponent < 0x7ff) return exponent - 1022;
  const hex = absolute(value).toString(16);
  return (hex.length - 1) * 4 + (32 - Math.clz32(parseInt(hex[0]!, 16)));
}

/** @throws Problem `numberSize` when a whole number outgrows what exact arithmetic may spend. */
export function checkSize(value: bigint, at = 0): void {
  if (bitLength(value) > limits.bits) {
    throw new Problem('numberSize', 'The numbers in this expression grow too long to be worked out exactly.', at);
  }
}

/**
 * numerator/denominator as the nearest double, correct to one unit in the last place for any size of the whole numbers.
 */
export function ratioToNumber(numerator: bigint, denominator: bigint): number {
  if (numerator === 0n) return 0;
  if (numerator < safe && numerator > -safe && denominator < safe && denominator > -safe) {
    return Number(numerator) / Number(denominator);
  }
  const size = bitLength(numerator) - bitLength(denominator);
  const shift = 64 - size;
  const scaled =
    shift >= 0
      ? (absolute(numerator) << BigInt(shift)) / denominator
      : absolute(numerator) / (denominator << BigInt(-shift));
  const half = Math.trunc(shift / 2);
  const value = Number(scaled) * 2 ** -half * 2 ** -(shift - half);
  return numerator < 0n ? -value : value;
}
