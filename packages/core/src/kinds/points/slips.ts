import type { Model } from '../../checking/model.js';
import { onlyOne, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import { gainAt, specialPoints, stationaryPoints } from '../../locus/specialPoints.js';
import { rationalFromNumber } from '../../rational/number.js';
import { add, constant, multiply } from '../../rational/polynomial.js';
import type { Complex } from '../../system/complex.js';
import { roots } from '../../system/roots.js';
import { type System, systemOf } from '../../system/system.js';
import { expectedPoints, fractionOfPoints, matched, repeated } from './check.js';
import type { PointsPart } from './part.js';
import { isSketch, sameSketch, spreadPoints, type Stretch, stretchesOf, usualCount } from './sketch.js';
import { pointsFromText, textOfPoints } from './text.js';

interface Candidate extends Slip {
  readonly marked: readonly Complex[];
}

/** What is usually marked by mistake. */
function candidates(part: PointsPart, model: Model): Candidate[] {
  if (part.what === 'locus') return [];
  const expected = expectedPoints(part, model);
  const fraction = fractionOfPoints(part, model);
  const { poles, zeros } = systemOf(fraction);
  if (part.what === 'realAxis') return realAxisCandidates(systemOf(fraction), specialPoints(fraction).realAxis);
  if (part.what === 'asymptotes') return asymptoteCandidates(expected, systemOf(fraction));
  const likely: Candidate[] = [
    { id: 'sign', words: 'The signs are turned round.', marked: expected.map(({ re, im }) => ({ re: -re, im })) },
    {
      id: 'conjugate',
      words: 'Complex points come in pairs; the lower ones are missing.',
      marked: expected.filter(({ im }) => im >= 0),
    },
  ];
  if (part.what === 'poles') likely.push({ id: 'zeros', words: 'These are the zeros.', marked: repeated(zeros) });
  if (part.what === 'zeros') likely.push({ id: 'poles', words: 'These are the poles.', marked: repeated(poles) });
  if (part.what === 'breakPoints') {
    const all = stationaryPoints(fraction).filter(({ im }) => im === 0);
    const words = 'dK/ds is zero at all of these, but K is negative at some: they are not on the locus.';
    likely.push({ id: 'offLocus', words, marked: all });
  }
  if (part.what === 'axisCrossings') {
    const upper = specialPoints(fraction).axisCrossings.map(({ omega }) => ({ re: omega, im: 0 }));
    likely.push({
      id: 'realForImaginary',
      words: 'Crossings lie on the imaginary axis: write 3j, not 3.',
      marked: upper,
    });
  }
  return likely.filter(({ marked }) => marked.length > 0 && !isSame(part, expected, marked));
}

/** A point in every stretch that the locus leaves free: counted from the wrong side, or poles alone. */
function realAxisCandidates(system: System, realAxis: readonly Stretch[]): Candidate[] {
  const isOn = ({ from, to }: Stretch): boolean => realAxis.some((on) => on.from <= from && on.to >= to);
  const free = stretchesOf(system).filter((stretch) => !isOn(stretch));
  const inside = ({ from, to }: Stretch): Complex => ({
    re: from === -Infinity ? to - 1 : to === Infinity ? from + 1 : (from + to) / 2,
    im: 0,
  });
  if (free.some(({ from, to }) => from === -Infinity && to === Infinity)) return [];
  const words = 'These stretches have an even number of poles and zeros to their right: the locus has an odd one.';
  return [{ id: 'evenCount', words, marked: free.map(inside) }];
}

/** The meeting point with the wrong sign, or divided by the number of poles; angles measured from the other side. */
function asymptoteCandidates(expected: readonly Complex[], { poles, zeros }: System): Candidate[] {
  const [meeting, ...ends] = expected;
  if (!meeting) return [];
  const moved = (to: number): Complex[] => [
    { re: to, im: 0 },
    ...ends.map(({ re, im }) => ({ re: re - meeting.re + to, im })),
  ];
  const count = (roots: readonly { multiplicity: number }[]): number =>
    roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  return [
    { id: 'sign', words: 'The meeting point has the wrong sign.', marked: moved(-meeting.re) },
    {
      id: 'dividedByPoles',
      words: 'The sum is divided by the number of poles; divide by poles less zeros.',
      marked: moved((meeting.re * (count(poles) - count(zeros))) / count(poles)),
    },
    {
      id: 'otherSide',
      words: 'The angles are measured from the negative real axis.',
      marked: [meeting, ...ends.map(({ re, im }) => ({ re: 2 * meeting.re - re, im: -im }))],
    },
  ];
}

const isSame = (part: PointsPart, expected: readonly Complex[], marked: readonly Complex[]): boolean =>
  expected.length === marked.length && matched(part, expected, marked).every((at) => at >= 0);

/** What a set of points goes wrong by, if exactly one usual slip leads to it. */
export function slipOfPoints(part: PointsPart, model: Model, text: string): Slip | undefined {
  const marked = pointsFromText(text);
  const same = isSketch(part.what)
    ? (points: readonly Complex[]) => sameSketch(part, fractionOfPoints(part, model), points, marked)
    : (points: readonly Complex[]) => isSame(part, points, marked);
  return onlyOne(candidates(part, model).filter((candidate) => same(candidate.marked)));
}

/** Slips as answers that could have been typed. */
export function wrongPoints(part: PointsPart, model: Model): WrongAnswer[] {
  return candidates(part, model).map(({ id, words, marked }) => ({
    id,
    words,
    answer: { kind: 'points', text: textOfPoints(marked) },
  }));
}

/** The expected points as an answer; for points on the locus, closed-loop poles at rising gains. */
export function rightPoints(part: PointsPart, model: Model): string {
  if (part.what !== 'locus') return textOfPoints(expectedPoints(part, model));
  const fraction = fractionOfPoints(part, model);
  const { numerator, denominator } = fraction;
  const system = systemOf(fraction);
  const size = Math.max(...[...system.poles, ...system.zeros].map(({ re, im }) => Math.hypot(re, im)), 0) || 1;
  const far = gainAt(fraction, { re: 0, im: size });
  const middle = specialPoints(fraction).axisCrossings.at(-1)?.gain ?? (Math.hypot(far.re, far.im) || 1);
  // Gains over three decades around the middle one, nearest to it first.
  const gains = Array.from({ length: 37 }, (_, k) => middle * 10 ** ((k % 2 === 0 ? -k : k + 1) / 24));
  const points = gains.flatMap((gain) =>
    roots(add(denominator, multiply(constant(rationalFromNumber(gain)), numerator))),
  );
  return textOfPoints(spreadPoints(part, system, points).slice(0, part.count ?? usualCount));
}
