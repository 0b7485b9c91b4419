import type { Tree } from '../../expression/tree.js';
import { type Fraction, lowestTerms } from '../../rational/fraction.js';
import { rationalToNumber } from '../../rational/number.js';
import { coefficients, type Polynomial } from '../../rational/polynomial.js';
import { constantOf, type Transfers } from '../../system/transferAlgebra.js';

/** Where systems are compared: real, so that doubles do. */
const places = [0.37, 1.9];

/**
 * A quick look that rules most other texts out before they are worked out exactly: whether the expression, with another
 * number at one position, comes near a fraction at a few places. Where the coefficients agree within the tolerance, so do
 * the values, up to how much the terms cancel there; so what is right is never ruled out.
 * @param names what the letters of the expression stand for
 */
export function nearbyTest(
  tree: Tree,
  names: Transfers,
  expected: Fraction,
  tolerance: number,
): (position: number, value: number) => boolean {
  const { numerator, denominator } = lowestTerms(expected);
  const letters = new Map([...names].map(([name, of]) => [name, numberOf(of)]));
  const looks = places.flatMap((s) => {
    const [above, below] = [valueAt(numerator, s), valueAt(denominator, s)];
    const off = 3 * tolerance * (above.size / Math.abs(above.value) + below.size / Math.abs(below.value)) + 1e-6;
    // Where the terms cancel nothing can be said.
    return off < 0.5 ? [{ s, wanted: above.value / below.value, off: 2 * off }] : [];
  });
  return (position, value) =>
    looks.every(({ s, wanted, off }) => {
      const got = evaluateAt(tree, s, letters, { position, value });
      return !Number.isFinite(got) || Math.abs(got - wanted) <= off * Math.abs(wanted);
    });
}

function numberOf(transfer: Parameters<typeof constantOf>[0]): number {
  const exact = constantOf(transfer);
  return exact ? rationalToNumber(exact) : NaN;
}

/** Value at s, and the sum of the sizes of its terms. */
function valueAt(polynomial: Polynomial, s: number): { value: number; size: number } {
  let value = 0;
  let size = 0;
  for (const c of coefficients(polynomial)) [value, size] = [value * s + c, size * s + Math.abs(c)];
  return { value, size };
}

/** In doubles; NaN where the expression holds anything else than numbers, letters and powers. */
function evaluateAt(
  tree: Tree,
  s: number,
  letters: ReadonlyMap<string, number>,
  other: { readonly position: number; readonly value: number },
): number {
  const value = (tree: Tree): number => evaluateAt(tree, s, letters, other);
  switch (tree.kind) {
    case 'number':
      return tree.at === other.position ? other.value : Number(tree.text);
    case 'name':
      return tree.name === 's' ? s : (letters.get(tree.name) ?? NaN);
    case 'negative':
      return -value(tree.of);
    case 'sum':
      return value(tree.left) + value(tree.right);
    case 'difference':
      return value(tree.left) - value(tree.right);
    case 'product':
      return value(tree.left) * value(tree.right);
    case 'quotient':
      return value(tree.left) / value(tree.right);
    case 'power':
      return value(tree.base) ** value(tree.exponent);
    default:
      return NaN;
  }
}
