import type { Model } from '../../checking/model.js';
import type { VerdictItem } from '../../checking/verdict.js';
import { plain, verdictOf } from '../../checking/verdictOf.js';
import { formatNumber } from '../../checking/words.js';
import type { Samples } from '../../exercise/seen.js';
import { systemFrom } from '../../formula/evaluate.js';
import { type Range, stableGainsWithDeadTime } from '../../locus/stableRanges.js';
import { rationalFromNumber } from '../../rational/number.js';
import { asDelayedFraction, inSeries, unityFeedback } from '../../system/transfer.js';
import { constantTransfer } from '../../system/transferAlgebra.js';
import type { Checking } from '../kind.js';
import { responseTried } from '../shown.js';
import type { RangePart } from './part.js';
import { rangesFromText, rangeWords } from './text.js';

/** The loop whose stable gains are asked for. */
export const loopOfRange = (part: RangePart, { scope }: Model) =>
  asDelayedFraction(systemFrom(part.of, scope), 'The range of stable gains');

/** All gains K > 0 with which the loop K·L is stable; ranges that only a single gain parts are joined. */
export function expectedRanges(part: RangePart, model: Model): Range[] {
  const { fraction, deadTime } = loopOfRange(part, model);
  const joined: [number, number][] = [];
  for (const [from, to] of stableGainsWithDeadTime(fraction, rationalFromNumber(deadTime))) {
    const last = joined.at(-1);
    if (last && from <= last[1] * (1 + 1e-9)) last[1] = to;
    else joined.push([from, to]);
  }
  return joined;
}

/** Whether two ends are the same within the tolerance; ends at 0 and without limit are themselves. */
function isSameEnd(part: RangePart, expected: number, given: number): boolean {
  if (expected === given) return true;
  if (!Number.isFinite(expected) || !Number.isFinite(given)) return false;
  return Math.abs(given - expected) <= (Math.max(part.tolerancePercent, 1e-4) / 100) * Math.abs(expected);
}

export const isSameRange = (part: RangePart, expected: Range, given: Range): boolean =>
  isSameEnd(part, expected[0], given[0]) && isSameEnd(part, expected[1], given[1]);

/** How far inside a stretch a gain is tried: well away from its ends, which rounding moves. */
const wellInside = 0.05;

/** A gain that was tried, and what came of it. */
interface Tried {
  readonly gain: number;
  readonly isTyped: boolean;
  readonly isStable: boolean;
}

/** One gain that is typed and one that is not; those first that show the answer wrong. */
function triedGains(expected: readonly Range[], given: readonly Range[]): Tried[] {
  const ends = [0, ...expected.flat(), ...given.flat()].filter(Number.isFinite);
  const cuts = [...new Set(ends)].sort((a, b) => a - b);
  const holds = (ranges: readonly Range[], gain: number) => ranges.some(([from, to]) => from < gain && gain < to);
  const tried = cuts.flatMap((from, k) => {
    const to = cuts[k + 1] ?? (from > 0 ? 2 * from : 1);
    if (to - from < wellInside * to) return [];
    const gain = Number((from > 0 ? Math.sqrt(from * to) : to / 2).toPrecision(2));
    if (from >= gain || gain >= to) return [];
    return [{ gain, isTyped: holds(given, gain), isStable: holds(expected, gain) }];
  });
  return [true, false].flatMap((typed) => {
    const ofAnswer = tried.filter(({ isTyped }) => isTyped === typed);
    const telling = ofAnswer.find(({ isTyped, isStable }) => isTyped !== isStable) ?? ofAnswer[0];
    return telling ? [telling] : [];
  });
}

/** Short, and never 0. */
const gainText = (gain: number): string => (Math.abs(gain) < 1e-6 ? String(gain) : formatNumber(gain));

const triedWords = ({ gain, isTyped, isStable }: Tried): string =>
  `K = ${gainText(gain)} lies ${isTyped ? 'in yours' : 'outside'}, and there the loop is ${isStable ? 'stable' : 'unstable'}.`;

/** The closed loop with each gain that was tried. */
function responsesOf(part: RangePart, model: Model, tried: readonly Tried[]): Samples[] {
  const open = systemFrom(part.of, model.scope);
  return tried.flatMap(({ gain, isTyped, isStable }) => {
    const place = isTyped ? 'in your range' : 'outside it';
    const label = `K = ${gainText(gain)}, ${place}: ${isStable ? 'stable' : 'unstable'}`;
    const loop = unityFeedback(inSeries(constantTransfer(rationalFromNumber(gain)), open));
    const shown = responseTried(loop, label);
    return shown ? [shown] : [];
  });
}

export const checking: Checking<'range'> = {
  fromText: (_part, text) => ({ kind: 'range', text }),
  read(_part, _model, { text }) {
    rangesFromText(text);
  },
  check(part, model, { text }) {
    const given = rangesFromText(text);
    const expected = expectedRanges(part, model);
    const rest = [...expected];
    const matches = given.map((each) => {
      const at = rest.findIndex((other) => isSameRange(part, other, each));
      if (at >= 0) rest.splice(at, 1);
      return { each, met: at >= 0 };
    });
    const slots = Math.max(1, given.length, expected.length);
    const share = part.points / slots;
    const item = (id: string, label: string, met: boolean, words: string): VerdictItem => ({
      ...plain,
      ...{ id, label, met, points: met ? share : 0, outOf: share, words },
    });
    const items = matches.map(({ each, met }, k) =>
      item(String(k + 1), rangeWords(each), met, `${rangeWords(each)}: ${met ? 'right' : 'not a whole stable range'}.`),
    );
    for (let k = items.length; k < slots; k++) {
      const none = expected.length === 0;
      const words = none ? 'No gain is stable: right.' : 'A stable range is missing.';
      items.push(item(String(k + 1), none ? 'none' : `range ${k + 1}`, none && given.length === 0, words));
    }
    const good = items.filter(({ met }) => met).length;
    const isAll = part.marking === 'allOrNothing';
    if (good === slots) return verdictOf(items, 'The range is right.', {}, isAll);
    const tried = triedGains(expected, given);
    const telling = tried.filter(({ isTyped, isStable }) => isTyped !== isStable);
    const right = slots === 1 ? 'This is not the range.' : `${good} of ${slots} ranges are right.`;
    const words = [right, ...telling.map(triedWords)].join(' ');
    const responses = responsesOf(part, model, tried);
    return verdictOf(items, words, responses.length > 0 ? { responses } : {}, isAll);
  },
  solution: (part, model) => expectedRanges(part, model).map(rangeWords).join(' or ') || 'none',
};
