import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import { rationalFromNumber } from '../rational/number.js';
import { coefficients, constant, degree, multiply } from '../rational/polynomial.js';
import { inTimeUnit, powerOfTwo } from '../system/timeUnit.js';
import { delayed, withDeadTime } from '../system/transfer.js';
import { observerForm } from './delayLoop.js';
import { type Input, type InputPart, inputAt, partsOf } from './input.js';
import { restOfRun } from './limitedRest.js';
import { type LinearMode, LinearRun } from './linearRun.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion } from './piecewise.js';
import { StretchedMotion } from './stretched.js';

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

/** Plant with dead time in seconds; the disturbance adds to the effort at the plant. */
export interface LimitedLoop {
  readonly plant: Fraction;
  readonly deadTime: number;
  readonly controller: PracticalController;
  readonly reference: Input;
  readonly disturbance?: Input;
  /** Time of interest, in seconds; sets the longest step. */
  readonly horizon: number;
}

/** Signals of the loop. `demand` is the effort before its limits. */
export type LimitedSignal = 'output' | 'effort' | 'demand' | 'error';

/** The signals of a loop with limits, worked out as far as they are asked for. */
export interface LimitedSignals extends Readonly<Record<LimitedSignal, Motion>> {
  /** The signals but the demand until they rest, and where; null when they do not come to rest. For steps at t = 0. */
  settled(): Readonly<
    Record<Exclude<LimitedSignal, 'demand'>, { readonly motion: Motion; readonly finalValue: number }>
  > | null;
}

/** Places of the signals that drive the states: reference, 1, the effort one dead time ago, disturbance. */
const [reference, unity, past, disturbance] = [0, 1, 2, 3];
const forcingCount = 4;

/**
 * The loop with actuator limits, integrator anti-windup (back-calculation) and derivative filter. Between two events,
 * at which the effort meets or leaves a limit, the loop is linear; events are located on the solution itself.
 * Accuracy 1e-6 of the largest value of each signal.
 * @throws Problem `improper` for a plant with direct feedthrough, `notPossible` for a derivative without filter.
 */
export function limitedLoop(loop: LimitedLoop): LimitedSignals {
  refuseImpossible(loop);
  const reach = Math.min(loop.horizon / 8, loop.deadTime > 0 ? loop.deadTime : Infinity);
  // In units in which the longest step and the plant's gain are near 1, so that nothing depends on the scale of either.
  const unit = powerOfTwo(reach);
  const plant = withDeadTime(inTimeUnit(delayed(loop.plant), unit))!.fraction;
  const ofEffort = powerOfTwo(1 / gainOf(plant) || 1);
  const controller = controllerInUnits(loop.controller, unit, ofEffort);
  const driven = {
    reference: partsInUnit(loop.reference, unit),
    disturbance: loop.disturbance ? partsInUnit(loop.disturbance, unit, ofEffort) : [],
  };
  const scaledPlant = {
    ...plant,
    numerator: multiply(plant.numerator, constant(rationalFromNumber(ofEffort))),
  };
  const model = new LimitedModel(scaledPlant, loop.deadTime / unit, controller);
  const delay = model.deadTime;
  const starts = [...driven.reference, ...driven.disturbance].map(({ at }) => at);
  const echoes = delay > 0 ? [0, 1, 2, 3, 4, 5, 6].map((k) => k * delay) : [0];
  const { limits } = controller;
  const run = new LinearRun({
    modes: limits ? [model.mode(null), model.mode(limits.high), model.mode(limits.low)] : [model.mode(null)],
    ...(limits ? { switching: { output: 2, ...limits } } : {}),
    initial: row(model.size, {}),
    forcingCount,
    forcing(time, after, into, self) {
      into[reference] = inputAt(driven.reference, time, after);
      into[unity] = 1;
      into[disturbance] = inputAt(driven.disturbance, time, after);
      const then = time - delay;
      into[past] = delay > 0 && (after ? then > -1e-12 : then > 1e-12) ? self.value(1, Math.max(0, then), after) : 0;
    },
    breaks: [...new Set([0, ...starts].flatMap((at) => echoes.map((echo) => at + echo)))]
      .filter((t) => t > 0)
      .sort((x, y) => x - y),
    echoes: echoes.slice(1),
    longest: reach / unit,
    tolerance: 1e-9,
    sizes: model.sizes(heightOf(driven.reference), heightOf(driven.disturbance)),
  });
  const scale = (output: number): number => (output === 1 || output === 2 ? ofEffort : 1);
  const signal = (output: number): Motion =>
    new StretchedMotion(new PiecewiseMotion(run.source(output)), unit, scale(output));
  return {
    output: signal(0),
    effort: signal(1),
    demand: signal(2),
    error: signal(3),
    settled() {
      const forcing = row(forcingCount, {
        [reference]: heightOf(driven.reference),
        [unity]: 1,
        [disturbance]: heightOf(driven.disturbance),
      });
      const rest = restOfRun(run, model, forcing);
      if (!rest) return null;
      const at = (output: number): { motion: Motion; finalValue: number } => {
        const { motion, finalValue } = rest(output);
        const factor = scale(output);
        return { motion: new StretchedMotion(motion, unit, factor), finalValue: factor * finalValue };
      };
      return { output: at(0), effort: at(1), error: at(3) };
    },
  };
}

