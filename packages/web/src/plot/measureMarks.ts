import { type Curve, formatNumber, type Measures, type TimeUnit, withUnit } from '@nailset/core';

/** A line drawn into the plot to show where a measure is read, with its words at one end. */
export interface MeasureMark {
  readonly id: string;
  readonly from: { t: number; y: number };
  readonly to: { t: number; y: number };
  readonly words?: string;
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
