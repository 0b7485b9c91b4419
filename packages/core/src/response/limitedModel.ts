import type { Fraction } from '../rational/fraction.js';
import { coefficients } from '../rational/polynomial.js';
import { observerForm } from './delayLoop.js';
import type { LinearMode } from './linearRun.js';

/** A PID controller as it is built: gains of the parallel form, seconds, limits in units of the effort. */
export interface PracticalController {
  readonly Kp: number;
  readonly Ki: number;
  readonly Kd: number;
  /** Time constant of the derivative's filter; needed when Kd is not zero. */
  readonly filterTime?: number;
  /** Shares of the reference in the proportional and the derivative part; 1 and 1 unless given. */
  readonly proportionalWeight?: number;
  readonly derivativeWeight?: number;
  readonly limits?: { readonly low: number; readonly high: number };
  /** Time in which the integrator follows the limited effort; null lets it wind up. */
  readonly trackingTime?: number | null;
}

/** Places of the signals that drive the states: reference, 1, the effort one dead time ago, disturbance. */
export const [reference, unity, past, disturbance] = [0, 1, 2, 3];
export const forcingCount = 4;

/** The loop as state equations, one set for each side of the limits. States: plant, integral, filtered derivative. */
export class LimitedModel {
  /** How many states there are; the last are those of the controller that it has. */
  readonly size: number;
  private readonly a: readonly (readonly number[])[];
  private readonly enters: readonly number[];
  private readonly integral: number;
  private readonly filter: number;
  private readonly slope: number;

  constructor(
    readonly plant: Fraction,
    readonly deadTime: number,
    readonly controller: PracticalController,
  ) {
    const { a, column } = observerForm(plant.denominator);
    const { Ki, Kd, filterTime = 0 } = controller;
    this.a = a;
    this.enters = column(plant.numerator, 1).states;
    const [ofIntegral, ofFilter] = [Number(Ki !== 0), Number(Kd !== 0)];
    this.integral = ofIntegral ? a.length : -1;
    this.filter = ofFilter ? a.length + ofIntegral : -1;
    this.size = a.length + ofIntegral + ofFilter;
    this.slope = ofFilter ? Kd / filterTime : 0;
  }

  /** Rate with which the integrator follows the limited effort; 0 where it winds up. */
  get tracking(): number {
    const { Ki, trackingTime } = this.controller;
    return trackingTime && Ki !== 0 ? 1 / trackingTime : 0;
  }

  /** About how large output, effort, demand and error are for steps of reference and disturbance. */
  sizes(ofReference: number, ofDisturbance: number): number[] {
    const { Kp, Ki, limits } = this.controller;
    const output = Math.abs(ofReference) + gainOf(this.plant) * Math.abs(ofDisturbance);
    const demand = (Math.abs(Kp) + Math.abs(Ki) + Math.abs(this.slope)) * output;
    const limit = limits ? Math.max(Math.abs(limits.low), Math.abs(limits.high)) : Infinity;
    return [output, Math.min(demand, limit), demand, output];
  }

  /** The equations while the effort is free, or at a limit. Outputs: output, effort, demand, error. */
  mode(limit: number | null): LinearMode {
    const { a, enters, size, integral, filter, slope, tracking } = this;
    const { Kp, Ki, filterTime = 0, proportionalWeight = 1, derivativeWeight = 1 } = this.controller;
    const ofController = (entries: Readonly<Record<number, number>>): number[] =>
      row(size, Object.fromEntries(Object.entries(entries).filter(([k]) => Number(k) >= 0)));
    const demandOfStates = ofController({ 0: -Kp - slope, [integral]: 1, [filter]: -slope });
    const demandOfForcing = row(forcingCount, { [reference]: Kp * proportionalWeight + slope * derivativeWeight });
    const effortOfStates = limit === null ? demandOfStates : row(size, {});
    const effortOfForcing = limit === null ? demandOfForcing : row(forcingCount, { [unity]: limit });
    const states = Array.from({ length: size }, (_, i) => row(size, { ...(a[i] ?? []) }));
    const forcing = Array.from({ length: size }, () => row(forcingCount, {}));
    enters.forEach((enter, i) => {
      forcing[i]![disturbance] = enter;
      if (this.deadTime > 0) forcing[i]![past] = enter;
      else {
        effortOfStates.forEach((value, j) => (states[i]![j]! += enter * value));
        effortOfForcing.forEach((value, j) => (forcing[i]![j]! += enter * value));
      }
    });
    if (integral >= 0) {
      states[integral]![0]! -= Ki;
      forcing[integral]![reference]! += Ki;
      if (limit !== null) {
        demandOfStates.forEach((value, j) => (states[integral]![j]! -= tracking * value));
        demandOfForcing.forEach((value, j) => (forcing[integral]![j]! -= tracking * value));
        forcing[integral]![unity]! += tracking * limit;
      }
    }
    if (filter >= 0) {
      states[filter]![0]! -= 1 / filterTime;
      states[filter]![filter]! -= 1 / filterTime;
      forcing[filter]![reference]! += derivativeWeight / filterTime;
    }
    return {
      a: states,
      b: forcing,
      c: [row(size, { 0: 1 }), effortOfStates, demandOfStates, row(size, { 0: -1 })],
      d: [row(forcingCount, {}), effortOfForcing, demandOfForcing, row(forcingCount, { [reference]: 1 })],
    };
  }
}

/** About how large a plant's gain is, in the unit of time that it is given in. */
export function gainOf({ numerator, denominator }: Fraction): number {
  const sum = (p: Fraction['numerator']): number => coefficients(p).reduce((all, c) => all + Math.abs(c), 0);
  return sum(numerator) / sum(denominator);
}

/** A row of zeros but for some entries. */
export function row(length: number, entries: Readonly<Record<number, number>>): number[] {
  return Array.from({ length }, (_, k) => entries[k] ?? 0);
}
