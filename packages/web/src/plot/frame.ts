import type { Curve } from '@nailset/core';

/** What a response plot shows: tMin (0 unless given) to tMax seconds, yMin to yMax. It changes only when someone asks for it. */
export interface Frame {
  readonly tMin?: number;
  readonly tMax: number;
  readonly yMin: number;
  readonly yMax: number;
}

/** The two ends of an axis. */
export interface Ends {
  readonly from: number;
  readonly to: number;
}

/** One axis with its ends. */
export interface Axis extends Ends {
  readonly name: string;
  readonly unit: string;
  /** The least that it can begin at; frequencies on a logarithmic axis lie above 0. */
  readonly above?: number;
}

/** A frame in which curves and levels fit with some air; round ends. */
export function frameFor(tMax: number, curves: readonly Curve[], levels: readonly number[] = [0]): Frame {
  let low = Math.min(0, ...levels);
  let high = Math.max(0, ...levels);
  for (const { values } of curves) {
    for (const value of values) {
      if (value < low) low = value;
      if (value > high) high = value;
    }
  }
  if (high - low < 1e-9) high = low + 1;
  const span = high - low;
  const unit = 10 ** Math.floor(Math.log10(span)) / 4;
  const yMin = low < -0.02 * span ? Math.floor((low - 0.06 * span) / unit) * unit : 0;
  return { tMax, yMin, yMax: high > 0.02 * span ? Math.ceil((high + 0.08 * span) / unit) * unit : 0 };
}

/** A frame to begin with: the reference, and half as much again above it for what goes beyond. */
export function frameAbout(tMax: number, { values }: Curve, height: number): Frame {
  return frameFor(tMax, [], [1.5 * Math.max(0, height, ...values), Math.min(0, height, ...values)]);
}

/** The ends of both axes as they are seen, to be typed. */
export const frameAxes = ({ tMin = 0, tMax, yMin, yMax }: Frame, unit: string): Axis[] => [
  { name: 'time', unit, from: tMin, to: tMax, above: 0 },
  { name: 'value', unit: '', from: yMin, to: yMax },
];

/** The frame with the ends of one axis. */
export const frameWith = (frame: Frame, axis: number, { from, to }: Ends): Frame =>
  axis === 0 ? { ...frame, tMin: from, tMax: to } : { ...frame, yMin: from, yMax: to };

/** A coordinate of a path; finer than a tenth of a pixel nobody sees. */
export const tenths = (value: number): number => Math.round(value * 10) / 10;

/** Text positions moved apart so that none overlap, order kept. */
export function spread(positions: readonly number[], gap: number, low: number, high: number): number[] {
  const order = positions.map((y, k) => ({ y, k })).sort((a, b) => a.y - b.y);
  for (let k = 0; k < order.length; k++) {
    const least = k === 0 ? low : order[k - 1]!.y + gap;
    order[k]!.y = Math.max(order[k]!.y, least);
  }
  for (let k = order.length - 1; k >= 0; k--) {
    const most = k === order.length - 1 ? high : order[k + 1]!.y - gap;
    order[k]!.y = Math.min(order[k]!.y, most);
  }
  const result = new Array<number>(positions.length);
  for (const { y, k } of order) result[k] = y;
  return result;
}

/** The curve read at a time, between samples along the chord; the last value beyond its end. */
export function valueAt({ times, values }: Curve, time: number): number {
  let low = 0;
  let high = times.length - 1;
  if (high < 0) return NaN;
  if (time >= times[high]!) return values[high]!;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= time) low = middle;
    else high = middle;
  }
  const share = (time - times[low]!) / (times[high]! - times[low]! || 1);
  return values[low]! + share * (values[high]! - values[low]!);
}

/** The value, or the end of the range that it lies beyond. */
export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
