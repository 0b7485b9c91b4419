import { isStable } from '../frequency/stability.js';
import { type Transfer, simplified } from '../system/transfer.js';
import { settledMotion } from './delayLoop.js';
import type { Motion } from './motion.js';
import { dcGainOf, respond } from './respond.js';

/**
 * The unit step response of a stable transfer, dead times included, and the value at which it rests; null when it is
 * not stable.
 * @throws Problem `improper` when it has more zeros than poles.
 */
export function settlingMotion(written: Transfer): { motion: Motion; finalValue: number } | null {
  const transfer = simplified(written);
  if (!isStable(transfer)) return null;
  const finalValue = dcGainOf(transfer)!;
  const hasLoop = transfer.denominator.length > 1;
  const motion = hasLoop ? settledMotion(transfer, finalValue) : respond(transfer);
  return { motion, finalValue };
}
