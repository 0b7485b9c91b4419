import { limits } from '../expression/limits.js';
import { Problem } from '../expression/problem.js';
import { checkSize, greatestCommonDivisor } from '../rational/integer.js';
import { modulo, prime, shareFactorModulo } from '../rational/modular.js';

/**
 * The symbols of one question, s first. All polynomials that meet belong to the same ring, whose budget keeps any
 * question to a few milliseconds of work.
 */
export class Ring {
  private spent = 0;

  constructor(
    readonly symbols: readonly string[],
    private readonly budget: number = limits.work,
  ) {}

  /** Counts multiplications of terms. @throws Problem `numberSize` when a question asks for too many. */
  spend(work: number, terms: number): void {
    this.spent += work;
    if (this.spent > this.budget || terms > limits.terms) {
      throw new Problem('numberSize', 'This grows too large to be worked out with all its symbols kept.');
    }
  }
}

/**
 * A polynomial in the symbols of its ring with whole-number coefficients, sparse. A term's key holds one character
 * per symbol, whose code is the exponent; keys compare as exponents do, s first. No coefficient is zero.
 */
export interface SymbolicPolynomial {
  readonly ring: Ring;
  readonly terms: ReadonlyMap<string, bigint>;
}

const exponentIn = (key: string, symbol: number): number => key.charCodeAt(symbol);

function keyProduct(left: string, right: string): string {
  let key = '';
  for (let k = 0; k < left.length; k++) key += String.fromCharCode(left.charCodeAt(k) + right.charCodeAt(k));
  return key;
}

/** left/right, or null when an exponent would be negative. */
function keyQuotient(left: string, right: string): string | null {
  let key = '';
  for (let k = 0; k < left.length; k++) {
    const exponent = left.charCodeAt(k) - right.charCodeAt(k);
    if (exponent < 0) return null;
    key += String.fromCharCode(exponent);
  }
  return key;
}

/** A whole number as a polynomial of the ring. */
export function whole(ring: Ring, value: bigint): SymbolicPolynomial {
  return { ring, terms: new Map(value === 0n ? [] : [['\0'.repeat(ring.symbols.length), value]]) };
}

/** The symbol to a power. */
export function symbolPower(ring: Ring, symbol: number, exponent = 1): SymbolicPolynomial {
  const key = '\0'.repeat(symbol) + String.fromCharCode(exponent) + '\0'.repeat(ring.symbols.length - symbol - 1);
  return { ring, terms: new Map([[key, 1n]]) };
}

/** Whether this is the zero polynomial. */
export const isNothing = (p: SymbolicPolynomial): boolean => p.terms.size === 0;

/** The value of a polynomial without symbols; null when it has some. */
export function wholeValue(p: SymbolicPolynomial): bigint | null {
  if (p.terms.size === 0) return 0n;
  const [entry] = p.terms;
  return p.terms.size === 1 && /^\0*$/.test(entry![0]) ? entry![1] : null;
}

/** p + sign·q. @throws Problem `numberSize` beyond the ring’s budget. */
export function sum(p: SymbolicPolynomial, q: SymbolicPolynomial, sign = 1n): SymbolicPolynomial {
  const terms = new Map(p.terms);
  for (const [key, c] of q.terms) {
    const value = (terms.get(key) ?? 0n) + sign * c;
    if (value === 0n) terms.delete(key);
    else terms.set(key, value);
  }
  p.ring.spend(q.terms.size, terms.size);
  return { ring: p.ring, terms };
}

/** p·q. @throws Problem `numberSize` beyond the ring’s budget. */
export function product(p: SymbolicPolynomial, q: SymbolicPolynomial): SymbolicPolynomial {
  const terms = new Map<string, bigint>();
  p.ring.spend(p.terms.size * q.terms.size, 0);
  for (const [left, a] of p.terms) {
    for (const [right, b] of q.terms) {
      const key = keyProduct(left, right);
      const value = (terms.get(key) ?? 0n) + a * b;
      if (value === 0n) terms.delete(key);
      else terms.set(key, value);
    }
  }
  p.ring.spend(0, terms.size);
  for (const c of terms.values()) checkSize(c);
  return { ring: p.ring, terms };
}

/** Every coefficient times a whole number. */
export const scaled = (p: SymbolicPolynomial, by: bigint): SymbolicPolynomial => ({
  ring: p.ring,
  terms: by === 0n ? new Map() : new Map([...p.terms].map(([key, c]) => [key, c * by])),
});

/** p to a whole power from 0. @throws Problem `numberSize` beyond the ring’s budget. */
export function powerOf(p: SymbolicPolynomial, exponent: number): SymbolicPolynomial {
  let result = whole(p.ring, 1n);
  for (let k = 0; k < exponent; k++) result = product(result, p);
  return result;
}

