import { must } from '../../expression/must.js';
import { isStepOfOutput, type Nail } from '../../kinds/gains/part.js';
import type { ControlLoop } from '../../loop/controlLoop.js';
import type { QuantityName } from '../../quantity/names.js';
import { dominantPair, secondOrderRules } from '../../system/secondOrderRules.js';

/**
 * What the second-order rules predict of a loop from its dominant pair alone, as if it had no zeros and no other poles;
 * null where there is no rule or no dominant pair.
 */
export function secondOrderPromise(quantity: QuantityName, loop: ControlLoop): number | null {
  if (loop.hasDeadTime) return null;
  const pair = dominantPair(loop.modes);
  if (!pair) return null;
  const { dampingRatio: zeta, naturalFrequency: w, re } = pair;
  switch (quantity) {
    case 'overshootPercent':
      return secondOrderRules.overshootPercent(must(zeta));
    case 'peakTime':
      return secondOrderRules.peakTime(must(zeta), w);
    case 'settlingTime':
    case 'settlingTime5':
      return secondOrderRules[quantity](-re);
    case 'riseTime':
      return secondOrderRules.riseTime(w);
    default:
      return null;
  }
}

/** Whether the rules predict that a nail holds; null where they do not speak of it. */
export function isPromised(nail: Nail, loop: ControlLoop): boolean | null {
  const promised = isStepOfOutput(nail) ? secondOrderPromise(nail.quantity, loop) : null;
  if (promised === null || !('quantity' in nail)) return null;
  return nail.relation === 'atMost' ? promised <= nail.limit : promised >= nail.limit;
}
