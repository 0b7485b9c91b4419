import type { Axis } from '../checking/trial.js';
import type { Settings } from '../exercise/answer.js';

/** Steps over an axis of one, two or three. With more axes a grid that is fine enough has too many points. */
export const gridCounts = [160, 26, 11];
const scattered = 1600;

/** A value on the ladder: the low end and whole fine steps from it. */
export function onLadder({ low, high, fine }: Axis, value: number): number {
  const snapped = low + fine * Math.round((Math.min(high, Math.max(low, value)) - low) / fine);
  return Number(Math.min(high, snapped).toPrecision(12));
}

/** The middles of equal parts of an axis, on the ladder. */
export function stepsOf(axis: Axis, count: number): number[] {
  const values = Array.from({ length: count }, (_, k) =>
    onLadder(axis, axis.low + ((k + 0.5) * (axis.high - axis.low)) / count),
  );
  return [...new Set(values)];
}

/** Points all over the range, its ends among them: what solves an exercise may be a gain of zero. */
export function pointsOver(axes: readonly Axis[]): Settings[] {
  const count = gridCounts[axes.length - 1];
  if (count === undefined) return [...scatteredOver(axes), ...endsOf(axes)];
  let points: Settings[] = [{}];
  for (const axis of axes) {
    const values = [...new Set([axis.low, ...stepsOf(axis, count), axis.high])];
    points = points.flatMap((point) => values.map((value) => ({ ...point, [axis.name]: String(value) })));
  }
  return points;
}

/** The middle of everything with one axis at one of its ends. */
function endsOf(axes: readonly Axis[]): Settings[] {
  const middle = Object.fromEntries(axes.map((axis) => [axis.name, String(onLadder(axis, within(axis, 0.5)))]));
  return axes.flatMap(({ name, low, high }) => [low, high].map((end) => ({ ...middle, [name]: String(end) })));
}

const primes = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31];

/** Points of Halton's sequence (1960): however many axes there are, every one of them is covered evenly. */
export function scatteredOver(axes: readonly Axis[], count = scattered): Settings[] {
  return Array.from({ length: count }, (_, k) =>
    Object.fromEntries(
      axes.map((axis, n) => [axis.name, String(onLadder(axis, within(axis, radicalInverse(k + 1, primes[n]!))))]),
    ),
  );
}

/** Points near the lower ends and on them, where a grid of even steps has few. */
export function nearLowEnds(axes: readonly Axis[], count: number): Settings[] {
  return Array.from({ length: count }, (_, k) =>
    Object.fromEntries(
      axes.map((axis, n) => {
        const share = radicalInverse(k + 1, primes[n]!);
        const onEnd = k % (axes.length + 1) === n;
        return [
          axis.name,
          String(
            onEnd
              ? axis.low
              : onLadder(axis, within(axis, Math.floor(k / (axes.length + 1)) % 2 === 0 ? share ** 3 : share)),
          ),
        ];
      }),
    ),
  );
}

/** A share of the axis, by its logarithm where it keeps its sign over more than a decade: places in the s-plane do. */
function within({ low, high }: Axis, share: number): number {
  const ratio = high / low;
  const isWide = low * high > 0 && (ratio > 10 || ratio < 0.1);
  return isWide ? low * ratio ** share : low + share * (high - low);
}

/** The digits of a whole number in a base, read backwards behind the point. */
function radicalInverse(index: number, base: number): number {
  let value = 0;
  for (let digit = 1 / base, rest = index; rest > 0; rest = Math.floor(rest / base), digit /= base) {
    value += (rest % base) * digit;
  }
  return value;
}

/** How far an axis reaches; 1 where there is one value only. */
export const widthOf = ({ low, high }: Axis): number => high - low || 1;
