import {
  type Branch,
  branchesOf,
  type Fraction,
  isPid,
  isStepOfOutput,
  type LoopModel,
  lowestTerms,
  Problem,
  type Root,
  secondOrderRules,
  type Settings,
  type SpecialPoints,
  specialPoints,
  systemOf,
  type Window,
  withDeadTime,
} from '@nailset/core';
import type { GainsOf } from '../loop/loopResponse';

/** The part of the s-plane that is drawn, in rad/s. */
export interface PlaneFrame {
  readonly re: number;
  readonly im: number;
  /** From the middle to the upper edge. */
  readonly reach: number;
}

/** The locus of a loop over the factor that its gain is. */
export interface Locus {
  readonly fraction: Fraction;
  readonly special: SpecialPoints;
  readonly poles: readonly Root[];
  readonly zeros: readonly Root[];
  readonly branches: readonly Branch[];
}

/** The gain that multiplies the whole controller; null when there is none to set. */
export function factorOf({ controller }: GainsOf): string | null {
  const open = controller.gains.filter((gain) => 'start' in gain).map(({ name }) => name as string);
  if (!isPid(controller)) return open.includes('K') ? 'K' : null;
  return open.includes('Kp') && (controller.terms === 'P' || controller.form !== 'parallel') ? 'Kp' : null;
}

/**
 * The loop without its factor, or, where there is no such gain, as it stands; null for a loop with dead time.
 * @throws Problem as the loop itself.
 */
export function openLoopOf(model: LoopModel, settings: Settings, factor: string | null): Fraction | null {
  const plain = withDeadTime(model.loopWith(factor ? { ...settings, [factor]: '1' } : settings).open);
  return plain?.deadTime.numerator === 0n ? lowestTerms(plain.fraction) : null;
}

/** Everything that is drawn of a locus. */
export function locusOf(fraction: Fraction, frame: PlaneFrame): Locus {
  const special = specialPoints(fraction);
  const { poles, zeros } = systemOf(fraction);
  return { fraction, special, poles, zeros, branches: branchesOf(fraction, special, windowOf(frame)) };
}

/** What must look smooth: twice as wide and high as what is seen. */
export function windowOf({ re, im, reach }: PlaneFrame): Window {
  return { left: re - 3 * reach, right: re + 3 * reach, bottom: im - 2 * reach, top: im + 2 * reach };
}

/** What the nails ask of a pair of poles by the second-order rules; null where they say nothing. */
export interface PoleRegion {
  readonly dampingRatio: number | null;
  readonly naturalFrequency: number | null;
  /** Distance from the imaginary axis. */
  readonly decay: number | null;
}

/** By the second-order rules ζ, ωn and ζωn, and what nails about poles say themselves. */
export function regionOf(nails: GainsOf['nails']): PoleRegion {
  let zeta: number | null = null;
  let w: number | null = null;
  let decay: number | null = null;
  const larger = (old: number | null, value: number): number => (old === null ? value : Math.max(old, value));
  for (const nail of nails) {
    if (!isStepOfOutput(nail)) continue;
    const { quantity, relation, limit } = nail;
    const atMost = relation === 'atMost';
    if (quantity === 'overshootPercent' && atMost && limit > 0 && limit < 100) {
      zeta = larger(zeta, secondOrderRules.dampingFor(limit));
    } else if (quantity === 'riseTime' && atMost && limit > 0) w = larger(w, secondOrderRules.riseTime(limit));
    else if ((quantity === 'settlingTime' || quantity === 'settlingTime5') && atMost && limit > 0)
      decay = larger(decay, secondOrderRules[quantity](limit));
    else if (quantity === 'dampingRatio' && !atMost && limit < 1) zeta = larger(zeta, limit);
    else if (quantity === 'naturalFrequency' && !atMost) w = larger(w, limit);
    else if (quantity === 'slowestRealPart' && atMost && limit < 0) decay = larger(decay, -limit);
  }
  return { dampingRatio: zeta, naturalFrequency: w, decay };
}

/** The edge of the region as points of the upper half-plane, from the real axis outwards to `far`. */
export function regionEdge(region: PoleRegion, far: number): { re: number; im: number }[] {
  const { dampingRatio, naturalFrequency, decay } = region;
  const steepest = dampingRatio === null ? Math.PI / 2 : Math.acos(Math.max(0, dampingRatio));
  const least = naturalFrequency ?? 0;
  const points = Array.from({ length: 49 }, (_, k) => {
    const angle = (steepest * k) / 48;
    const reached = decay === null ? 0 : decay / Math.max(1e-6, Math.cos(angle));
    const radius = Math.min(far, Math.max(least, reached));
    return { re: -radius * Math.cos(angle), im: radius * Math.sin(angle) };
  });
  return [...points, { re: -far * Math.cos(steepest), im: far * Math.sin(steepest) }];
}

/** Overshoot in per cent that the second-order rule promises of a pole. */
export function promisedOvershoot({ re, im }: { re: number; im: number }): number {
  if (re >= 0) return NaN;
  return im === 0 ? 0 : 100 * Math.exp((Math.PI * re) / Math.abs(im));
}

/** A frame around poles, zeros and centroid, with the imaginary axis in it; round numbers. */
export function frameAround(points: readonly { re: number; im: number }[]): PlaneFrame {
  const sizes = points.map(({ re, im }) => Math.hypot(re, im)).filter((size) => size > 0);
  const typical = sizes.sort((a, b) => a - b)[Math.floor((sizes.length - 1) / 2)] ?? 1;
  const near = points.filter(({ re, im }) => Math.hypot(re, im) < 1e4 * typical);
  const least = 0.5 * Math.max(0, ...near.map(({ re, im }) => Math.hypot(re, im))) || 1;
  const left = Math.min(-least, ...near.map(({ re }) => re));
  const high = Math.max(least, ...near.map(({ im }) => im));
  const reach = Number((Math.max(1.25 * high, -0.62 * left) * 1.05).toPrecision(2));
  return { re: Number((left / 2.4).toPrecision(2)), im: 0, reach };
}

/** The locus, or undefined with the reason in words. */
export function tryLocus(work: () => Locus | null): { locus?: Locus; words?: string } {
  try {
    const locus = work();
    return locus
      ? { locus }
      : { words: 'A loop with dead time has infinitely many branches: look at its frequency response.' };
  } catch (error) {
    if (error instanceof Problem) return { words: error.message };
    throw error;
  }
}
