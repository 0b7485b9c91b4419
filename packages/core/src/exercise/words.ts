import { must } from '../expression/must.js';
import { orElse } from '../expression/problem.js';
import { parseFormula, type Scope, valueOf } from '../formula/evaluate.js';
import { rationalToNumber } from '../rational/number.js';
import { delayedToLatex } from '../system/latex.js';
import { withDeadTime } from '../system/transfer.js';
import { constantOf } from '../system/transferAlgebra.js';
import type { DrawValues } from './document.js';

/**
 * Replaces `{{symbol}}` by the student's value and `{{formula}}` by what it stands for: a number with four significant
 * digits, or a transfer function in LaTeX. Other braces stay.
 */
export function insertValues(text: string, values: DrawValues, scope?: Scope): string {
  return text.replace(inBraces, (whole, inner: string) => inserted(inner.trim(), values, scope) ?? whole);
}

/**
 * What stands in double braces and is left as it is, although it was meant to be replaced: anything between words, and
 * between dollar signs, where braces are LaTeX too, a name or a call.
 */
export function leftInBraces(text: string, values: DrawValues, scope: Scope): string[] {
  // Every second piece lies between dollar signs.
  return text.split(/\$+/).flatMap((piece, k) =>
    Array.from(piece.matchAll(inBraces), ([, inner]) => must(inner).trim())
      .filter((inner) => !isNumber(inner) && (k % 2 === 0 || /^[A-Za-z]\w*(\(.*\))?$/.test(inner)))
      .filter((inner) => inserted(inner, values, scope) === undefined),
  );
}

const inBraces = /\{\{([^{}]+)\}\}/g;

const inserted = (inner: string, values: DrawValues, scope: Scope | undefined): string | undefined =>
  Object.hasOwn(values, inner) ? values[inner] : scope && written(inner, scope);

/** A number in double braces is LaTeX, not a formula. */
const isNumber = (inner: string): boolean => /^[\d.\s]+$/.test(inner);

function written(formula: string, scope: Scope): string | undefined {
  if (isNumber(formula)) return undefined;
  return orElse(undefined, () => {
    const value = valueOf(parseFormula(formula), scope);
    if (typeof value === 'number') return shortNumber(value);
    const exact = constantOf(value);
    if (exact) return shortNumber(rationalToNumber(exact));
    const plain = withDeadTime(value);
    return plain ? delayedToLatex(plain.fraction, rationalToNumber(plain.deadTime)) : undefined;
  });
}

const shortNumber = (value: number): string => String(Number(value.toPrecision(4)));
