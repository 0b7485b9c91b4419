import { withKnownLetters } from '../expression/letters.js';
import { limits } from '../expression/limits.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { toText } from '../expression/text.js';
import { namesIn } from '../expression/tree.js';
import { evaluate } from '../rational/evaluate.js';
import { fieldFor, inLowestTerms, isSameSymbolic } from '../symbolic/fraction.js';
import { symbolicToText } from '../symbolic/text.js';

/** A factor in lowest terms, written as one fraction; as it is where that grows too large. @throws Problem `divisionByZero`. */
export function simplifiedGain(text: string): string {
  const tree = parse(text);
  if (tree.kind === 'name' || tree.kind === 'number') return toText(tree);
  try {
    const { algebra } = fieldFor([tree], new Map(), limits.typedWork);
    return symbolicToText(inLowestTerms(evaluate(tree, algebra)));
  } catch (error) {
    if (error instanceof Problem && error.code !== 'divisionByZero') return toText(tree);
    throw error;
  }
}

/**
 * Whether two factors are the same function, names standing for themselves; a name of the first may be another spelling
 * of one of the second. @throws Problem for what cannot be read.
 */
export function isSameGain(left: string, right: string): boolean {
  const meant = parse(right);
  const trees = [withKnownLetters(parse(left), namesIn(meant)), meant];
  const { algebra } = fieldFor(trees, new Map(), limits.work);
  const [a, b] = trees.map((tree) => evaluate(tree, algebra));
  return isSameSymbolic(a!, b!);
}

/** Product of factors, simplified. */
export const productOfGains = (...gains: readonly string[]): string =>
  simplifiedGain(gains.map((gain) => `(${gain})`).join('*'));

/** Sum of factors with their signs, simplified. */
export const sumOfGains = (terms: readonly (readonly [sign: 1 | -1, gain: string])[]): string =>
  simplifiedGain(terms.map(([sign, gain]) => `${sign > 0 ? '+' : '-'}(${gain})`).join(''));

/** forward/(1 − sign·loop), simplified. */
export const loopGain = (forward: string, loop: string, sign: 1 | -1): string =>
  simplifiedGain(`(${forward})/(1 ${sign > 0 ? '-' : '+'} (${loop}))`);

/** One over a factor, simplified. */
export const inverseGain = (gain: string): string => simplifiedGain(`1/(${gain})`);
