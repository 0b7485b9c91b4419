import type { Model } from '../../checking/model.js';
import type { VerdictItem } from '../../checking/verdict.js';
import { plain, verdictOf } from '../../checking/verdictOf.js';
import { formatNumber, formatPoint, listOf } from '../../checking/words.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { systemFrom } from '../../formula/evaluate.js';
import { specialPoints } from '../../locus/specialPoints.js';
import { type Fraction, lowestTerms } from '../../rational/fraction.js';
import type { Complex } from '../../system/complex.js';
import type { Root } from '../../system/roots.js';
import { systemOf } from '../../system/system.js';
import { asDelayedFraction } from '../../system/transfer.js';
import type { Checking } from '../kind.js';
import type { PointsPart } from './part.js';
import { angleError, checkSketch, isSketch, sketchWords } from './sketch.js';
import { pointsFromText, pointWords } from './text.js';

/** The system whose points are asked for, in lowest terms. @throws Problem `deadTime` with dead time. */
export function fractionOfPoints(part: PointsPart, { scope }: Model): Fraction {
  const { fraction, deadTime } = asDelayedFraction(systemFrom(part.of, scope), 'Points of the s-plane');
  if (deadTime !== 0) throw new Problem('deadTime', 'With dead time there are infinitely many points.');
  return lowestTerms(fraction);
}

/** Roots, each as often as it is one. */
export const repeated = (roots: readonly Root[]): Complex[] =>
  roots.flatMap(({ re, im, multiplicity }) => new Array<Complex>(multiplicity).fill({ re, im }));

/**
 * What is expected, repeated as often as it is multiple, by rising real part; a point inside each stretch of the real
 * axis; the meeting point of the asymptotes, then one point on each; empty for points on the locus.
 */
export function expectedPoints(part: PointsPart, model: Model): Complex[] {
  const fraction = fractionOfPoints(part, model);
  const { poles, zeros } = systemOf(fraction);
  switch (part.what) {
    case 'poles':
      return repeated(poles);
    case 'zeros':
      return repeated(zeros);
    case 'breakPoints':
      return specialPoints(fraction).breakPoints.filter(({ im }) => im === 0);
    case 'axisCrossings':
      return specialPoints(fraction).axisCrossings.flatMap(({ omega }) =>
        omega === 0
          ? [{ re: 0, im: 0 }]
          : [
              { re: 0, im: omega },
              { re: 0, im: -omega },
            ],
      );
    case 'realAxis':
      return specialPoints(fraction).realAxis.map((stretch) => ({ re: insideOf(stretch), im: 0 }));
    case 'asymptotes': {
      const { asymptotes } = specialPoints(fraction);
      if (!asymptotes) return [];
      const { centroid, anglesDegrees } = asymptotes;
      const far = 2 * Math.max(1, ...[...poles, ...zeros].map(({ re, im }) => Math.hypot(re, im)));
      return [
        { re: centroid, im: 0 },
        ...anglesDegrees.map((degrees) => ({
          re: centroid + far * Math.cos((degrees * Math.PI) / 180),
          im: far * roundSine(degrees),
        })),
      ];
    }
    case 'locus':
      return [];
  }
}

const roundSine = (degrees: number): number => (degrees % 180 === 0 ? 0 : Math.sin((degrees * Math.PI) / 180));

/** A point well inside a stretch of the real axis. */
function insideOf({ from, to }: { from: number; to: number }): number {
  if (Number.isFinite(from) && Number.isFinite(to)) return (from + to) / 2;
  if (Number.isFinite(to)) return to - 1;
  return Number.isFinite(from) ? from + 1 : 0;
}

/** How near a point must be to an expected one. */
export function allowedAt(
  { tolerancePercent }: { tolerancePercent: number },
  expected: readonly Complex[],
  at: Complex,
): number {
  const size = ({ re, im }: Complex): number => Math.hypot(re, im);
  const largest = Math.max(1e-9, ...expected.map(size));
  return (Math.max(tolerancePercent, 1e-4) / 100) * Math.max(size(at), largest / 4);
}

/** Which expected point each marked one stands for, nearest first; −1 for none. */
export function matched(
  part: { tolerancePercent: number },
  expected: readonly Complex[],
  marked: readonly Complex[],
): number[] {
  const pairs = marked.flatMap((point, k) =>
    expected.map((at, index) => ({ k, index, distance: Math.hypot(point.re - at.re, point.im - at.im) })),
  );
  const partners = new Array<number>(marked.length).fill(-1);
  const used = new Set<number>();
  for (const { k, index, distance } of pairs.sort((a, b) => a.distance - b.distance)) {
    if (partners[k] !== -1 || used.has(index) || distance > allowedAt(part, expected, must(expected[index]))) continue;
    partners[k] = index;
    used.add(index);
  }
  return partners;
}

const names: Record<PointsPart['what'], [one: string, many: string]> = {
  poles: ['pole', 'poles'],
  zeros: ['zero', 'zeros'],
  breakPoints: ['break point', 'break points'],
  axisCrossings: ['crossing', 'crossings'],
  realAxis: ['stretch', 'stretches'],
  asymptotes: ['asymptote', 'asymptotes'],
  locus: ['point', 'points'],
};

/** By how much the angle condition fails at a point that is to lie on the locus; empty where it holds. */
function offLocus({ what }: PointsPart, fraction: Fraction, point: Complex): string {
  if (what !== 'breakPoints' && what !== 'axisCrossings') return '';
  const degrees = angleError(fraction, point);
  return degrees < 1 ? ', though it lies on the locus' : `: the angle of the loop is off by ${formatNumber(degrees)}°`;
}

export const checking: Checking<'points'> = {
  fromText: (_part, text) => ({ kind: 'points', text }),
  read(_part, _model, { text }) {
    pointsFromText(text);
  },
  check(part, model, { text }) {
    const marked = pointsFromText(text);
    if (isSketch(part.what)) return checkSketch(part, fractionOfPoints(part, model), marked);
    const fraction = fractionOfPoints(part, model);
    const expected = expectedPoints(part, model);
    const partners = matched(part, expected, marked);
    const [one, many] = names[part.what];
    const slots = Math.max(expected.length, marked.length);
    const share = part.points / slots;
    const items: VerdictItem[] = marked.map((point, k) => {
      const met = must(partners[k]) >= 0;
      const words = `${pointWords(point)}: ${met ? 'right' : `no ${one} here${offLocus(part, fraction, point)}`}.`;
      return {
        ...plain,
        id: String(k + 1),
        label: pointWords(point),
        met,
        points: met ? share : 0,
        outOf: share,
        words,
      };
    });
    for (let k = marked.length; k < expected.length; k++) {
      const words = `A ${one} is missing.`;
      items.push({ ...plain, id: String(k + 1), label: `${one} ${k + 1}`, met: false, points: 0, outOf: share, words });
    }
    const hits = partners.filter((at) => at >= 0).length;
    const words =
      hits === slots
        ? `All ${many} are right.`
        : `${hits} of ${expected.length} ${many} are there${marked.length > hits ? `, ${marked.length - hits} marked that are none` : ''}.`;
    return verdictOf(items, words, {}, part.marking === 'allOrNothing');
  },
  solution(part, model) {
    if (part.what === 'locus') return null;
    if (isSketch(part.what)) return sketchWords(part.what, fractionOfPoints(part, model));
    const expected = expectedPoints(part, model).filter(({ im }) => im >= 0);
    return expected.length === 0 ? 'none' : listOf(expected.map((point) => formatPoint(point)));
  },
};
