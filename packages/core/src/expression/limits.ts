/** Hard limits on typed expressions: whatever is typed, refusing it takes a few milliseconds at most. */
export const limits = {
  /** characters in one expression */
  length: 2000,
  /** brackets within brackets, and signs or powers in a row */
  nesting: 60,
  /** digits in one number, on both sides of the point */
  digits: 40,
  /** powers of ten in one number */
  decimalExponent: 60,
  /** size of a power */
  exponent: 40,
  /** signal equations, and bindings of names */
  equations: 60,
  /** terms of a polynomial in several symbols, and multiplications of terms spent on a diagram and on one typed expression */
  terms: 5_000,
  work: 150_000,
  typedWork: 10_000,
  /** rows and columns of a matrix */
  order: 20,
  /** states of an answer */
  states: 12,
  /** different dead times in one sum */
  delays: 40,
  /** degree of a polynomial in s */
  degree: 40,
  /** bits of the largest whole number that exact arithmetic may produce */
  bits: 8192,
} as const;
