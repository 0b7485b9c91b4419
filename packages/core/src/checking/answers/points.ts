import { Problem } from '../../expression/problem.js';
import type { PointsPart } from '../../exercise/parts.js';
import { systemFrom } from '../../formula/evaluate.js';
import { gainAt, specialPoints } from '../../locus/specialPoints.js';
import { type Fraction, lowestTerms } from '../../rational/fraction.js';
import type { Complex } from '../../system/complex.js';
import type { Root } from '../../system/roots.js';
import { systemOf } from '../../system/system.js';
import { asDelayedFraction } from '../../system/transfer.js';
import type { Model } from '../model.js';
import type { VerdictItem } from '../verdict.js';
import { verdictOf } from '../verdictOf.js';
import { formatNumber, formatPoint, listOf } from '../words.js';
import type { AnswerKind } from './kind.js';

/** Points on a locus that are asked for unless the exercise says so. */
export const usualCount = 5;
const usualDegrees = 5;
const most = 40;

/** The system whose points are asked for, in lowest terms. @throws Problem `deadTime` with dead time. */
export function fractionOfPoints(part: PointsPart, { scope }: Model): Fraction {
  const { fraction, deadTime } = asDelayedFraction(systemFrom(part.of, scope), 'Points of the s-plane');
  if (deadTime !== 0) throw new Problem('deadTime', 'With dead time there are infinitely many points.');
  return lowestTerms(fraction);
}

/** Roots, each as often as it is one. */
export const repeated = (found: readonly Root[]): Complex[] =>
  found.flatMap(({ re, im, multiplicity }) => new Array<Complex>(multiplicity).fill({ re, im }));

/** What is expected, repeated as often as it is multiple, by rising real part; empty for points on the locus. */
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
    case 'locus':
      return [];
  }
}

const decimal = String.raw`(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?`;
const written = new RegExp(`^([+-]?${decimal})?(?:(±|[+-])?(${decimal})?\\*?([ij])(${decimal})?)?$`, 'i');

/**
 * Points such as `-1 ± 2j, -3`, separated by commas or semicolons; j or i, before or behind the number.
 * @throws Problem `notANumber` naming the piece that is none.
 */
export function pointsFromText(text: string): Complex[] {
  const pieces = text
    .split(/[,;\n]/)
    .map((piece) => piece.trim())
    .filter(Boolean);
  if (pieces.length === 0) throw new Problem('empty', 'Mark or type the points first.');
  if (pieces.length > most) throw new Problem('exercise', `At most ${most} points can be handed in.`);
  return pieces.flatMap((piece) => {
    const bare = piece
      .replaceAll('−', '-')
      .replace(/\+-|\+\/-/, '±')
      .replace(/\s+/g, '');
    const found = written.exec(bare);
    if (!found || bare === '' || /[\d.]\s+[\d.]/.test(piece)) {
      throw new Problem('notANumber', `“${piece}” is not a point; write −2, 3j or −1 ± 2j.`);
    }
    const [, typed, typedSign, typedSize, unit, after] = found;
    // A number alone before j is the imaginary part: 3j, −2j.
    const isAlone = unit !== undefined && typed !== undefined && typedSign === undefined && after === undefined;
    const [real, sign, before] = isAlone
      ? [undefined, typed.startsWith('-') ? '-' : '+', typed.replace(/^[+-]/, '')]
      : [typed, typedSign, typedSize];
    const re = Number(real ?? 0);
    const im = unit ? Number(before ?? after ?? 1) : 0;
    if (sign === '±' && im !== 0)
      return [
        { re, im },
        { re, im: -im },
      ];
    return [{ re, im: sign === '-' ? -im : im }];
  });
}

/** Points as they could be typed. */
export const textOfPoints = (marked: readonly Complex[]): string =>
  marked
    .map(({ re, im }) =>
      im === 0 ? short(re) : `${re === 0 ? '' : short(re)}${im < 0 ? '-' : re === 0 ? '' : '+'}${short(Math.abs(im))}j`,
    )
    .join(', ');

const short = (value: number): string => String(Number(value.toPrecision(6)));

/** One marked point in words. */
const pointWords = (point: Complex): string =>
  textOfPoints([point])
    .replaceAll('-', '−')
    .replace(/(\d)([+−])/, '$1 $2 ');

