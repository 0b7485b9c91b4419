import { nameToLatex } from '../expression/latex.js';
import { absolute } from '../rational/integer.js';
import type { SymbolicFraction } from './fraction.js';
import { coefficientsIn, isNothing, type SymbolicPolynomial } from './polynomial.js';

/** How a fraction is written: as text that can be typed again, or as LaTeX. */
interface Script {
  power(symbol: string, exponent: number): string;
  readonly times: string;
  bracket(inner: string): string;
  fraction(above: string, below: string): string;
}

const typed: Script = {
  power: (symbol, exponent) =>
    symbol.startsWith('exp(') ? deadTime(symbol, exponent) : exponent === 1 ? symbol : `${symbol}^${exponent}`,
  times: '*',
  bracket: (inner) => `(${inner})`,
  fraction: (above, below) => `${bracketed(above, typed)}/${/^[\w^]+$/.test(below) ? below : `(${below})`}`,
};

const latex: Script = {
  power(symbol, exponent) {
    if (symbol.startsWith('exp(')) {
      const inner = deadTime(symbol, exponent).slice(4, -1);
      return `e^{${inner.replace(/(?<!\d)(\d+)\/(\d+)/, '\\frac{$1}{$2}').replaceAll('*', '\\,')}}`;
    }
    return exponent === 1 ? nameToLatex(symbol) : `${nameToLatex(symbol)}^{${exponent}}`;
  },
  times: '\\,',
  bracket: (inner) => `\\left(${inner}\\right)`,
  fraction: (above, below) => `\\frac{${above}}{${below}}`,
};

/** exp(-unit*factor*s) to a power: the unit multiplied. */
function deadTime(name: string, exponent: number): string {
  const [, above = '1', below = '1', rest] = /^exp\(-(?:(\d+)(?:\/(\d+))?\*)?(.*)\)$/.exec(name)!;
  const amount = BigInt(above) * BigInt(exponent);
  const divisor = BigInt(below);
  const whole = amount % divisor === 0n ? `${amount / divisor}` : `${amount}/${divisor}`;
  return `exp(-${whole === '1' ? '' : `${whole}*`}${rest})`;
}

const bracketed = (text: string, script: Script): string => (/[^^(][+-]/.test(text) ? script.bracket(text) : text);

/** A fraction as text that reads back as the same: sorted by falling powers of s. */
export const symbolicToText = (fraction: SymbolicFraction): string => write(fraction, typed);

/** A fraction as LaTeX, sorted by falling powers of s. */
export const symbolicToLatex = (fraction: SymbolicFraction): string => write(fraction, latex);

function write({ numerator, denominator }: SymbolicFraction, script: Script): string {
  const above = writePolynomial(numerator, script);
  const below = writePolynomial(denominator, script);
  return below === '1' ? above : script.fraction(above, below);
}

function writePolynomial(p: SymbolicPolynomial, script: Script): string {
  if (isNothing(p)) return '0';
  let text = '';
  const byPower = coefficientsIn(p, 0);
  for (let k = byPower.length - 1; k >= 0; k--) {
    const c = byPower[k]!;
    if (isNothing(c)) continue;
    const variable = k === 0 ? '' : script.power('s', k);
    if (c.terms.size > 1 && variable) {
      text += `${text ? '+' : ''}${script.bracket(writeSum(c, script))}${script.times}${variable}`;
    } else {
      const part = c.terms.size > 1 ? writeSum(c, script) : writeTerm([...c.terms][0]!, p, variable, script);
      text += text && !part.startsWith('-') ? `+${part}` : part;
    }
  }
  return text;
}

function writeSum(p: SymbolicPolynomial, script: Script): string {
  // Few factors first, as in 1 + G·H.
  const terms = [...p.terms].sort(([a], [b]) => factorsIn(a) - factorsIn(b) || (a < b ? 1 : -1));
  return terms
    .map((term) => writeTerm(term, p, '', script))
    .reduce((l, r) => (r.startsWith('-') ? l + r : `${l}+${r}`));
}

function factorsIn(key: string): number {
  let count = 0;
  for (let k = 0; k < key.length; k++) count += key.charCodeAt(k);
  return count;
}

function writeTerm([key, c]: [string, bigint], p: SymbolicPolynomial, variable: string, script: Script): string {
  const factors = p.ring.symbols.flatMap((symbol, k) =>
    key.charCodeAt(k) > 0 ? [script.power(symbol, key.charCodeAt(k))] : [],
  );
  if (variable) factors.push(variable);
  const size = absolute(c);
  if (size !== 1n || factors.length === 0) factors.unshift(size.toString());
  return `${c < 0n ? '-' : ''}${factors.join(script.times)}`;
}
