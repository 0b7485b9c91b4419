import { type Curve, formatNumber, type Measures, type QuantityName, type TimeUnit, withUnit } from '@nailset/core';
import { valueAt } from './frame';

/** A line drawn into the plot to show where a measure is read, with its words at one end. */
export interface MeasureMark {
  readonly id: string;
  readonly from: { t: number; y: number };
  readonly to: { t: number; y: number };
  readonly words?: string;
  /** Of an answer that misses. */
  readonly isMissed?: boolean;
}

/** A stretch of the plot, such as the settling band. */
export interface MeasureBand {
  readonly low: number;
  readonly high: number;
}

/** Where rise time, settling band and peak of a step response are read. */
export function measureMarks(
  { finalValue, riseTime, settlingTime, peakTime, peakValue }: Measures,
  curve: Curve,
  tMax: number,
  unit: TimeUnit = 's',
): { marks: MeasureMark[]; band: MeasureBand | undefined } {
  if (finalValue === null || finalValue === 0) return { marks: [], band: undefined };
  const marks: MeasureMark[] = [];
  if (riseTime !== null) {
    const [low, high] = [0.1 * finalValue, 0.9 * finalValue];
    const start = firstAt(curve, low);
    const end = start + riseTime;
    marks.push(
      { id: 'ten', from: { t: 0, y: low }, to: { t: start, y: low }, words: '10 %' },
      { id: 'ninety', from: { t: 0, y: high }, to: { t: end, y: high }, words: '90 %' },
      { id: 'from', from: { t: start, y: 0 }, to: { t: start, y: low } },
      { id: 'rise', from: { t: end, y: 0 }, to: { t: end, y: high }, words: `rise ${withUnit(riseTime, unit)}` },
    );
  }
  if (settlingTime !== null && settlingTime < tMax) {
    const at = { t: settlingTime, y: finalValue };
    marks.push({ id: 'settled', from: { ...at, y: 0 }, to: at, words: `settled ${withUnit(settlingTime, unit)}` });
  }
  if (peakTime !== null && peakValue !== null) {
    const words = `peak ${formatNumber(peakValue)} at ${withUnit(peakTime, unit)}`;
    marks.push({ id: 'peak', from: { t: peakTime, y: finalValue }, to: { t: peakTime, y: peakValue }, words });
  }
  const size = Math.abs(0.02 * finalValue);
  return { marks, band: { low: finalValue - size, high: finalValue + size } };
}

function firstAt({ times, values }: Curve, level: number): number {
  const k = values.findIndex((value) => (level >= 0 ? value >= level : value <= level));
  if (k <= 0) return 0;
  const share = (level - values[k - 1]!) / (values[k]! - values[k - 1]! || 1);
  return times[k - 1]! + share * (times[k]! - times[k - 1]!);
}

/** Where a value of a quantity lies on a unit step response that has settled at its end; undefined where it has no place there. */
export function placeOf(
  quantity: QuantityName,
  value: number,
  curve: Curve,
): Pick<MeasureMark, 'from' | 'to'> | undefined {
  const end = curve.times.at(-1) ?? 0;
  const final = curve.values.at(-1) ?? 0;
  const level = (y: number) => ({ from: { t: 0, y }, to: { t: end, y } });
  const upright = (t: number, y = valueAt(curve, t)) => ({ from: { t, y: 0 }, to: { t, y } });
  switch (quantity) {
    case 'overshootPercent':
      return level(final * (1 + value / 100));
    case 'undershootPercent':
      return level((-final * value) / 100);
    case 'peakValue':
    case 'finalValue':
    case 'largestMagnitude':
      return level(value);
    case 'stepError':
      return level(final <= 1 ? 1 - value : 1 + value);
    case 'peakTime':
    case 'settlingTime':
    case 'delayTime':
    case 'riseTimeFull':
      return upright(value);
    case 'riseTime':
      return upright(firstAt(curve, 0.1 * final) + value, 0.9 * final);
    default:
      return undefined;
  }
}
