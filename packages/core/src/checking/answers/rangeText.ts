import { Problem } from '../../expression/problem.js';
import type { Range } from '../../locus/stableRanges.js';
import { formatNumber } from '../words.js';

const decimal = String.raw`[+-]?(?:(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?|inf)`;
const letter = String.raw`[a-zα-ω][\w]*`;
const forms: readonly [RegExp, (a: number, b: number) => Range][] = [
  [new RegExp(`^(${decimal})<${letter}<(${decimal})$`), (a, b) => [a, b]],
  [new RegExp(`^(${decimal})>${letter}>(${decimal})$`), (a, b) => [b, a]],
  [new RegExp(`^${letter}<(${decimal})$`), (a) => [-Infinity, a]],
  [new RegExp(`^(${decimal})>${letter}$`), (a) => [-Infinity, a]],
  [new RegExp(`^${letter}>(${decimal})$`), (a) => [a, Infinity]],
  [new RegExp(`^(${decimal})<${letter}$`), (a) => [a, Infinity]],
  [new RegExp(`^(${decimal})(?:\\.\\.|to)(${decimal})$`), (a, b) => [a, b]],
];

const numberOf = (text: string | undefined): number =>
  text === undefined ? NaN : Number(text.replace('inf', 'Infinity'));

/**
 * Ranges of a gain such as `0 < K < 42`, `K > 3`, `(0, 5) or (9, inf)`, separated by “or”, commas or semicolons; what
 * lies below 0 is cut off. “none” for none.
 * @throws Problem `notANumber` naming the piece that cannot be read.
 */
export function rangesFromText(text: string): Range[] {
  const bare = text
    .toLowerCase()
    .replaceAll('−', '-')
    .replace(/<=|≤/g, '<')
    .replace(/>=|≥/g, '>')
    .replace(/∞|infinity/g, 'inf')
    .replace(/[([]\s*([^,;()[\]]+)[,;]\s*([^,;()[\]]+)[)\]]/g, ' $1 to $2 ');
  if (bare.trim() === '') throw new Problem('empty', 'Type the range first.');
  if (/^\s*none\.?\s*$/.test(bare)) return [];
  return bare
    .split(/\bor\b|\band\b|[,;∪\n|]/)
    .map((piece) => piece.replace(/\s+/g, ''))
    .filter(Boolean)
    .map((piece): Range => {
      for (const [form, make] of forms) {
        const found = form.exec(piece);
        if (!found) continue;
        const [from, to] = make(numberOf(found[1]), numberOf(found[2]));
        if (from < to && to > 0) return [Math.max(0, from), to];
        throw new Problem('notANumber', `“${piece}” holds no gain above 0: the lower end stands first.`);
      }
      throw new Problem('notANumber', `“${piece}” is not a range; write 0 < K < 42, K > 3, or several with “or”.`);
    })
    .sort(([a], [b]) => a - b);
}

/** A range as people write it. */
export const rangeWords = ([from, to]: Range): string =>
  to === Infinity ? `K > ${formatNumber(from)}` : `${formatNumber(from)} < K < ${formatNumber(to)}`;

/** Ranges as they could be typed. */
export const textOfRanges = (ranges: readonly Range[]): string =>
  ranges.length === 0
    ? 'none'
    : ranges
        .map(([from, to]) => {
          const short = (value: number): string => String(Number(value.toPrecision(6)));
          return to === Infinity ? `K > ${short(from)}` : `${short(from)} < K < ${short(to)}`;
        })
        .join(' or ');
