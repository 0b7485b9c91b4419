import type { System } from '../system/system.js';
import type { Transfer } from '../system/transfer.js';
import type { Motion } from './motion.js';
import { settlingMotion } from './settling.js';
import { stepResponse } from './step.js';
import { lastOutside, levelCrossing, monotonePieces } from './walk.js';

/**
 * What is read off a unit step response; definitions in docs/numerics.md. Times in seconds. All but `stable` are null
 * for a system that is not stable; the relative ones are null when the final value is zero.
 */
export interface Measures {
  readonly stable: boolean;
  /** Limit of y. */
  readonly finalValue: number | null;
  /** First time at 90 % minus first time at 10 % of the final value. */
  readonly riseTime: number | null;
  /** First time at the final value; null if never reached. */
  readonly riseTimeFull: number | null;
  /** First time at 50 % of the final value. */
  readonly delayTime: number | null;
  /** First time at 63.2 % (1 − 1/e) of the final value; the time constant of a first-order system. */
  readonly time63: number | null;
  /** After it, y stays within 2 % of the final value. */
  readonly settlingTime: number | null;
  /** After it, y stays within 5 % of the final value. */
  readonly settlingTime5: number | null;
  /** How far the extreme beyond the final value lies beyond it, in % of it. */
  readonly overshootPercent: number | null;
  readonly peakTime: number | null;
  readonly peakValue: number | null;
  /** How far y goes the wrong way first, in % of the final value. */
  readonly undershootPercent: number | null;
}

const oneTimeConstant = 1 - Math.exp(-1);
const mostDoublings = 100;
const levels = [0.1, 0.5, oneTimeConstant, 0.9, 1];

/** Measures of a system that has none. */
export const noMeasures: Measures = {
  stable: false,
  finalValue: null,
  riseTime: null,
  riseTimeFull: null,
  delayTime: null,
  time63: null,
  settlingTime: null,
  settlingTime5: null,
  overshootPercent: null,
  peakTime: null,
  peakValue: null,
  undershootPercent: null,
};

/**
 * Measures of the unit step response, 1e-6 relative. All crossings are found on the exact response.
 * @throws Problem `improper` when the system has more zeros than poles.
 */
export function measuresOf(system: System, motion: Motion = stepResponse(system)): Measures {
  return system.stable ? measuresOfMotion(motion, system.dcGain!) : noMeasures;
}

/** Measures of the unit step response of a transfer, dead times included. @throws Problem as `respond`. */
export function measuresOfTransfer(transfer: Transfer): Measures {
  const settling = settlingMotion(transfer);
  return settling ? measuresOfMotion(settling.motion, settling.finalValue) : noMeasures;
}

/** Measures of a motion that tends to the final value. */
export function measuresOfMotion(motion: Motion, finalValue: number): Measures {
  if (finalValue === 0) return { ...noMeasures, stable: true, finalValue };

  // Everything below is about z = y/yf, which tends to 1.
  const firstAt = new Map<number, number>();
  let lowest = 0;
  let highest = motion.at(0) / finalValue;
  let highestAt = 0;
  const size = Math.abs(finalValue);
  const largest = motion.remaining(0);
  const noise =
    (Number.isFinite(largest) ? largest : size) * 4 * Number.EPSILON + 1e-13 * size + (motion.accuracy ?? 0);
  const least = Math.max(1e-11, (2 * noise) / size);
  // Once what is left cannot beat the highest point found, only the settling times are open.
  const enough = (time: number): boolean =>
    motion.remaining(time) / size < Math.max(firstAt.has(1) ? highest - 1 : 0, least);

  for (const piece of monotonePieces(motion, noise, enough)) {
    const start = piece.fromValue / finalValue;
    // A response that starts at a level, up to rounding, has reached it.
    const from = piece.from === 0 ? start + 1e-12 : start;
    const to = piece.toValue / finalValue;
    if (!firstAt.has(0.1) && from < 0.1) lowest = Math.min(lowest, from, to);
    for (const level of levels) {
      if (firstAt.has(level)) continue;
      if (from >= level) firstAt.set(level, piece.from);
      else if (to >= level) {
        firstAt.set(level, levelCrossing(motion, level * finalValue, piece.from, piece.to));
      }
    }
    // What is as high as before up to rounding, as an effort that meets its limit again, is no new peak.
    if (to > highest + noise / size) [highest, highestAt] = [to, piece.to];
  }

  const overshoot = highest - 1 > Math.max(1e-11, noise / size) ? highest - 1 : 0;
  const settled = (band: number): number =>
    lastOutside(motion, finalValue, band * size, timeWithin(motion, (1 - 1e-6) * band * size), noise);
  const rise = firstAt.get(0.9);
  return {
    stable: true,
    finalValue,
    riseTime: rise === undefined ? null : rise - firstAt.get(0.1)!,
    riseTimeFull: overshoot > 0 ? firstAt.get(1)! : null,
    delayTime: firstAt.get(0.5) ?? null,
    time63: firstAt.get(oneTimeConstant) ?? null,
    settlingTime: settled(0.02),
    settlingTime5: settled(0.05),
    overshootPercent: 100 * overshoot,
    peakTime: overshoot > 0 ? highestAt : null,
    peakValue: overshoot > 0 ? highest * finalValue : null,
    undershootPercent: lowest < -Math.max(1e-11, noise / size) ? -100 * lowest : 0,
  };
}

/** The time after which no more than `size` still moves. */
function timeWithin(motion: Motion, size: number): number {
  let [low, high] = [0, motion.step(0, size)];
  for (let k = 0; k < mostDoublings && motion.remaining(high) > size; k++) [low, high] = [high, 2 * high];
  for (let round = 0; round < 50; round++) {
    const middle = (low + high) / 2;
    if (motion.remaining(middle) > size) low = middle;
    else high = middle;
  }
  return high;
}
