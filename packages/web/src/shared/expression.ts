import {
  delayedToLatex,
  factoredToLatex,
  type Fraction,
  isProper,
  numberFrom,
  parseFormula,
  Problem,
  readingNotes,
  type Scope,
  systemFrom,
  toLatex,
  type Tree,
  typedTransferFrom,
  typedTree,
  withDeadTime,
  withKnownLetters,
} from '@nailset/core';

/** A typed expression, understood. */
export interface Reading {
  /** Without its dead time. */
  readonly fraction: Fraction;
  /** In seconds. */
  readonly deadTime: number;
  /** The same structure as typed. */
  readonly typed: string;
  /** Which of several readings was taken. */
  readonly notes: readonly string[];
  readonly expanded: string;
  readonly factored: string;
}

export type Understood<Of = Reading> =
  { ok: true; reading: Of } | { ok: false; problem: Problem; typed: string | null };

/**
 * What a typed expression means with these values, or what is wrong with it and where. With `formula`, it may use the
 * functions of formulas.
 */
export function understand(text: string, scope: Scope, { mustBeProper = true, formula = false } = {}): Understood {
  return reading(text, scope, formula, (tree, typed) => {
    const plain = withDeadTime(formula ? systemFrom(tree, scope) : typedTransferFrom(tree, scope.names));
    if (!plain)
      throw new Problem('deadTime', 'Dead time stands inside a loop here; that cannot be shown as one fraction.');
    const { fraction } = plain;
    if (mustBeProper && !isProper(fraction)) {
      throw new Problem('improper', 'More zeros than poles: above the line stands a higher power of s than below.');
    }
    const deadTime = Number(plain.deadTime.numerator) / Number(plain.deadTime.denominator);
    return {
      fraction,
      deadTime,
      typed,
      notes: readingNotes(tree),
      expanded: delayedToLatex(fraction, deadTime),
      factored: factoredToLatex(fraction) + (deadTime === 0 ? '' : `\\,e^{-${Number(deadTime.toPrecision(4))}\\,s}`),
    };
  });
}

/** The number that a formula means with these values. */
export function understandNumber(text: string, scope: Scope): Understood<{ typed: string; value: number }> {
  return reading(text, scope, true, (tree, typed) => ({ typed, value: numberFrom(tree, scope) }));
}

function reading<Of>(
  text: string,
  scope: Scope,
  formula: boolean,
  work: (tree: Tree, typed: string) => Of,
): Understood<Of> {
  let typed: string | null = null;
  try {
    const tree = formula
      ? withKnownLetters(parseFormula(text), [...scope.names.keys()])
      : typedTree(text, scope.names.keys());
    typed = toLatex(tree);
    return { ok: true, reading: work(tree, typed) };
  } catch (error) {
    if (error instanceof Problem) return { ok: false, problem: error, typed };
    throw error;
  }
}
