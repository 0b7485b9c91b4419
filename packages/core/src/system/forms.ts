import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import { multiplyRational, type Rational, rational, rationalFromNumber } from '../rational/number.js';
import { add, constant, isZero, multiply, one, type Polynomial, polynomialOf, s } from '../rational/polynomial.js';
import type { Complex } from './complex.js';

/** A polynomial with the decimals that doubles print as, highest power first. @throws Problem `query` or `degree`. */
export function polynomialFromNumbers(coefficients: readonly number[], name: string): Polynomial {
  if (coefficients.length === 0) throw new Problem('query', `${name} needs at least one coefficient.`);
  if (coefficients.length > limits.degree + 1) {
    throw new Problem('degree', `${name}: the highest power of s that is worked out is ${limits.degree}.`);
  }
  return polynomialOf(coefficients.map(rationalFromNumber));
}

/** @throws Problem `divisionByZero` for a denominator of zeros. */
export function fractionFromCoefficients(numerator: readonly number[], denominator: readonly number[]): Fraction {
  const below = polynomialFromNumbers(denominator, 'The denominator');
  if (isZero(below)) throw new Problem('divisionByZero', 'The denominator is zero.');
  return { numerator: polynomialFromNumbers(numerator, 'The numerator'), denominator: below };
}

/** gain·Π(s − zero)/Π(s − pole), exact. @throws Problem `query` when complex ones do not come in pairs. */
export function fractionFromRoots(gain: number, zeros: readonly Complex[], poles: readonly Complex[]): Fraction {
  return {
    numerator: multiply(constant(rationalFromNumber(gain)), polynomialFromRoots(zeros, 'zeros')),
    denominator: polynomialFromRoots(poles, 'poles'),
  };
}

/** The monic polynomial with the given roots, exact. @throws Problem `query` when complex ones do not come in pairs. */
export function polynomialFromRoots(roots: readonly Complex[], name = 'roots'): Polynomial {
  if (roots.length > limits.degree) throw new Problem('degree', `At most ${limits.degree} ${name} are worked out.`);
  let product = one;
  const rest = [...roots];
  while (rest.length > 0) {
    const { re, im } = rest.shift()!;
    const exact = rationalFromNumber(re);
    if (im === 0) {
      product = multiply(product, add(s, constant({ numerator: -exact.numerator, denominator: exact.denominator })));
      continue;
    }
    const partner = rest.findIndex((other) => other.re === re && other.im === -im);
    if (partner < 0)
      throw new Problem('query', `The ${name} must come in conjugate pairs; ${re} + ${im}j has no partner.`);
    rest.splice(partner, 1);
    const [x, y] = [exact, rationalFromNumber(im)];
    const square = (value: Rational): Polynomial => constant(multiplyRational(value, value));
    const linear = multiply(constant(multiplyRational(rational(-2n), x)), s);
    product = multiply(product, add(add(multiply(s, s), linear), add(square(x), square(y))));
  }
  return product;
}

/**
 * The standard second-order system gain·ω²/(s² + 2ζω·s + ω²) with the natural frequency ω = 1/timeConstant in rad/s.
 * @throws Problem `query` unless the frequency is positive.
 */
export function standardSecondOrder(gain: number, dampingRatio: number, naturalFrequency: Rational): Fraction {
  if (naturalFrequency.numerator <= 0n) throw new Problem('query', 'The natural frequency is more than 0.');
  const square = multiplyRational(naturalFrequency, naturalFrequency);
  const middle = multiplyRational(multiplyRational(rational(2n), rationalFromNumber(dampingRatio)), naturalFrequency);
  return {
    numerator: constant(multiplyRational(rationalFromNumber(gain), square)),
    denominator: polynomialOf([rational(1n), middle, square]),
  };
}
