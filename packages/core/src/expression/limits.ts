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
  /** degree of a polynomial in s */
  degree: 40,
  /** bits of the largest whole number that exact arithmetic may produce */
  bits: 8192,
} as const;
