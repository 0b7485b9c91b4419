import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';

export const absolute = (value: bigint): bigint => (value < 0n ? -value : value);

/** Greatest common divisor, never negative. Method: Euclid. */
export function greatestCommonDivisor(left: bigint, right: bigint): bigint {
  let a = absolute(left);
  let b = absolute(right);
  while (b !== 0n) [a, b] = [b, a % b];
  return a;
}

/** Number of bits of |value|. */
export function bitLength(value: bigint): number {
  const hex = absolute(value).toString(16);
  return value === 0n ? 0 : (hex.length - 1) * 4 + (32 - Math.clz32(parseInt(hex[0]!, 16)));
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
