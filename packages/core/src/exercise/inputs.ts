import { Problem } from '../expression/problem.js';
import type { Input } from '../response/input.js';
import type { Motion } from '../response/motion.js';
import { freeMotion, respond } from '../response/respond.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import type { InputSignal, Series } from './given.js';

/** A unit step at t = 0: what drives a system when an exercise says nothing else. */
export const unitStep: InputSignal = { kind: 'levels', from: 0, to: 1, at: 0 };

/** An input of the exercise as the responses take it. @throws Problem `exercise` for a table that is not there. */
export function inputFrom(signal: InputSignal, series: readonly Series[]): Input {
  switch (signal.kind) {
    case 'series': {
      const measured = series.find(({ id }) => id === signal.series);
      if (!measured) throw new Problem('exercise', `There is no table “${signal.series}”.`);
      return { kind: 'samples', times: measured.times, values: measured.values };
    }
    case 'initial':
      return { kind: 'step', amplitude: 0 };
    default:
      return signal;
  }
}

/** The response of a system to an input of the exercise, free motion from initial conditions included. */
export function motionOf(system: Transfer, signal: InputSignal | undefined, series: readonly Series[]): Motion {
  if (signal?.kind !== 'initial') return respond(system, inputFrom(signal ?? unitStep, series));
  const plain = withDeadTime(system);
  if (plain?.deadTime.numerator !== 0n) {
    throw new Problem('deadTime', 'Initial conditions are for systems without dead time.');
  }
  return freeMotion(plain.fraction, signal.values);
}
