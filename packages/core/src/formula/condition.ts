import { Problem } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { numberFrom, parseFormula, type Scope } from './evaluate.js';

/** A condition such as `5 <= overshootPercent(T) <= 40` or `stable(T)`, read. */
export interface Condition {
  readonly sides: readonly Tree[];
  readonly signs: readonly ('<' | '<=' | '>' | '>=')[];
}

const comparison = /<=|>=|[<>≤≥]/g;
const sameAs: Record<string, Condition['signs'][number]> = { '≤': '<=', '≥': '>=' };

/** Reads comparisons in a row; without one, the value must not be zero. @throws Problem with the position of the mistake. */
export function readCondition(text: string): Condition {
  const signs: Condition['signs'][number][] = [];
  const sides: Tree[] = [];
  let from = 0;
  // Blanks in front, so that positions count from the start of the text.
  const side = (to: number): void => void sides.push(parseFormula(' '.repeat(from) + text.slice(from, to)));
  for (const match of text.matchAll(comparison)) {
    side(match.index);
    signs.push(sameAs[match[0]] ?? (match[0] as Condition['signs'][number]));
    from = match.index + match[0].length;
  }
  side(text.length);
  if (sides.length > 3) throw new Problem('exercise', 'At most two comparisons stand in a row.', from);
  return { sides, signs };
}

/** Whether the condition holds; a value that the system does not have holds nothing. @throws Problem when it cannot be worked out. */
export function holds({ sides, signs }: Condition, scope: Scope): boolean {
  const values = sides.map((side) => valueOrNone(side, scope));
  if (signs.length === 0) return values[0] !== null && values[0] !== 0;
  return signs.every((sign, k) => {
    const [left, right] = [values[k]!, values[k + 1]!];
    if (left === null || right === null) return false;
    switch (sign) {
      case '<':
        return left < right;
      case '<=':
        return left <= right;
      case '>':
        return left > right;
      case '>=':
        return left >= right;
    }
  });
}

function valueOrNone(side: Tree, scope: Scope): number | null {
  try {
    return numberFrom(side, scope);
  } catch (error) {
    if (error instanceof Problem && error.code === 'exercise') return null;
    throw error;
  }
}
