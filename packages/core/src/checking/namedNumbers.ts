import type { Settings } from '../exercise/answer.js';
import { Problem } from '../expression/problem.js';

/** Numbers by name, as in “Kp = 14, Ki = 5” in any order, or bare numbers in the given order. */
export function namedNumbers(names: readonly string[], text: string): Settings {
  const texts: Settings = {};
  text
    .replace(/[,;\s]+/g, ' ')
    .replace(/ ?[=:] ?/g, '=')
    .split(' ')
    .filter(Boolean)
    .forEach((piece, k) => {
      const [name, value] = piece.includes('=') ? (piece.split('=') as [string, string]) : [names[k] ?? '', piece];
      const knownName = names.find((known) => known.toLowerCase() === name.trim().toLowerCase());
      if (!knownName || texts[knownName] !== undefined) {
        throw new Problem('notANumber', `“${piece}” is not one of ${names.join(', ')}, as in ${names[0]} = 14.`);
      }
      texts[knownName] = value;
    });
  return texts;
}
