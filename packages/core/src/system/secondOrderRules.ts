import type { Pole } from './system.js';

/**
 * The second-order rules of course books, for K·ωn²/(s² + 2ζωn·s + ωn²); everywhere else they only predict. Times in
 * seconds, frequencies in rad/s. Overshoot exp(−πζ/√(1 − ζ²)), peak π/ωd, settling 4/(ζωn) and 3/(ζωn), rise 1.8/ωn.
 * Source: for instance Franklin, Powell and Emami-Naeini, Feedback Control of Dynamic Systems, section 3.4.
 */
export const secondOrderRules = {
  /** In %; 0 from ζ = 1 on. */
  overshootPercent: (zeta: number): number =>
    zeta < 1 ? 100 * Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta * zeta)) : 0,
  /** Null from ζ = 1 on. */
  peakTime: (zeta: number, wn: number): number | null =>
    zeta < 1 ? Math.PI / (wn * Math.sqrt(1 - zeta * zeta)) : null,
  settlingTime: (decay: number): number => 4 / decay,
  settlingTime5: (decay: number): number => 3 / decay,
  riseTime: (wn: number): number => 1.8 / wn,
  /** The least ζ for an overshoot in %, from 0 to 100, exclusive. */
  dampingFor(overshootPercent: number): number {
    const log = Math.log(overshootPercent / 100);
    return -log / Math.hypot(Math.PI, log);
  },
} as const;

/** How much faster than a dominant pair everything else dies out. */
const dominance = 5;

/** The pair that dies out last, when everything else has gone long before; undefined otherwise. */
export function dominantPair(modes: readonly Pole[]): Pole | undefined {
  const pair = modes.reduce<Pole | undefined>((last, mode) => (!last || mode.re > last.re ? mode : last), undefined);
  if (!pair || pair.im === 0 || pair.multiplicity > 1 || !(pair.re < 0)) return undefined;
  const others = modes.filter(({ re, im }) => re !== pair.re || Math.abs(im) !== Math.abs(pair.im));
  return others.every(({ re }) => re <= dominance * pair.re) ? { ...pair, im: Math.abs(pair.im) } : undefined;
}
