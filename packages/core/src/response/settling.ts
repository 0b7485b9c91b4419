import { isStable } from '../frequency/stability.js';
import { simplified, type Transfer } from '../system/transfer.js';
import { settledMotion } from './delayLoop.js';
import type { Motion } from './motion.js';
import { dcGainOf, respond } from './respond.js';

/**
 * The unit step response of a stable transfer, dead times included, and the value at which it rests; null when it is
 * not stable, because of a mode that the response does not show included.
 * @throws Problem `improper` when it has more zeros than poles.
 */
export function settlingMotion(written: Transfer): { motion: Motion; finalValue: number } | null {
  if (!isStable(written)) return null;
  const transfer = simplified(written);
  const finalValue = dcGainOf(transfer)!;
  const hasLoop = transfer.denominator.length > 1;
  const motion = hasLoop ? settledMotion(transfer, finalValue) : respond(transfer);
  return { motion, finalValue };
}