function refuseImpossible({ plant, controller, reference, disturbance }: LimitedLoop): void {
  const { Kd, filterTime = 0, limits } = controller;
  if (degree(plant.numerator) >= degree(plant.denominator)) {
    throw new Problem('improper', 'A loop with limits needs a plant with more poles than zeros.');
  }
  if (Kd !== 0 && !(filterTime > 0)) {
    throw new Problem('notPossible', 'A derivative needs a filter here: give its filter time, in seconds.');
  }
  if (limits && !(limits.low < limits.high)) throw new Problem('query', 'The lower limit must lie below the upper.');
  const inputs = [reference, ...(disturbance ? [disturbance] : [])];
  if (inputs.some((input) => partsOf(input).parts.some(({ power }) => power < 0))) {
    throw new Problem('notPossible', 'A loop with limits has no impulse response that scales; use a short step.');
  }
}

/** About how large a plant's gain is, in the unit of time that it is given in. */
function gainOf({ numerator, denominator }: Fraction): number {
  const sum = (p: Fraction['numerator']): number => coefficients(p).reduce((all, c) => all + Math.abs(c), 0);
  return sum(numerator) / sum(denominator);
}

const partsInUnit = (input: Input, unit: number, ofValue = 1): InputPart[] =>
  partsOf(input).parts.map(({ power, amplitude, at }) => ({
    power,
    amplitude: (amplitude * unit ** power) / ofValue,
    at: at / unit,
  }));

/** All steps together, or the largest other part. */
const heightOf = (parts: readonly InputPart[]): number =>
  parts.every(({ power }) => power === 0)
    ? parts.reduce((sum, { amplitude }) => sum + amplitude, 0)
    : Math.max(...parts.map(({ amplitude }) => Math.abs(amplitude)));

function controllerInUnits(controller: PracticalController, unit: number, ofEffort: number): PracticalController {
  const { Kp, Ki, Kd, filterTime = 0, trackingTime = null, limits } = controller;
  return {
    ...controller,
    Kp: Kp / ofEffort,
    Ki: (Ki * unit) / ofEffort,
    Kd: Kd / unit / ofEffort,
    filterTime: filterTime / unit,
    trackingTime: trackingTime === null ? null : trackingTime / unit,
    ...(limits ? { limits: { low: limits.low / ofEffort, high: limits.high / ofEffort } } : {}),
  };
}

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

function row(length: number, entries: Readonly<Record<number, number>>): number[] {
  return Array.from({ length }, (_, k) => entries[k] ?? 0);
}