/** Whether two polynomials of one ring are the same. */
export function isSame(p: SymbolicPolynomial, q: SymbolicPolynomial): boolean {
  return p.terms.size === q.terms.size && [...p.terms].every(([key, c]) => q.terms.get(key) === c);
}

/** Highest power of a symbol; −1 for zero. */
export function degreeIn(p: SymbolicPolynomial, symbol: number): number {
  let degree = -1;
  for (const key of p.terms.keys()) degree = Math.max(degree, exponentIn(key, symbol));
  return degree;
}

/** Coefficients by rising power of a symbol, each a polynomial in the others. */
export function coefficientsIn(p: SymbolicPolynomial, symbol: number): SymbolicPolynomial[] {
  const coefficients: Map<string, bigint>[] = Array.from(
    { length: degreeIn(p, symbol) + 1 },
    () => new Map<string, bigint>(),
  );
  for (const [key, c] of p.terms) {
    coefficients[exponentIn(key, symbol)]!.set(`${key.slice(0, symbol)}\0${key.slice(symbol + 1)}`, c);
  }
  return coefficients.map((terms) => ({ ring: p.ring, terms }));
}

const leadingKey = (p: SymbolicPolynomial): string => {
  let lead = '';
  for (const key of p.terms.keys()) if (key > lead || lead === '') lead = key;
  return lead;
};

/** Coefficient of the leading term; its sign is the sign of the polynomial. */
export const leadingCoefficient = (p: SymbolicPolynomial): bigint => p.terms.get(leadingKey(p)) ?? 0n;

/** p/q when q divides p over the whole numbers, otherwise null. Method: division by leading terms. */
export function exactQuotient(p: SymbolicPolynomial, q: SymbolicPolynomial): SymbolicPolynomial | null {
  const lead = leadingKey(q);
  const leadCoefficient = q.terms.get(lead)!;
  const quotient = new Map<string, bigint>();
  const rest = new Map(p.terms);
  while (rest.size > 0) {
    p.ring.spend(rest.size / 8 + q.terms.size, 0);
    const top = leadingKey({ ring: p.ring, terms: rest });
    const key = keyQuotient(top, lead);
    const c = rest.get(top)!;
    if (key === null || c % leadCoefficient !== 0n) return null;
    const factor = c / leadCoefficient;
    quotient.set(key, factor);
    for (const [other, b] of q.terms) {
      const at = keyProduct(key, other);
      const value = (rest.get(at) ?? 0n) - factor * b;
      if (value === 0n) rest.delete(at);
      else rest.set(at, value);
    }
  }
  return { ring: p.ring, terms: quotient };
}

/** Greatest common divisor of the coefficients, never negative. */
export function contentOf(p: SymbolicPolynomial): bigint {
  let common = 0n;
  for (const c of p.terms.values()) {
    common = greatestCommonDivisor(common, c);
    if (common === 1n) break;
  }
  return common;
}

/** Without a common whole-number factor, the leading coefficient positive. */
export function primitive(p: SymbolicPolynomial): SymbolicPolynomial {
  const common = contentOf(p) * (leadingCoefficient(p) < 0n ? -1n : 1n);
  if (common === 1n || common === 0n) return p;
  return { ring: p.ring, terms: new Map([...p.terms].map(([key, c]) => [key, c / common])) };
}

/**
 * Greatest common divisor over the rational numbers, primitive.
 * Method: images modulo a prime at a random point tell which symbols it can contain; then the primitive remainder
 * sequence in one of them (Geddes, Czapor and Labahn, Algorithms for Computer Algebra, 7).
 */
export function commonDivisor(p: SymbolicPolynomial, q: SymbolicPolynomial): SymbolicPolynomial {
  if (isNothing(p)) return primitive(q);
  if (isNothing(q)) return primitive(p);
  const shared = commonMonomial([...p.terms.keys(), ...q.terms.keys()]);
  const monomial = { ring: p.ring, terms: new Map([[shared, 1n]]) };
  const core = commonCore(primitive(dropMonomial(p)), primitive(dropMonomial(q)));
  return /^\0*$/.test(shared) ? core : product(core, monomial);
}

function commonMonomial(keys: readonly string[]): string {
  let common = keys[0]!;
  for (const key of keys) {
    let next = '';
    for (let k = 0; k < key.length; k++) next += String.fromCharCode(Math.min(key.charCodeAt(k), common.charCodeAt(k)));
    common = next;
  }
  return common;
}

