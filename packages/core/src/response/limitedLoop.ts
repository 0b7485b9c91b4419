import { Problem } from '../expression/problem.js';
import type { Fraction } from '../rational/fraction.js';
import { degree } from '../rational/polynomial.js';
import { observerForm } from './delayLoop.js';
import { type Input, inputAt, partsOf } from './input.js';
import { type LinearMode, LinearRun } from './linearRun.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion, type PolynomialPiece, valueOf } from './piecewise.js';

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

type SignalKind = 'output' | 'effort' | 'demand' | 'error';

/** Signals of the loop. `demand` is the effort before its limits. */
export interface LimitedSignals extends Readonly<Record<SignalKind, Motion>> {
  /** The signals worked out until they rest, and where; null when they do not come to rest. */
  settled(): Readonly<Record<SignalKind, { readonly motion: Motion; readonly finalValue: number }>> | null;
}

const kinds: readonly SignalKind[] = ['output', 'effort', 'demand', 'error'];
const mostHorizons = 64;
const restingShare = 1e-7;

/**
 * The loop with actuator limits, integrator anti-windup (back-calculation) and derivative filter. Between two events,
 * at which the effort meets or leaves a limit, the loop is linear; events are located on the solution itself.
 * Accuracy 1e-6 of the largest value.
 * @throws Problem `improper` for a plant with direct feedthrough, `notPossible` for a derivative without filter.
 */
