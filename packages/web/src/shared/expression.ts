import {
  type Bindings,
  type Fraction,
  Problem,
  factoredToLatex,
  fractionOf,
  fractionToLatex,
  isProper,
  parse,
  toLatex,
} from '@nailset/core';

/** A typed expression, understood. */
export interface Reading {
  readonly fraction: Fraction;
  /** The same structure as typed. */
  readonly typed: string;
  readonly expanded: string;
  readonly factored: string;
}

export type Understood = { ok: true; reading: Reading } | { ok: false; problem: Problem; typed: string | null };

/** What a typed expression means with these values, or what is wrong with it and where. */
export function understand(text: string, bindings: Bindings, mustBeProper = true): Understood {
  let typed: string | null = null;
  try {
    const tree = parse(text);
    typed = toLatex(tree);
    const fraction = fractionOf(tree, bindings);
    if (mustBeProper && !isProper(fraction)) {
      throw new Problem('improper', 'More zeros than poles: above the line stands a higher power of s than below.');
    }
    return {
      ok: true,
      reading: { fraction, typed, expanded: fractionToLatex(fraction), factored: factoredToLatex(fraction) },
    };
  } catch (error) {
    if (error instanceof Problem) return { ok: false, problem: error, typed };
    throw error;
  }
}
