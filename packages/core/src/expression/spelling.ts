/**
 * What people print, paste and copy, in the plain spelling of the grammar: signs of documents, powers above the line,
 * LaTeX and program code. Every rule looks at a bounded piece of text, so the work grows with its length only.
 */

/** A text in plain spelling; `place` leads from a position in it to the one in the text as it was typed. */
export interface Spelled {
  readonly text: string;
  readonly place: (at: number) => number;
}

/** Nothing that is seen: zero-width spaces and joiners, byte order marks, soft hyphens. */
const unseen = /[\u200b-\u200f\u2060\ufeff\u00ad]/y;

const signs: Readonly<Record<string, string>> = {
  ...{ '−': '-', '–': '-', '—': '-', '‐': '-', '‑': '-', '﹣': '-', '－': '-', '＋': '+' },
  ...{ '·': '*', '×': '*', '⋅': '*', '∙': '*', '•': '*', '∗': '*', '＊': '*' },
  ...{ '÷': '/', '∕': '/', '⁄': '/', '／': '/' },
  ...{ '[': '(', ']': ')', '{': '(', '}': ')', '（': '(', '）': ')', '’': "'", '′': "'" },
  ...{ '½': '(1/2)', '⅓': '(1/3)', '⅔': '(2/3)', '¼': '(1/4)', '¾': '(3/4)', '⅕': '(1/5)', '⅛': '(1/8)' },
  ...{ π: ' pi ', '√': ' sqrt ', '∞': ' infinity ' },
};

const raised = '⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻';
const plainOf = '0123456789+-';
const power = /[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻]{1,12}/y;

/** LaTeX commands that only set type. */
const silent =
  /\\(?:left|right|displaystyle|textstyle|big|Big|bigl|bigr|mathrm|mathit|text|operatorname|quad|qquad|[,;:! ()[\]])/y;
const fraction = /\\[dt]?frac(?![a-z])\s{0,20}/y;
const product = /\\(?:cdot|times|ast)(?![a-z])/y;
const division = /\\div(?![a-z])/y;
const letter = /\\([A-Za-z]{1,12})/y;
/** An index in braces, as in `K_{p}`. */
const index = /_\{([\p{L}\p{Nd},]{1,12})\}/uy;

/** Rewrites typed text in plain spelling. What it does not know it leaves as it is. */
export function spelled(typed: string): Spelled {
  const out: string[] = [];
  const from: number[] = [];
  let at = 0;
  const put = (text: string, position = at): void => {
    for (const character of text.split('')) {
      out.push(character);
      from.push(position);
    }
  };
  const match = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    return pattern.exec(typed);
  };
  /** Where fractions wait for their second half, by the depth of braces at which the first ends. */
  const halves: { depth: number; second: boolean }[] = [];
  let depth = 0;
  while (at < typed.length) {
    const place = rule();
    if (place > 0) {
      at += place;
      continue;
    }
    const character = typed.charAt(at);
    if (character === '{') depth += 1;
    if (character === '}') depth -= 1;
    put(signs[character] ?? character);
    const half = halves.at(-1);
    if (character === '}' && half?.depth === depth) {
      if (half.second) {
        put(')');
        halves.pop();
      } else {
        put('/');
        half.second = true;
      }
    }
    at += 1;
  }
  return { text: out.join(''), place: (position) => from[position] ?? typed.length };

  /** Takes one rule’s piece and gives its length; 0 where none fits. */
  function rule(): number {
    const character = typed.charAt(at);
    const gone = match(unseen);
    if (gone) return gone[0].length;
    if (character === '$') {
      put(' ');
      return 1;
    }
    if (character === '*' && typed.charAt(at + 1) === '*') {
      put('^');
      return 2;
    }
    const exponent = match(power);
    if (exponent) {
      const digits = exponent[0].replace(/./g, (sign) => plainOf.charAt(raised.indexOf(sign)));
      put(/^\d+$/.test(digits) ? `^${digits}` : `^(${digits})`);
      return exponent[0].length;
    }
    const below = match(index);
    if (below) {
      put(`_${(below[1] ?? '').replaceAll(',', '')}`);
      return below[0].length;
    }
    return character === '\\' ? latex() : 0;
  }

  function latex(): number {
    const quotient = match(fraction);
    if (quotient) {
      const start = at + quotient[0].length;
      if (typed.charAt(start) === '{') {
        put('(');
        halves.push({ depth, second: false });
        return quotient[0].length;
      }
      // As in \frac12.
      const short = /^[\p{L}\p{Nd}]{2}/u.exec(typed.slice(start, start + 4));
      if (!short) return 0;
      put(`(${short[0].charAt(0)}/${short[0].charAt(1)})`);
      return quotient[0].length + 2;
    }
    if (match(product)) {
      put('*');
      return match(product)?.[0].length ?? 0;
    }
    if (match(division)) {
      put('/');
      return match(division)?.[0].length ?? 0;
    }
    const gone = match(silent);
    if (gone) {
      put(' ');
      return gone[0].length;
    }
    const name = match(letter);
    if (!name) return 0;
    const word = name[1] ?? '';
    put(word === 'infty' ? 'infinity' : `${/[\p{L}\p{Nd}]/u.test(out.at(-1) ?? '') ? ' ' : ''}${word}`);
    return name[0].length;
  }
}

/** `G(s) =`, `Y/R =`, `y/r:` or `K_p =` in front of what is said of it. */
const label =
  /^\s{0,20}\p{L}[\p{L}\p{Nd}_₀-₉']{0,20}(?:\(s\))?(?:\s{0,5}\/\s{0,5}\p{L}[\p{L}\p{Nd}_₀-₉']{0,20}(?:\(s\))?)?\s{0,20}(?:=|:=|:|≈)\s{0,20}(?=\S)/u;
const about = /^\s{0,20}[=≈~∼]\s{0,20}(?=\S)/;

/** How many characters in front only name what follows; 0 for none. */
export const labelLength = (text: string): number => (label.exec(text) ?? about.exec(text))?.[0].length ?? 0;

/** Where the text ends but for a full stop or a semicolon behind it. */
export const endOf = (text: string): number => {
  let end = text.length;
  while (end > 0 && /[\s.;]/.test(text.charAt(end - 1))) end -= 1;
  // `5.` is a number.
  return end;
};