export function limitedLoop(loop: LimitedLoop): LimitedSignals {
  const { plant, deadTime, controller, horizon } = loop;
  const { Kp, Ki, Kd, filterTime = 0, proportionalWeight = 1, derivativeWeight = 1 } = controller;
  const { limits, trackingTime = null } = controller;
  if (degree(plant.numerator) >= degree(plant.denominator)) {
    throw new Problem('improper', 'A loop with limits needs a plant with more poles than zeros.');
  }
  if (Kd !== 0 && !(filterTime > 0)) {
    throw new Problem('notPossible', 'A derivative needs a filter here: give its filter time, in seconds.');
  }
  if (limits && !(limits.low < limits.high)) throw new Problem('query', 'The lower limit must lie below the upper.');
  const { a, column } = observerForm(plant.denominator);
  const enters = column(plant.numerator, 1).states;
  const n = a.length;
  // States: plant, integral, filtered derivative input. Forcing: reference, 1, delayed effort, disturbance.
  const integral = n;
  const filter = n + 1;
  const size = n + 2;
  const [reference, unit, past, disturbance] = [0, 1, 2, 3];
  const slope = Kd === 0 ? 0 : Kd / filterTime;
  const demandOfStates = row(size, { 0: -Kp - slope, [integral]: 1, [filter]: -slope });
  const demandOfForcing = row(4, { [reference]: Kp * proportionalWeight + slope * derivativeWeight });
  const tracking = trackingTime !== null && Ki !== 0 ? 1 / trackingTime : 0;

  const mode = (limit: number | null): LinearMode => {
    const effortOfStates = limit === null ? demandOfStates : row(size, {});
    const effortOfForcing = limit === null ? demandOfForcing : row(4, { [unit]: limit });
    const states = Array.from({ length: size }, (_, i) =>
      row(size, Object.fromEntries((a[i] ?? []).map((v, j) => [j, v]))),
    );
    const forcing = Array.from({ length: size }, () => row(4, {}));
    for (let i = 0; i < n; i++) {
      forcing[i]![disturbance] = enters[i]!;
      if (deadTime > 0) forcing[i]![past] = enters[i]!;
      else {
        effortOfStates.forEach((value, j) => (states[i]![j]! += enters[i]! * value));
        effortOfForcing.forEach((value, j) => (forcing[i]![j]! += enters[i]! * value));
      }
    }
    states[integral]![0]! -= Ki;
    forcing[integral]![reference]! += Ki;
    if (limit !== null) {
      demandOfStates.forEach((value, j) => (states[integral]![j]! -= tracking * value));
      demandOfForcing.forEach((value, j) => (forcing[integral]![j]! -= tracking * value));
      forcing[integral]![unit]! += tracking * limit;
    }
    if (Kd !== 0) {
      states[filter]![0]! -= 1 / filterTime;
      states[filter]![filter]! -= 1 / filterTime;
      forcing[filter]![reference]! += derivativeWeight / filterTime;
    }
    const output = row(size, { 0: 1 });
    return {
      a: states,
      b: forcing,
      c: [output, effortOfStates, demandOfStates, row(size, { 0: -1 })],
      d: [row(4, {}), effortOfForcing, demandOfForcing, row(4, { [reference]: 1 })],
    };
  };

  const driven = [partsOf(loop.reference).parts, loop.disturbance ? partsOf(loop.disturbance).parts : []] as const;
  if (driven.some((parts) => parts.some(({ power }) => power < 0))) {
    throw new Problem('notPossible', 'A loop with limits has no impulse response that scales; use a short step.');
  }
  const longest = Math.min(horizon / 8, deadTime > 0 ? deadTime : Infinity);
  const starts = [...driven[0], ...driven[1]].map(({ at }) => at);
  const echoes = deadTime > 0 ? [0, 1, 2, 3, 4, 5, 6].map((k) => k * deadTime) : [0];
  const run = new LinearRun({
    modes: limits ? [mode(null), mode(limits.high), mode(limits.low)] : [mode(null)],
    ...(limits ? { switching: { output: 2, ...limits } } : {}),
    initial: row(size, {}),
    forcingCount: 4,
    forcing(time, after, into, self) {
      into[reference] = inputAt(driven[0], time, after);
      into[unit] = 1;
      into[disturbance] = inputAt(driven[1], time, after);
      const then = time - deadTime;
      into[past] = deadTime > 0 && (after ? then > -1e-12 : then > 1e-12) ? self.value(1, Math.max(0, then), after) : 0;
    },
    breaks: [...new Set([0, ...starts].flatMap((at) => echoes.map((echo) => at + echo)))]
      .filter((t) => t > 0)
      .sort((x, y) => x - y),
    echoes: echoes.slice(1),
    longest,
    tolerance: 1e-9,
  });
  const signal = (output: number): Motion => new PiecewiseMotion(run.source(output));
  return {
    output: signal(0),
    effort: signal(1),
    demand: signal(2),
    error: signal(3),
    settled() {
      for (let until = horizon; until <= mostHorizons * horizon; until *= 2) {
        run.reach(until);
        const ends = kinds.map((_, k) => restOf(run.outputs[k]!, until));
        if (ends.some((end) => end === null)) continue;
        return Object.fromEntries(
          kinds.map((kind, k) => {
            const { finalValue, off } = ends[k]!;
            return [kind, { motion: new PiecewiseMotion(run.source(k), 0, until, off), finalValue }];
          }),
        ) as unknown as ReturnType<LimitedSignals['settled']>;
      }
      return null;
    },
  };
}

/** The last value, when nothing of note moves in the last half of the time. */
function restOf(pieces: readonly PolynomialPiece[], until: number): { finalValue: number; off: number } | null {
  const last = pieces[pieces.length - 1]!;
  const finalValue = valueOf(last, last.to);
  let [largest, off] = [Math.abs(finalValue), 0];
  for (const { from, powers } of pieces) {
    largest = Math.max(largest, Math.abs(powers[0]!));
    if (from >= until / 2) off = Math.max(off, Math.abs(powers[0]! - finalValue));
  }
  return off <= restingShare * largest ? { finalValue, off: 2 * off + 1e-9 * largest } : null;
}

function row(length: number, entries: Readonly<Record<number, number>>): number[] {
  return Array.from({ length }, (_, k) => entries[k] ?? 0);
}
