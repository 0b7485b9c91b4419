import {
  type Curve,
  formatNumber,
  type LevelMeasures,
  type QuantityName,
  type TimeUnit,
  withUnit,
} from '@nailset/core';
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

/** Where rise time, settling band and peak of a response to a step are read; none where there are no measures. */
export function measureMarks(
  measures: LevelMeasures | null | undefined,
  curve: Curve,
  tMax: number,
  unit: TimeUnit = 's',
): { marks: MeasureMark[]; band: MeasureBand | undefined } {
  if (!measures) return { marks: [], band: undefined };
  const { at, restValue, finalValue, riseTime, settlingTime, peakTime, peakValue } = measures;
  const change = finalValue - restValue;
  const marks: MeasureMark[] = [];
  if (riseTime !== null) {
    const [low, high] = [restValue + 0.1 * change, restValue + 0.9 * change];
    const start = firstAt(curve, low, change);
    const end = start + riseTime;
    marks.push(
      { id: 'ten', from: { t: 0, y: low }, to: { t: start, y: low }, words: '10 %' },
      { id: 'ninety', from: { t: 0, y: high }, to: { t: end, y: high }, words: '90 %' },
      { id: 'from', from: { t: start, y: restValue }, to: { t: start, y: low } },
      {
        id: 'rise',
        from: { t: end, y: restValue },
        to: { t: end, y: high },
        words: `rise ${withUnit(riseTime, unit)}`,
      },
    );
  }
  if (settlingTime !== null && at + settlingTime < tMax) {
    const t = at + settlingTime;
    const words = `settled ${withUnit(settlingTime, unit)}`;
    marks.push({ id: 'settled', from: { t, y: restValue }, to: { t, y: finalValue }, words });
  }
  if (peakTime !== null && peakValue !== null) {
    const t = at + peakTime;
    // Rise and settling are counted from the step, and so is this where it comes later.
    const words = `peak ${formatNumber(peakValue)} ${at === 0 ? 'at' : 'after'} ${withUnit(peakTime, unit)}`;
    marks.push({ id: 'peak', from: { t, y: finalValue }, to: { t, y: peakValue }, words });
  }
  const size = Math.abs(0.02 * change);
  return { marks, band: { low: finalValue - size, high: finalValue + size } };
}

/** When a curve first reaches a level, upwards or downwards by the sign. */
function firstAt({ times, values }: Curve, level: number, sign: number): number {
  const k = values.findIndex((value) => (sign >= 0 ? value >= level : value <= level));
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
      return upright(firstAt(curve, 0.1 * final, final) + value, 0.9 * final);
    default:
      return undefined;
  }
}
