import type { Model } from '../../checking/model.js';
import { onlyOne, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import { must } from '../../expression/must.js';
import type { Range } from '../../locus/stableRanges.js';
import { systemOf } from '../../system/system.js';
import { expectedRanges, isSameRange, loopOfRange } from './check.js';
import type { RangePart } from './part.js';
import { rangesFromText, textOfRanges } from './text.js';

interface Candidate extends Slip {
  readonly ranges: readonly Range[];
}

/** What is usually taken for the stable range. */
function candidates(part: RangePart, model: Model): Candidate[] {
  const expected = expectedRanges(part, model);
  const { gain } = systemOf(loopOfRange(part, model).fraction);
  const ends = [0, ...expected.flat(), Infinity];
  const others = ends.flatMap((from, k): Range[] =>
    k % 2 === 0 && must(ends[k + 1]) > from ? [[from, must(ends[k + 1])]] : [],
  );
  const likely: Candidate[] = [
    { id: 'turned', words: 'With these gains the loop is unstable, with the others stable.', ranges: others },
    {
      id: 'ownConstant',
      words: 'These ends leave out the constant factor of the loop itself.',
      ranges: expected.map(([from, to]): Range => [from * gain, to * gain]),
    },
    {
      id: 'onlyFirst',
      words: 'Beyond an unstable stretch the loop is stable once more.',
      ranges: expected.slice(0, 1),
    },
    {
      id: 'lowerEnd',
      words: 'Below some gain the loop is unstable as well: the range does not begin at 0.',
      ranges: expected.map(([, to]): Range => [0, to]),
    },
  ];
  return likely.filter(({ ranges }) => ranges.length > 0 && !isSame(part, expected, ranges));
}

const isSame = (part: RangePart, expected: readonly Range[], given: readonly Range[]): boolean =>
  expected.length === given.length && expected.every((range, k) => isSameRange(part, range, must(given[k])));

/** What ranges go wrong by, if exactly one usual slip leads to them. */
export function slipOfRange(part: RangePart, model: Model, text: string): Slip | undefined {
  const given = rangesFromText(text);
  return onlyOne(candidates(part, model).filter(({ ranges }) => isSame(part, ranges, given)));
}

/** Slips as answers that could have been typed. */
export const wrongRanges = (part: RangePart, model: Model): WrongAnswer[] =>
  candidates(part, model).map(({ id, words, ranges }) => ({
    ...{ id, words },
    answer: { kind: 'range' as const, text: textOfRanges(ranges) },
  }));
