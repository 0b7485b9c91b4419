import { limits } from './limits.js';
import { must } from './must.js';
import { Problem } from './problem.js';
import { endOf, labelLength, spelled } from './spelling.js';

export type Token =
  | { kind: 'number'; text: string; at: number }
  | { kind: 'name'; text: string; at: number }
  | { kind: '+' | '-' | '*' | '/' | '^' | '(' | ')' | "'" | ','; at: number }
  | { kind: 'end'; at: number };

const number = /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y;
/** Where no list can be meant, a comma between digits is a decimal one. */
const numberWithComma = /(?:\d+(?:\.\d*|,\d+(?![.\d,]))?|\.\d+)(?:[eE][+-]?\d+)?/y;
/** Letters and digits, also below the line. */
const name = /[\p{L}][\p{L}\p{Nd}_₀-₉]*/uy;
const unit = /[ij](?=\d)/y;
/** As a bracket it would be read as what the root is of. */
const rootOrder = /\\sqrt\s{0,3}\[/;
const space = /\s+/y;

/**
 * Cuts typed text into tokens; a comma is one only between the values of a function. With `imaginary`, a number may
 * stand right behind j.
 * @throws Problem `empty`, `tooLong`, `unexpectedCharacter`, `decimalComma` or `tooManyDigits`, with its position.
 */
export function tokensOf(typed: string, { commas = false, imaginary = false } = {}): Token[] {
  if (typed.length > limits.length) {
    throw new Problem(
      'tooLong',
      `This is ${typed.length.toLocaleString('en')} characters long; at most ${limits.length} are read.`,
      limits.length,
    );
  }
  const order = rootOrder.exec(typed);
  if (order) {
    const words = 'A root of another order is typed as a power: 8^(1/3), not \\sqrt[3]{8}.';
    throw new Problem('unexpectedCharacter', words, order.index);
  }
  const start = labelLength(typed);
  const { text, place } = spelled(typed.slice(start, Math.max(start, endOf(typed))));
  try {
    return cut(text, commas, imaginary).map((token) => ({ ...token, at: start + place(token.at) }));
  } catch (error) {
    throw error instanceof Problem ? new Problem(error.code, error.message, start + place(error.at)) : error;
  }
}

/** The tokens of a text in plain spelling. */
function cut(text: string, commas: boolean, imaginary: boolean): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  const match = (pattern: RegExp): string | undefined => {
    pattern.lastIndex = at;
    return pattern.exec(text)?.[0];
  };
  while (at < text.length) {
    const blank = match(space);
    if (blank) {
      at += blank.length;
      continue;
    }
    const digits = match(commas ? number : numberWithComma);
    if (digits) {
      checkDigits(digits.replace(',', '.'), at);
      tokens.push({ kind: 'number', text: digits.replace(',', '.'), at });
      at += digits.length;
      continue;
    }
    const word = match(name);
    if (word) {
      const first = (imaginary && match(unit)) || firstName(word);
      tokens.push({ kind: 'name', text: first, at });
      at += first.length;
      continue;
    }
    const character = must(text[at]);
    if (!isSign(character) || (character === ',' && !commas)) throw unexpected(character, at, text);
    tokens.push({ kind: character, at });
    at += 1;
  }
  if (tokens.length === 0) throw new Problem('empty', 'Nothing is typed here yet.', 0);
  tokens.push({ kind: 'end', at: text.length });
  return tokens;
}

/** √ before a number, as in `\sqrt2` and `sqrt2`. */
const rootOfNumber = /^sqrt(?=\d)/;

/** A Greek letter within a word begins another name, as in 2ζωₙs, but for what Δ stands before. */
function firstName(word: string): string {
  if (rootOfNumber.test(word)) return 'sqrt';
  const [first] = /^(?:Δ?.)[^\p{Script=Greek}]*/u.exec(word) ?? [];
  return first ?? word;
}

function isSign(text: string): text is Exclude<Token['kind'], 'number' | 'name' | 'end'> {
  return text.length === 1 && "+-*/^()',".includes(text);
}

function checkDigits(text: string, at: number): void {
  const [mantissa, exponent] = text.split(/[eE]/);
  if (must(mantissa).replace('.', '').length > limits.digits) {
    throw new Problem('tooManyDigits', `A number may have at most ${limits.digits} digits.`, at);
  }
  if (exponent !== undefined && Math.abs(Number(exponent)) > limits.decimalExponent) {
    throw new Problem(
      'tooManyDigits',
      `Powers of ten go from −${limits.decimalExponent} to ${limits.decimalExponent}.`,
      at,
    );
  }
}

function unexpected(character: string, at: number, text: string): Problem {
  if (character === ',' && /\d/.test(text[at - 1] ?? '') && /\d/.test(text[at + 1] ?? '')) {
    return new Problem('decimalComma', 'Decimals take a point: 1.5, not 1,5.', at);
  }
  const shown = /[\p{C}]/u.test(character) ? 'An invisible character' : `“${character}”`;
  return new Problem('unexpectedCharacter', `${shown} has no meaning in an expression.`, at);
}
