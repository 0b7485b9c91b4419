import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import { rationalFromNumber } from '../rational/number.js';
import { constant, degree, multiply } from '../rational/polynomial.js';
import { inTimeUnit, powerOfTwo } from '../system/timeUnit.js';
import { delayed, withDeadTime } from '../system/transfer.js';
import { type Input, inputAt, type InputPart, partsOf } from './input.js';
import {
  disturbance,
  forcingCount,
  gainOf,
  LimitedModel,
  past,
  type PracticalController,
  reference,
  row,
  unity,
} from './limitedModel.js';
import { restOfRun } from './limitedRest.js';
import { LinearRun } from './linearRun.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion } from './piecewise.js';
import { StretchedMotion } from './stretched.js';

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