function dropMonomial(p: SymbolicPolynomial): SymbolicPolynomial {
  const common = commonMonomial([...p.terms.keys()]);
  if (/^\0*$/.test(common)) return p;
  return { ring: p.ring, terms: new Map([...p.terms].map(([key, c]) => [keyQuotient(key, common)!, c])) };
}

/** Both primitive and free of monomial factors. */
function commonCore(p: SymbolicPolynomial, q: SymbolicPolynomial): SymbolicPolynomial {
  const unit = whole(p.ring, 1n);
  let [a, b] = p.terms.size >= q.terms.size ? [p, q] : [q, p];
  if (wholeValue(b) !== null) return unit;
  // A symbol in which the images have no common factor cannot occur in the result: only contents matter then.
  for (let symbol = 0; symbol < p.ring.symbols.length; symbol++) {
    const [inA, inB] = [degreeIn(a, symbol), degreeIn(b, symbol)];
    if (inA <= 0 && inB <= 0) continue;
    if (inA > 0 && inB > 0 && imagesShareFactor(a, b, symbol)) continue;
    [a, b] = [contentIn(a, symbol), contentIn(b, symbol)];
    if (wholeValue(a) !== null || wholeValue(b) !== null) return unit;
  }
  if (exactQuotient(a, b)) return b;
  if (exactQuotient(b, a)) return a;
  const symbol = p.ring.symbols.findIndex((_, k) => degreeIn(a, k) > 0 && degreeIn(b, k) > 0);
  if (symbol < 0) return unit;
  const [contentA, contentB] = [contentIn(a, symbol), contentIn(b, symbol)];
  let upper = exactQuotient(a, contentA)!;
  let lower = exactQuotient(b, contentB)!;
  if (degreeIn(upper, symbol) < degreeIn(lower, symbol)) [upper, lower] = [lower, upper];
  while (degreeIn(lower, symbol) > 0) {
    const rest = pseudoRemainder(upper, lower, symbol);
    upper = lower;
    if (isNothing(rest)) break;
    lower = primitive(exactQuotient(rest, contentIn(rest, symbol))!);
  }
  const core = degreeIn(lower, symbol) > 0 ? primitive(upper) : unit;
  return primitive(product(core, commonDivisor(contentA, contentB)));
}

/** Common divisor of the coefficients of the powers of a symbol. */
function contentIn(p: SymbolicPolynomial, symbol: number): SymbolicPolynomial {
  const parts = coefficientsIn(p, symbol)
    .filter((c) => !isNothing(c))
    .sort((a, b) => a.terms.size - b.terms.size);
  let common = primitive(parts[0]!);
  for (const part of parts.slice(1)) {
    if (wholeValue(common) !== null) break;
    common = commonDivisor(common, part);
  }
  return common;
}

function pseudoRemainder(p: SymbolicPolynomial, q: SymbolicPolynomial, symbol: number): SymbolicPolynomial {
  const degree = degreeIn(q, symbol);
  const lead = coefficientsIn(q, symbol)[degree]!;
  let rest = p;
  for (let top = degreeIn(rest, symbol); top >= degree; top = degreeIn(rest, symbol)) {
    const above = product(coefficientsIn(rest, symbol)[top]!, symbolPower(p.ring, symbol, top - degree));
    rest = sum(product(rest, lead), product(q, above), -1n);
  }
  return rest;
}

/** The value modulo the prime with every symbol at its point. */
export function valueModulo(p: SymbolicPolynomial, points: readonly number[]): number {
  let total = 0;
  for (const [key, c] of p.terms) {
    let value = modulo(c);
    for (let k = 0; k < key.length; k++) {
      for (let times = key.charCodeAt(k); times > 0; times--) value = (value * points[k]!) % prime;
    }
    total = (total + value) % prime;
  }
  return total;
}

/** Whether the images modulo a prime, all other symbols replaced by numbers, share a factor; a no is certain. */
function imagesShareFactor(p: SymbolicPolynomial, q: SymbolicPolynomial, symbol: number): boolean {
  return shareFactorModulo(imageOf(p, symbol), imageOf(q, symbol));
}

function imageOf(p: SymbolicPolynomial, symbol: number): number[] {
  const image = new Array<number>(degreeIn(p, symbol) + 1).fill(0);
  for (const [key, c] of p.terms) {
    let value = modulo(c);
    for (let k = 0; k < key.length; k++) {
      if (k === symbol) continue;
      const point = (7_919 * (k + 3) ** 3 + 104_729) % prime;
      for (let times = key.charCodeAt(k); times > 0; times--) value = (value * point) % prime;
    }
    const at = exponentIn(key, symbol);
    image[at] = (image[at]! + value) % prime;
  }
  return image;
}
