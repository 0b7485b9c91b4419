import type { Measures } from '../response/measures.js';
import type { LevelMeasures } from './seen.js';

/**
 * Measures of the unit step response, as those of a step between these levels at that time, in seconds; the system rests
 * at the first. Null where nothing is reached: no step, an unstable system, a response that ends where it began.
 */
export function betweenLevels(
  { finalValue, riseTime, settlingTime, peakTime, peakValue }: Measures,
  { from, to, at }: { readonly from: number; readonly to: number; readonly at: number },
): LevelMeasures | null {
  if (finalValue === null || finalValue === 0 || from === to) return null;
  const restValue = finalValue * from;
  return {
    ...{ at, restValue, finalValue: finalValue * to, riseTime, settlingTime, peakTime },
    peakValue: peakValue === null ? null : restValue + peakValue * (to - from),
  };
}
