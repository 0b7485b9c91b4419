import { Problem } from '../expression/problem.js';
import { childrenOf, type Tree } from '../expression/tree.js';
import { type Algebra, evaluate } from '../rational/evaluate.js';
import { rational } from '../rational/number.js';
import { degree } from '../rational/polynomial.js';
import type { Transfer } from './transfer.js';
import { constantTransfer, transferAlgebra, transferFrom, type Transfers } from './transferAlgebra.js';

/** A fraction in s with complex coefficients: real part, and imaginary part where there is one. */
interface Complex {
  readonly re: Transfer;
  readonly im?: Transfer;
}

const units = ['i', 'j'];

/** Whether i or j stands in an expression as the imaginary unit: where no name of the exercise is called so. */
const holdsUnit = (tree: Tree, names: Transfers): boolean => unitsIn(tree, names) > 0;

/** How often the imaginary unit stands in an expression, once for each time that it is multiplied. */
function unitsIn(tree: Tree, names: Transfers): number {
  if (tree.kind === 'name') return units.includes(tree.name) && !names.has(tree.name) ? 1 : 0;
  const inside = childrenOf(tree).reduce((count, child) => count + unitsIn(child, names), 0);
  if (tree.kind !== 'power') return inside;
  const exponent = tree.exponent.kind === 'negative' ? tree.exponent.of : tree.exponent;
  return exponent.kind === 'number' ? inside * Math.max(1, Number(exponent.text)) : inside;
}

/** More takes longer than a keystroke may; eight pairs are more than anyone types. */
const mostUnits = 16;

/**
 * The transfer function that an expression stands for, which may hold complex factors, as (s+1+2j)(s+1-2j).
 * @throws Problem as `transferFrom`, and where an imaginary part is left
 */
export function transferFromComplex(tree: Tree, names: Transfers): Transfer {
  const count = unitsIn(tree, names);
  if (count === 0) return transferFrom(tree, names);
  if (count > mostUnits) {
    const words = `At most ${mostUnits} factors with j are worked out: multiply pairs first, to s^2+2s+5.`;
    throw new Problem('degree', words, firstUnit(tree, names));
  }
  const { re, im } = evaluate(tree, complexAlgebra(names));
  if (im === undefined) return re;
  throw new Problem(
    'notANumber',
    'An imaginary part is left over: factors with j come in pairs, as in (s+1+2j)(s+1-2j).',
    firstUnit(tree, names),
  );
}

function complexAlgebra(names: Transfers): Algebra<Complex> {
  const real = transferAlgebra(names);
  const complex = (re: Transfer, im: Transfer | undefined): Complex =>
    im === undefined || im.numerator.every(({ polynomial }) => degree(polynomial) < 0) ? { re } : { re, im };
  const sum = (left: Transfer | undefined, right: Transfer | undefined, at: number): Transfer | undefined =>
    left && right ? real.add(left, right, at) : (left ?? right);
  const product = (left: Transfer | undefined, right: Transfer | undefined, at: number): Transfer | undefined =>
    left && right && real.multiply(left, right, at);
  const minus = (transfer: Transfer | undefined): Transfer | undefined => transfer && real.negate(transfer);

  const algebra: Algebra<Complex> = {
    constant: (value) => ({ re: real.constant(value) }),
    name: (name, at) =>
      units.includes(name) && !names.has(name)
        ? { re: constantTransfer(rational(0n)), im: constantTransfer(rational(1n)) }
        : { re: real.name(name, at) },
    exponential: (exponent, at) => ({ re: real.exponential(exponent, at) }),
    add: (left, right, at) => complex(real.add(left.re, right.re, at), sum(left.im, right.im, at)),
    negate: ({ re, im }) => complex(real.negate(re), minus(im)),
    multiply(left, right, at) {
      const re = real.multiply(left.re, right.re, at);
      const crossed = minus(product(left.im, right.im, at));
      return complex(
        crossed ? real.add(re, crossed, at) : re,
        sum(product(left.re, right.im, at), product(left.im, right.re, at), at),
      );
    },
    divide(left, right, at) {
      if (right.im) return algebra.multiply(left, algebra.invert(right, at), at);
      return complex(real.divide(left.re, right.re, at), left.im && real.divide(left.im, right.re, at));
    },
    invert({ re, im }, at) {
      if (im === undefined) return { re: real.invert(re, at) };
      const size = real.add(real.multiply(re, re, at), real.multiply(im, im, at), at);
      return complex(real.divide(re, size, at), real.divide(real.negate(im), size, at));
    },
    power(base, exponent, at) {
      if (base.im === undefined) return { re: real.power(base.re, exponent, at) };
      let result: Complex = { re: constantTransfer(rational(1n)) };
      for (let k = 0; k < exponent; k++) result = algebra.multiply(result, base, at);
      return result;
    },
    number: ({ re, im }) => (im ? null : real.number(re)),
  };
  return algebra;
}

function firstUnit(tree: Tree, names: Transfers): number {
  const inner = childrenOf(tree).find((child) => holdsUnit(child, names));
  return inner ? firstUnit(inner, names) : tree.at;
}