/** By how many degrees the angle condition fails at a point: the angle of −L, or of L for a negative constant. */
export function angleError(fraction: Fraction, point: Complex): number {
  const { poles, zeros } = systemOf(fraction);
  const isEnd = ({ re, im }: Complex): boolean => Math.hypot(re - point.re, im - point.im) <= 1e-9 * Math.hypot(re, im);
  // Branches start at poles and end at zeros; there the angle is not defined.
  if ([...poles, ...zeros].some(isEnd)) return 0;
  const gain = gainAt(fraction, point);
  const degrees = (Math.atan2(gain.im, gain.re) * 180) / Math.PI;
  return Number.isFinite(degrees) ? Math.abs(degrees) : 0;
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
  const found = new Array<number>(marked.length).fill(-1);
  const used = new Set<number>();
  for (const { k, index, distance } of pairs.sort((a, b) => a.distance - b.distance)) {
    if (found[k] !== -1 || used.has(index) || distance > allowedAt(part, expected, expected[index]!)) continue;
    found[k] = index;
    used.add(index);
  }
  return found;
}

const names: Record<PointsPart['what'], [one: string, many: string]> = {
  poles: ['pole', 'poles'],
  zeros: ['zero', 'zeros'],
  breakPoints: ['break point', 'break points'],
  axisCrossings: ['crossing', 'crossings'],
  locus: ['point', 'points'],
};

const plain = { unit: '', measured: null, limit: null, relation: 'equal' as const, close: false };

function checkOnLocus(part: PointsPart, model: Model, marked: readonly Complex[]) {
  const fraction = fractionOfPoints(part, model);
  const count = part.count ?? usualCount;
  const allowed = part.toleranceDegrees ?? usualDegrees;
  const share = part.points / Math.max(count, marked.length);
  const items: VerdictItem[] = marked.map((point, k) => {
    const error = angleError(fraction, point);
    const met = error <= allowed;
    const words = `${pointWords(point)}: ${met ? 'on the locus' : `the angle is ${formatNumber(error)}° off; ${formatNumber(allowed)}° counts`}.`;
    return {
      ...plain,
      ...{
        id: String(k + 1),
        label: pointWords(point),
        unit: '°',
        measured: error,
        limit: allowed,
        relation: 'atMost',
      },
      ...{ met, close: !met && error <= 2 * allowed, points: met ? share : 0, outOf: share, words },
    };
  });
  for (let k = marked.length; k < count; k++) {
    const words = 'Not marked.';
    items.push({ ...plain, id: String(k + 1), label: `point ${k + 1}`, met: false, points: 0, outOf: share, words });
  }
  const good = items.filter(({ met }) => met).length;
  return verdictOf(items, `${good} of ${items.length} points are on the locus.`, {}, part.marking === 'allOrNothing');
}

export const points: AnswerKind<'points'> = {
  kind: 'points',
  fromText: (_part, text) => ({ kind: 'points', text }),
  read(_part, _model, { text }) {
    pointsFromText(text);
  },
  check(part, model, { text }) {
    const marked = pointsFromText(text);
    if (part.what === 'locus') return checkOnLocus(part, model, marked);
    const expected = expectedPoints(part, model);
    const found = matched(part, expected, marked);
    const [one, many] = names[part.what];
    const slots = Math.max(expected.length, marked.length);
    const share = part.points / slots;
    const items: VerdictItem[] = marked.map((point, k) => {
      const met = found[k]! >= 0;
      const words = `${pointWords(point)}: ${met ? 'right' : `no ${one} here`}.`;
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
    const hits = found.filter((at) => at >= 0).length;
    const words =
      hits === slots
        ? `All ${many} are right.`
        : `${hits} of ${expected.length} ${many} are there${marked.length > hits ? `, ${marked.length - hits} marked that are none` : ''}.`;
    return verdictOf(items, words, {}, part.marking === 'allOrNothing');
  },
  solution(part, model) {
    if (part.what === 'locus') return null;
    const expected = expectedPoints(part, model).filter(({ im }) => im >= 0);
    return expected.length === 0 ? 'none' : listOf(expected.map((point) => formatPoint(point)));
  },
};
