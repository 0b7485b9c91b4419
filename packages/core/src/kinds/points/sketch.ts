import type { VerdictItem } from '../../checking/verdict.js';
import { plain, verdictOf } from '../../checking/verdictOf.js';
import { formatNumber } from '../../checking/words.js';
import type { PointSet } from '../../exercise/names.js';
import { must } from '../../expression/must.js';
import { gainAt, specialPoints } from '../../locus/specialPoints.js';
import type { Fraction } from '../../rational/fraction.js';
import type { Complex } from '../../system/complex.js';
import { type System, systemOf } from '../../system/system.js';
import type { PointsPart } from './part.js';
import { pointWords } from './text.js';

/** A locus sketched by hand: stretches of the real axis, asymptotes, or points judged by the angle condition. */
export type Sketch = Extract<PointSet, 'realAxis' | 'asymptotes' | 'locus'>;
export const isSketch = (what: PointSet): what is Sketch =>
  what === 'realAxis' || what === 'asymptotes' || what === 'locus';

/** Points on a locus that are asked for unless the exercise says so. */
export const usualCount = 5;
const usualDegrees = 5;

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

/** A stretch of the real axis between neighbouring poles and zeros; ends may be infinite. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** The real axis cut at every real pole and zero, from left to right. */
export function stretchesOf({ poles, zeros }: { poles: readonly Complex[]; zeros: readonly Complex[] }): Stretch[] {
  const cuts = [...poles, ...zeros].filter(({ im }) => im === 0).map(({ re }) => re);
  const ends = [-Infinity, ...[...new Set(cuts)].sort((a, b) => a - b), Infinity];
  return ends.slice(1).map((to, k) => ({ from: must(ends[k]), to }));
}

const isIn = ({ from, to }: Stretch, { re, im }: Complex): boolean => im === 0 && re > from && re < to;

const stretchWords = ({ from, to }: Stretch): string => {
  if (from === -Infinity) return to === Infinity ? 'the whole real axis' : `left of ${formatNumber(to)}`;
  return to === Infinity ? `right of ${formatNumber(from)}` : `${formatNumber(from)} to ${formatNumber(to)}`;
};

type Found = Omit<VerdictItem, 'points' | 'outOf' | 'id'>;

function verdictOn(part: PointsPart, checked: readonly Found[], words: string) {
  const share = part.points / checked.length;
  const items = checked.map((item, k) => ({
    ...item,
    ...{ id: String(k + 1), points: item.met ? share : 0, outOf: share },
  }));
  return verdictOf(items, words, {}, part.marking === 'allOrNothing');
}

function checkRealAxis(part: PointsPart, fraction: Fraction, marked: readonly Complex[]) {
  const { realAxis } = specialPoints(fraction);
  // The locus may run through a double pole or zero, so that its own stretches are longer than those between them.
  const pieces = stretchesOf(systemOf(fraction));
  const isOn = ({ from, to }: Stretch): boolean => realAxis.some((on) => on.from <= from && on.to >= to);
  const isMarked = (piece: Stretch): boolean => marked.some((point) => isIn(piece, point));
  const off = marked.filter(({ im }) => im !== 0);
  const items: Found[] = [
    ...pieces
      .filter((piece) => isOn(piece) || isMarked(piece))
      .map((piece) => {
        const met = isOn(piece) && isMarked(piece);
        // Where a stretch is missing is for the student to find.
        if (!met && isOn(piece)) return { ...plain, label: 'another stretch', met, words: 'A stretch is missing.' };
        const what = met ? 'on the locus' : 'not on the locus';
        return { ...plain, label: stretchWords(piece), met, words: `${stretchWords(piece)}: ${what}.` };
      }),
    ...off.map((point) => ({
      ...plain,
      ...{ label: pointWords(point), met: false, words: `${pointWords(point)}: not on the real axis.` },
    })),
  ];
  // Those that are missing come last, so that their place in the list says nothing.
  items.sort((a, b) => Number(a.label === 'another stretch') - Number(b.label === 'another stretch'));
  const good = items.filter(({ met }) => met).length;
  const words = good === items.length ? 'Every stretch is right.' : `${good} of ${items.length} stretches are right.`;
  return verdictOn(part, items, words);
}

/** An angle between −180 and 180 degrees, the lower end left out. */
const turnedIn = (degrees: number): number => degrees - 360 * Math.ceil((degrees - 180) / 360);

const angleFrom = (meeting: Complex, { re, im }: Complex): number =>
  (Math.atan2(im - meeting.im, re - meeting.re) * 180) / Math.PI;

/** How near the meeting point of asymptotes must be. */
function nearness({ tolerancePercent }: PointsPart, { poles, zeros }: System): number {
  const size = Math.max(1e-9, ...[...poles, ...zeros].map(({ re, im }) => Math.hypot(re, im)));
  return Math.max(tolerancePercent / 100, 1e-6) * size;
}

/** Whether two sketches say the same. */
export function sameSketch(
  part: PointsPart,
  fraction: Fraction,
  a: readonly Complex[],
  b: readonly Complex[],
): boolean {
  const system = systemOf(fraction);
  if (part.what === 'realAxis') {
    return stretchesOf(system).every(
      (piece) => a.some((point) => isIn(piece, point)) === b.some((point) => isIn(piece, point)),
    );
  }
  const [from, to] = [must(a[0]), must(b[0])];
  if (a.length !== b.length || Math.hypot(from.re - to.re, from.im - to.im) > nearness(part, system)) return false;
  const others = b.slice(1).map((point) => angleFrom(to, point));
  return a.slice(1).every((point) => {
    const angle = angleFrom(from, point);
    return others.some((other) => Math.abs(turnedIn(angle - other)) <= (part.toleranceDegrees ?? usualDegrees));
  });
}

