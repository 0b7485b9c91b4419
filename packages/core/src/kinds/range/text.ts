import { numberFromText } from '../../checking/numberText.js';
import { formatNumber } from '../../checking/words.js';
import { must } from '../../expression/must.js';
import { withPoints } from '../../expression/pieces.js';
import { orElse, Problem } from '../../expression/problem.js';
import type { Range } from '../../locus/stableRanges.js';

const letter = String.raw`[\p{L}][\p{L}\p{Nd}_]*`;
const isLetter = new RegExp(`^${letter}$`, 'u');
const inside = new RegExp(`^${letter}\\s*(?:∈|in\\b)\\s*`, 'u');
const interval = /[([\]]([^()[\],;<>]+)[,;]([^()[\],;<>]+)[)\][]/g;
/** An interval whose ends a semicolon parts, so that commas in them are decimal ones. */
const halves = /[([\]]([^()[\];<>]+);([^()[\];<>]+)[)\][]/g;
const nothing = new RegExp(`^(?:none|∅|\\{\\s*\\}|no ${letter}|never)\\.?$`, 'iu');

/** What one piece says: an inequality with one end, or a stretch with two. */
interface Piece {
  readonly range: Range;
  readonly twoSided: boolean;
}

/**
 * Ranges of a gain above 0. `0 < K < 42`, `K > 3/2`, `> 1.5`, `(0, 5)`, `[0, 5[`, `K ∈ (1.5, ∞)`, `2 to 9`. “and”, and a
 * comma between two inequalities with one end each, mean that both hold; “or”, ∪, a semicolon, a new line, and any other
 * comma mean that one of them does. What lies below 0 is cut off; ranges that overlap become one. “none”, “no K” and ∅
 * for none.
 * @throws Problem `notANumber` naming the piece that cannot be read or holds nothing.
 */
export function rangesFromText(text: string): Range[] {
  const bare = text
    .replaceAll('−', '-')
    .replace(/<=|≤|⩽/g, '<')
    .replace(/>=|≥|⩾/g, '>')
    .replace(/infinity|\binf\b/gi, '∞')
    .trim();
  if (bare === '') throw new Problem('empty', 'Type the range first.');
  if (nothing.test(bare)) return [];
  const ends = (_whole: string, from: string, to: string) => ` ${from.trim()}…${to.trim()} `;
  // What is left of commas between digits are decimal ones.
  const written = withPoints(bare.replace(halves, ends).replace(interval, ends));
  const ranges = written
    .split(/\bor\b|∪|[;\n|]/i)
    .map((words) => words.trim())
    .filter(Boolean)
    .flatMap(rangesOf);
  return united(ranges);
}

/** The ranges of pieces that stand between “or”s. */
function rangesOf(words: string): Range[] {
  const all = words.split(/\band\b|∧|&/i).map((part) => listed(part.trim()));
  // (a or b) and (c or d)
  const together = all.reduce((before, next) => before.flatMap((a) => next.map((b) => common(a, b))));
  return together.map(([from, to]) => {
    if (from < to && to > 0) return [Math.max(0, from), to];
    throw new Problem(
      'notANumber',
      all.length > 1 || words.includes(',')
        ? `“${words}”: together these hold for no gain above 0; with “or” between them each counts by itself.`
        : `“${words}” holds no gain above 0: the lower end stands first.`,
    );
  });
}

const common = ([a, b]: Range, [c, d]: Range): Range => [Math.max(a, c), Math.min(b, d)];

/** Pieces between commas. */
function listed(words: string): Range[] {
  const pieces = words
    .split(',')
    .map((piece) => piece.trim())
    .filter(Boolean)
    .map(pieceOf);
  if (pieces.length === 0) throw unreadable(words);
  const ranges: Range[] = [];
  pieces.forEach(({ range, twoSided }, k) => {
    const before = pieces[k - 1];
    const last = ranges.at(-1);
    if (last && before && !before.twoSided && !twoSided) ranges[ranges.length - 1] = common(last, range);
    else ranges.push(range);
  });
  return ranges;
}

function pieceOf(words: string): Piece {
  const bare = words.replace(inside, '');
  const between = /…|\.{2,}|\bto\b/.exec(bare);
  if (between) {
    const [from, to] = [bare.slice(0, between.index), bare.slice(between.index + between[0].length)];
    return { range: [endOf(from, words), endOf(to, words)], twoSided: true };
  }
  const signs = bare.match(/[<>]/g) ?? [];
  const sides = bare.split(/[<>]/).map((side) => side.trim());
  const rising = signs[0] === '<';
  if (signs.length === 2 && signs[0] === signs[1] && isLetter.test(must(sides[1]))) {
    const [a, b] = [endOf(must(sides[0]), words), endOf(must(sides[2]), words)];
    return { range: rising ? [a, b] : [b, a], twoSided: true };
  }
  if (signs.length !== 1) throw unreadable(words);
  const [left, right] = sides as [string, string];
  const letterLeft = left === '' || isLetter.test(left);
  if (!letterLeft && !(right === '' || isLetter.test(right))) throw unreadable(words);
  const end = endOf(letterLeft ? right : left, words);
  const isLower = letterLeft ? !rising : rising;
  return { range: isLower ? [end, Infinity] : [-Infinity, end], twoSided: false };
}

function endOf(text: string, words: string): number {
  const endless = /^([+-]?)\s*∞$/.exec(text.trim());
  if (endless) return endless[1] === '-' ? -Infinity : Infinity;
  const value = orElse(NaN, () => numberFromText(text, ''));
  if (Number.isNaN(value)) throw unreadable(words);
  return value;
}

function unreadable(words: string): Problem {
  const asTyped = words.split(/\s+/).map((word) => (word.includes('…') ? `(${word.replace('…', ', ')})` : word));
  return new Problem(
    'notANumber',
    `“${asTyped.join(' ')}” is not a range; write 0 < K < 42, K > 3, or several with “or”.`,
  );
}

function united(ranges: readonly Range[]): Range[] {
  const result: [number, number][] = [];
  for (const [from, to] of [...ranges].sort(([a], [b]) => a - b)) {
    const last = result.at(-1);
    if (last && from < last[1]) last[1] = Math.max(last[1], to);
    else result.push([from, to]);
  }
  return result;
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
