import { limits } from '../src/expression/limits';
import { parse } from '../src/expression/parse';
import { evaluate } from '../src/rational/evaluate';
import { fieldFor, type SymbolicFraction } from '../src/symbolic/fraction';

/** The fraction that an expression stands for, unbound names kept as symbols. */
export function symbolicOf(expression: string): SymbolicFraction {
  const tree = parse(expression);
  return evaluate(tree, fieldFor([tree], new Map(), limits.typedWork).algebra);
}
