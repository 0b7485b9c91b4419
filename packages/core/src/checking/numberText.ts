import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { rationalToNumber } from '../rational/number.js';
import { constantOf, transferFrom } from '../system/transferAlgebra.js';

/**
 * The number that a student typed, its unit allowed behind it; a constant expression such as 1/8 and a decimal
 * comma count.
 * @throws Problem with the position of the mistake.
 */
export function numberFromText(text: string, unit: string): number {
  // Nothing but one number can be meant, so a comma between digits is a decimal one.
  const bare = withoutUnit(text, unit).replace(/(\d),(?=\d)/, '$1.');
  const tree = parse(bare);
  const exact = constantOf(transferFrom(tree, new Map()));
  if (!exact) throw new Problem('notANumber', 'A number is asked for, without s.', tree.at);
  return rationalToNumber(exact);
}

const degrees = ['°', 'degrees', 'deg'];

function withoutUnit(text: string, unit: string): string {
  const trimmed = text.trimEnd();
  const found = (degrees.includes(unit) ? degrees : [unit]).find((end) => end !== '' && trimmed.endsWith(end));
  return found === undefined ? text : trimmed.slice(0, -found.length);
}
