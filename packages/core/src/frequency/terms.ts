import { Problem } from '../expression/problem.js';
import type { System } from '../system/system.js';

/**
 * A model as people read it off a Bode plot: a level, and terms that leave that level alone at low frequency. Settings
 * name its numbers: K, n poles at the origin (zeros when negative), corners p1… and z1… of real poles and zeros in rad/s,
 * corner and damping ratio wp1, dp1… and wz1, dz1 of pairs, dead time L in seconds.
 */
export interface TermModel {
  readonly gain: number;
  readonly integrators: number;
  readonly deadTime: number;
  /** 1 + s/corner, or 1 + 2ζs/corner + (s/corner)²; above the line for power 1, below for −1. */
  readonly terms: readonly { readonly corner: number; readonly damping: number | null; readonly power: 1 | -1 }[];
}

export const termSettings = [
  ...['K', 'n', 'p1', 'p2', 'p3', 'z1', 'z2', 'z3'],
  ...['wp1', 'dp1', 'wp2', 'dp2', 'wz1', 'dz1', 'L'],
] as const;
export type TermSetting = (typeof termSettings)[number];

type Numbers = Readonly<Partial<Record<string, number>>>;

/** @throws Problem `exercise` for a number that a term cannot have. */
export function modelOfTerms(numbers: Numbers): TermModel {
  const positive = (name: string, what: string): number => {
    const value = numbers[name];
    if (value === undefined || !(value > 0)) throw new Problem('exercise', `${name}, ${what}, must be more than 0.`);
    return value;
  };
  const terms: TermModel['terms'][number][] = [];
  for (const name of termSettings) {
    if (numbers[name] === undefined) continue;
    const power = name.includes('p') ? -1 : 1;
    if (/^[pz]/.test(name)) terms.push({ corner: positive(name, 'a corner frequency'), damping: null, power });
    if (name.startsWith('w')) {
      const damping = numbers[`d${name.slice(1)}`] ?? 1;
      if (!(damping > 0 && damping <= 1)) {
        throw new Problem('exercise', `d${name.slice(1)}, a damping ratio, lies above 0 and not above 1.`);
      }
      terms.push({ corner: positive(name, 'a corner frequency'), damping, power });
    }
  }
  const integrators = numbers['n'] ?? 0;
  if (!Number.isInteger(integrators) || Math.abs(integrators) > 3) {
    throw new Problem('exercise', 'n, the poles at the origin, is a whole number from −3 to 3.');
  }
  const deadTime = numbers['L'] ?? 0;
  if (deadTime < 0) throw new Problem('exercise', 'L, the dead time, cannot be less than 0.');
  return { gain: positive('K', 'the level'), integrators, deadTime, terms };
}

const decibels = 20 / Math.LN10;
const degrees = 180 / Math.PI;

/** Level in decibels and phase in degrees, continuous in ω. */
export function responseOfTerms({ gain, integrators, deadTime, terms }: TermModel, omega: number) {
  let level = Math.log(gain) - integrators * Math.log(omega);
  let phase = (-integrators * Math.PI) / 2 - omega * deadTime;
  for (const { corner, damping, power } of terms) {
    const u = omega / corner;
    const [re, im] = damping === null ? [1, u] : [1 - u * u, 2 * damping * u];
    level += power * Math.log(Math.hypot(re, im));
    phase += power * Math.atan2(im, re);
  }
  return { db: decibels * level, degrees: degrees * phase };
}

/** The straight lines of the level from one frequency to another: corners with their decibels. */
export function straightLines({ gain, integrators, terms }: TermModel, from: number, to: number) {
  const at = (omega: number): number =>
    decibels *
    (Math.log(gain) -
      integrators * Math.log(omega) +
      terms.reduce(
        (sum, { corner, damping, power }) =>
          sum + power * (damping === null ? 1 : 2) * Math.max(0, Math.log(omega / corner)),
        0,
      ));
  const corners = terms.map(({ corner }) => corner).filter((corner) => corner > from && corner < to);
  return [...new Set([from, ...corners.sort((a, b) => a - b), to])].map((omega) => ({ omega, db: at(omega) }));
}

/** A measured or drawn frequency response: rad/s, decibels, degrees. */
export interface FrequencyCurve {
  readonly omegas: readonly number[];
  readonly magnitudesDb: readonly number[];
  readonly phasesDegrees?: readonly number[] | undefined;
}

/** An angle in degrees between −180 and 180. */
export const turned = (angle: number): number => angle - 360 * Math.round(angle / 360);

/** Root mean square distance of a model from a curve, every decade of frequency counting alike. */
export function misfitOfTerms(model: TermModel, curve: FrequencyCurve): { db: number; degrees: number | null } {
  const { omegas, magnitudesDb, phasesDegrees } = curve;
  let [span, level, angle] = [0, 0, 0];
  omegas.forEach((omega, k) => {
    const before = omegas[Math.max(0, k - 1)]!;
    const after = omegas[Math.min(omegas.length - 1, k + 1)]!;
    const weight = Math.log(after / before) / 2;
    const here = responseOfTerms(model, omega);
    span += weight;
    level += weight * (here.db - magnitudesDb[k]!) ** 2;
    if (phasesDegrees) angle += weight * turned(here.degrees - phasesDegrees[k]!) ** 2;
  });
  return { db: Math.sqrt(level / span), degrees: phasesDegrees ? Math.sqrt(angle / span) : null };
}

/** The terms of a system with a dead time; null when it has a negative gain or something that no term stands for. */
export function termsOfSystem({ gain, zeros, poles }: System, deadTime = 0): Record<string, number> | null {
  const numbers: Record<string, number> = {};
  let level = gain;
  let origin = 0;
  const free = (names: readonly string[]): string | undefined => names.find((name) => numbers[name] === undefined);
  for (const [roots, letter, sign] of [
    [poles, 'p', 1],
    [zeros, 'z', -1],
  ] as const) {
    for (const { re, im, multiplicity } of roots) {
      if (im < 0) continue;
      for (let k = 0; k < multiplicity; k++) {
        const size = Math.hypot(re, im);
        if (size === 0) {
          origin += sign;
          continue;
        }
        if (re > 0 || (im > 0 && re >= 0)) return null;
        const name = im === 0 ? free([1, 2, 3].map((at) => letter + at)) : free([1, 2].map((at) => `w${letter}${at}`));
        if (!name || !(termSettings as readonly string[]).includes(name)) return null;
        numbers[name] = size;
        if (im > 0) numbers[`d${name.slice(1)}`] = -re / size;
        level *= size ** (-sign * (im > 0 ? 2 : 1));
      }
    }
  }
  if (!(level > 0)) return null;
  if (origin !== 0) numbers['n'] = origin;
  if (deadTime > 0) numbers['L'] = deadTime;
  return { K: level, ...numbers };
}
