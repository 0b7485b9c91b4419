import type { ControlLoop } from '../../loop/controlLoop.js';
import type { QuantityName } from '../../quantity/names.js';

/**
 * What the second-order rules promise of a loop from its slowest poles alone, as if it had no zeros and no others; null
 * where there is no rule. Overshoot exp(−πζ/√(1 − ζ²)), peak π/ωd, settling 4/(ζωn) and 3/(ζωn), rise (2.16ζ + 0.6)/ωn.
 */
export function secondOrderPromise(quantity: QuantityName, loop: ControlLoop): number | null {
  if (loop.hasDeadTime) return null;
  const { slowest } = loop.subject();
  if (slowest?.dampingRatio == null) return null;
  const { dampingRatio: zeta, naturalFrequency: w } = slowest;
  if (!(zeta > 0) || !(w > 0)) return null;
  const damped = zeta < 1 ? Math.sqrt(1 - zeta * zeta) : 0;
  switch (quantity) {
    case 'overshootPercent':
      return damped > 0 ? 100 * Math.exp((-Math.PI * zeta) / damped) : 0;
    case 'peakTime':
      return damped > 0 ? Math.PI / (w * damped) : null;
    case 'settlingTime':
      return 4 / (zeta * w);
    case 'settlingTime5':
      return 3 / (zeta * w);
    case 'riseTime':
      return (2.16 * zeta + 0.6) / w;
    default:
      return null;
  }
}
