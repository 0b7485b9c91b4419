import type { Transfer } from '../system/transfer.js';
import type { Motion } from './motion.js';
import { settlingMotion } from './settling.js';
import { crossing, monotonePieces } from './walk.js';

/** Integrals over all time of an error that dies out; time in seconds. */
export interface ErrorIntegrals {
  /** ∫|e| dt */
  readonly absolute: number;
  /** ∫e² dt */
  readonly squared: number;
  /** ∫t·|e| dt */
  readonly timeWeighted: number;
}

/**
 * Integrals of the response of `error` to a unit step (1e-6 relative); null when the system is not stable or its
 * response does not die out.
 * @param error the transfer from the step to the error, such as 1/(1 + L)
 * @throws Problem `improper` when it has more zeros than poles.
 */
export function errorIntegrals(error: Transfer): ErrorIntegrals | null {
  const motion = settlingMotion(error);
  if (motion?.finalValue !== 0) return null;
  let [absolute, squared, timeWeighted] = [0, 0, 0];
  eachSmoothStretch(motion.motion, (from, to) => {
    const middle = (from + to) / 2;
    const half = (to - from) / 2;
    points.forEach((x, k) => {
      for (const time of [middle - half * x, middle + half * x]) {
        const value = motion.motion.at(time);
        const weight = half * weights[k]!;
        absolute += weight * Math.abs(value);
        squared += weight * value * value;
        timeWeighted += weight * time * Math.abs(value);
      }
    });
  });
  return { absolute, squared, timeWeighted };
}

/**
 * The largest |value| of the response to a unit step, and when, such as the peak control effort; null when the system
 * is not stable.
 * @throws Problem `improper` when the response starts with an impulse.
 */
export function peakOfResponse(transfer: Transfer): { value: number; time: number } | null {
  const settling = settlingMotion(transfer);
  if (!settling) return null;
  return peakOfMotion(settling.motion, settling.finalValue);
}

/** The largest |value| of a motion that tends to the final value. */
export const largestOfMotion = (motion: Motion, finalValue: number): number =>
  Math.abs(peakOfMotion(motion, finalValue).value);

function peakOfMotion(motion: Motion, finalValue: number): { value: number; time: number } {
  let [value, time] = [motion.at(0), 0];
  const consider = (candidate: number, at: number): void => {
    if (Math.abs(candidate) > Math.abs(value) * (1 + 1e-12)) [value, time] = [candidate, at];
  };
  const settled = (at: number): boolean =>
    motion.remaining(at) <=
    Math.max(1e-10 * Math.max(Math.abs(value), Math.abs(finalValue)), Math.abs(value) - Math.abs(finalValue));
  for (const piece of monotonePieces(motion, floorOf(motion), settled)) {
    consider(piece.fromValue, piece.from);
    consider(piece.toValue, piece.to);
  }
  // A response that creeps up to its final value has no highest point before.
  return Math.abs(finalValue) >= Math.abs(value) * (1 - 1e-9) ? { value: finalValue, time: Infinity } : { value, time };
}

/** Cuts the motion at its zeros and into steps in which it is nearly a polynomial, until nothing is left of it. */
function eachSmoothStretch(motion: Motion, visit: (from: number, to: number) => void): void {
  const start = motion.remaining(0);
  const least = 1e-10 * (Number.isFinite(start) ? start : 1);
  const floor = floorOf(motion);
  for (const { from, to } of monotonePieces(motion, floor, (time) => motion.remaining(time) < least)) {
    if (to <= from) continue;
    const ends = motion.at(from) * motion.at(to) < 0 ? [from, crossing((t) => motion.at(t), from, to), to] : [from, to];
    for (let k = 0; k + 1 < ends.length; k++) {
      for (let time = ends[k]!; time < ends[k + 1]!;) {
        const next = Math.min(ends[k + 1]!, time + motion.step(time, floor));
        visit(time, next);
        if (next <= time) break;
        time = next;
      }
    }
  }
}

function floorOf(motion: Motion): number {
  const largest = motion.remaining(0);
  return (Number.isFinite(largest) ? largest : 1) * 1e-12;
}

/** Gauss's rule with eight points on (−1, 1), the positive half. */
const points = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const weights = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];
