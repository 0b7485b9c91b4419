import { isStable } from '../frequency/stability.js';
import type { System } from '../system/system.js';
import { type Transfer, simplified, withDeadTime } from '../system/transfer.js';
import { settledMotion } from './delayLoop.js';
import type { Motion } from './motion.js';
import { dcGainOf, respond } from './respond.js';
import { stepResponse } from './step.js';
import { crossing, monotonePieces } from './walk.js';

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
const levels = [0.1, 0.5, oneTimeConstant, 0.9, 1];

const none: Measures = {
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
  return system.stable ? measuresOfMotion(motion, system.dcGain!) : none;
}

/** Measures of the unit step response of a transfer, dead times included. @throws Problem as `respond`. */
export function measuresOfTransfer(written: Transfer): Measures {
  const transfer = simplified(written);
  if (!isStable(transfer)) return none;
  const finalValue = dcGainOf(transfer)!;
  const motion = withDeadTime(transfer) ? respond(transfer) : settledMotion(transfer, finalValue);
  return measuresOfMotion(motion, finalValue);
}

/** Measures of a motion that tends to the final value. */
export function measuresOfMotion(motion: Motion, finalValue: number): Measures {
  if (finalValue === 0) return { ...none, stable: true, finalValue };

  // Everything below is about z = y/yf, which tends to 1.
  const relative = (time: number): number => motion.at(time) / finalValue;
  const firstAt = new Map<number, number>();
  const lastOutside = new Map<number, [number, number]>();
  let lowest = 0;
  let highest = relative(0);
  let highestAt = 0;
  const largest = motion.remaining(0);
  const noise =
    (Number.isFinite(largest) ? largest : Math.abs(finalValue)) * 4 * Number.EPSILON +
    1e-13 * Math.abs(finalValue) +
    (motion.accuracy ?? 0);
  const enough = (time: number): boolean => {
    const rest = motion.remaining(time) / Math.abs(finalValue);
    const found = highest - 1;
    return rest < Math.max(Math.min(0.02, found), 1e-11, (2 * noise) / Math.abs(finalValue));
  };

  for (const piece of monotonePieces(motion, noise, enough)) {
    const from = piece.fromValue / finalValue;
    const to = piece.toValue / finalValue;
    if (!firstAt.has(0.1)) lowest = Math.min(lowest, from, to);
    for (const level of levels) {
      if (firstAt.has(level)) continue;
      if (from >= level) firstAt.set(level, piece.from);
      else if (to >= level)
        firstAt.set(
          level,
          crossing((t) => relative(t) - level, piece.from, piece.to),
        );
    }
    if (to > highest) [highest, highestAt] = [to, piece.to];
    for (const band of [0.02, 0.05]) {
      if (Math.abs(to - 1) > band) lastOutside.set(band, [piece.to, piece.to]);
      else if (Math.abs(from - 1) > band) lastOutside.set(band, [piece.from, piece.to]);
    }
  }

  const overshoot = highest - 1 > Math.max(1e-11, noise / Math.abs(finalValue)) ? highest - 1 : 0;
  const settled = (band: number): number => {
    const last = lastOutside.get(band);
    if (!last) return 0;
    // The piece is monotone: it enters the band from the side on which it starts.
    const side = Math.sign(relative(last[0]) - 1) * band;
    return crossing((t) => relative(t) - 1 - side, last[0], last[1]);
  };
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
    undershootPercent: lowest < -Math.max(1e-11, noise / Math.abs(finalValue)) ? -100 * lowest : 0,
  };
}