function checkAsymptotes(part: PointsPart, fraction: Fraction, marked: readonly Complex[]) {
  const asymptotes = must(specialPoints(fraction).asymptotes);
  const { centroid } = asymptotes;
  const allowed = part.toleranceDegrees ?? usualDegrees;
  const [meeting, ...ends] = marked;
  const isThere = Math.hypot(must(meeting).re - centroid, must(meeting).im) <= nearness(part, systemOf(fraction));
  const items: Found[] = [
    {
      ...plain,
      label: 'where they meet',
      met: isThere,
      words: `${pointWords(must(meeting))}: ${isThere ? 'they meet here' : 'they do not meet here'}.`,
    },
  ];
  const left = [...asymptotes.anglesDegrees];
  const angles = ends.map((end) => angleFrom(must(meeting), end));
  for (const angle of angles) {
    const errors = left.map((degrees) => Math.abs(turnedIn(angle - degrees)));
    const error = Math.min(180, ...errors);
    const met = error <= allowed;
    if (met) left.splice(errors.indexOf(error), 1);
    const label = `${formatNumber(Number(angle.toFixed(1)))}°`;
    const words = met ? `${label}: an asymptote.` : `${label}: no asymptote leaves this way.`;
    items.push({ ...plain, ...{ unit: '°', measured: error, limit: allowed, relation: 'atMost', label, met, words } });
  }
  for (let k = angles.length; k < asymptotes.anglesDegrees.length; k++) {
    items.push({ ...plain, label: `asymptote ${k + 1}`, met: false, words: 'An asymptote is missing.' });
  }
  const good = items.filter(({ met }) => met).length;
  const words = good === items.length ? 'All asymptotes are right.' : `${good} of ${items.length} are right.`;
  return verdictOn(part, items, words);
}

/** Points nearer to each other than this share of the picture show no more of a branch than one of them. */
const apart = 0.05;
/** A point so near to a pole or zero only says where a branch ends. */
const atEnd = 0.02;

/** How large the picture of a locus is: the farthest pole or zero from another, or from the origin. */
function sizeOf({ poles, zeros }: System): number {
  const ends = [...poles, ...zeros];
  const distances = ends.flatMap((a, k) => ends.slice(k + 1).map((b) => Math.hypot(a.re - b.re, a.im - b.im)));
  return Math.max(...distances, 0) || Math.max(...ends.map(({ re, im }) => Math.hypot(re, im)), 0) || 1;
}

/** Why a marked point is none of a sketch, in words; undefined for one that counts if it lies on the locus. */
function noSketch(part: PointsPart, system: System, marked: readonly Complex[], k: number): string | undefined {
  const size = sizeOf(system);
  const point = must(marked[k]);
  const isNear = (other: Complex, share: number): boolean =>
    Math.hypot(other.re - point.re, other.im - point.im) <= share * size;
  if (marked.some((other, j) => j !== k && isNear(other, apart))) return 'too near another marked point';
  if (part.offAxis && Math.abs(point.im) <= atEnd * size) return 'on the real axis; the points are asked for off it';
  if ([...system.poles, ...system.zeros].some((end) => isNear(end, atEnd))) return 'a pole or zero, where branches end';
  return undefined;
}

/** Of points on a locus those that count together as a sketch, the first of several that lie near each other. */
export function spreadPoints(part: PointsPart, system: System, points: readonly Complex[]): Complex[] {
  const chosen: Complex[] = [];
  for (const point of points) {
    if (noSketch(part, system, [point, ...chosen], 0) === undefined) chosen.push(point);
  }
  return chosen;
}

function checkOnLocus(part: PointsPart, fraction: Fraction, marked: readonly Complex[]) {
  const count = part.count ?? usualCount;
  const allowed = part.toleranceDegrees ?? usualDegrees;
  const system = systemOf(fraction);
  const items: Found[] = marked.map((point, k) => {
    const error = angleError(fraction, point);
    const isOn = error <= allowed;
    const why = isOn ? noSketch(part, system, marked, k) : undefined;
    const met = isOn && why === undefined;
    const words = `${pointWords(point)}: ${isOn ? (why ?? 'on the locus') : `the angle is ${formatNumber(error)}° off; ${formatNumber(allowed)}° counts`}.`;
    return {
      ...plain,
      ...{ label: pointWords(point), unit: '°', measured: error, limit: allowed, relation: 'atMost' },
      ...{ met, close: !isOn && error <= 2 * allowed, words },
    };
  });
  for (let k = marked.length; k < count; k++) {
    items.push({ ...plain, label: `point ${k + 1}`, met: false, words: 'Not marked.' });
  }
  const good = items.filter(({ met }) => met).length;
  return verdictOn(part, items, `${good} of ${items.length} points count.`);
}

/** The verdict on a sketch of the locus of a fraction in lowest terms. */
export function checkSketch(part: PointsPart, fraction: Fraction, marked: readonly Complex[]) {
  if (part.what === 'realAxis') return checkRealAxis(part, fraction, marked);
  return part.what === 'asymptotes' ? checkAsymptotes(part, fraction, marked) : checkOnLocus(part, fraction, marked);
}

/** What is expected of a sketch; null where many are right. */
export function sketchWords(what: Sketch, fraction: Fraction): string | null {
  const { realAxis, asymptotes } = specialPoints(fraction);
  if (what === 'realAxis') return realAxis.map(stretchWords).join('; ');
  if (what === 'locus' || !asymptotes) return null;
  const angles = asymptotes.anglesDegrees.map((degrees) => `${formatNumber(Number(degrees.toFixed(1)))}°`);
  return `meeting at ${formatNumber(asymptotes.centroid)}, at ${angles.join(', ')}`;
}
