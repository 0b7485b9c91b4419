import { limits } from './limits.js';
import { must } from './must.js';
import { Problem } from './problem.js';

export type Token =
  | { kind: 'number'; text: string; at: number }
  | { kind: 'name'; text: string; at: number }
  | { kind: '+' | '-' | '*' | '/' | '^' | '(' | ')' | "'" | ','; at: number }
  | { kind: 'end'; at: number };

const number = /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y;
/** Letters and digits, also below the line. */
const name = /[\p{L}][\p{L}\p{Nd}_₀-₉]*/uy;
const space = /\s+/y;

/** Signs that people paste from documents, and what they stand for. */
const sameAs: Record<string, string> = {
  '−': '-',
  '–': '-',
  '·': '*',
  '×': '*',
  '⋅': '*',
  '[': '(',
  ']': ')',
  '’': "'",
  '′': "'",
};
const superscripts = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/**
 * Cuts typed text into tokens; a comma is one only between the values of a function.
 * @throws Problem `empty`, `tooLong`, `unexpectedCharacter`, `decimalComma` or `tooManyDigits`, with its position.
 */
export function tokensOf(text: string, { commas = false } = {}): Token[] {
  if (text.length > limits.length) {
    throw new Problem(
      'tooLong',
      `This is ${text.length.toLocaleString('en')} characters long; at most ${limits.length} are read.`,
      limits.length,
    );
  }
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
    const digits = match(number);
    if (digits) {
      checkDigits(digits, at);
      tokens.push({ kind: 'number', text: digits, at });
      at += digits.length;
      continue;
    }
    const word = match(name);
    if (word) {
      tokens.push({ kind: 'name', text: word, at });
      at += word.length;
      continue;
    }
    const character = must(text[at]);
    const power = superscripts.indexOf(character);
    if (power >= 0) {
      tokens.push({ kind: '^', at }, { kind: 'number', text: String(power), at });
      at += 1;
      continue;
    }
    const sign = sameAs[character] ?? character;
    if (!isSign(sign) || (sign === ',' && !commas)) throw unexpected(character, at, text);
    tokens.push({ kind: sign, at });
    at += 1;
  }
  if (tokens.length === 0) throw new Problem('empty', 'Nothing is typed here yet.', 0);
  tokens.push({ kind: 'end', at: text.length });
  return tokens;
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
