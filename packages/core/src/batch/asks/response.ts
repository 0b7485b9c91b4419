import { Problem } from '../../expression/problem.js';
import { isLoopStable } from '../../frequency/stability.js';
import { curveOf } from '../../response/curve.js';
import type { Input } from '../../response/input.js';
import { errorIntegrals, peakOfResponse } from '../../response/integrals.js';
import { limitedLoop } from '../../response/limitedLoop.js';
import type { PracticalController } from '../../response/limitedModel.js';
import { measuresOfTransfer } from '../../response/measures.js';
import type { Motion } from '../../response/motion.js';
import { freeMotion, respond } from '../../response/respond.js';
import { steadyStateOf } from '../../response/steadyState.js';
import { inverseTransform } from '../../response/step.js';
import { freeMotionOfStates } from '../../system/stateSpace.js';
import { asDelayedFraction, type Transfer, unityFeedback, withoutDeadTime } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import { isObject, Query } from '../query.js';
import { statesIn, transferIn } from '../systems.js';

/** Asks about responses and their measures; documented in docs/compute.md. */
export const responseAsks: readonly Ask[] = [
  { name: 'measures', answer: (query) => measuresOfTransfer(transferIn(query)) },
  {
    name: 'response',
    answer(query) {
      const transfer = transferIn(query);
      const input = query.has('input') ? readInput(query.object('input')) : undefined;
      const motion = respond(transfer, input, initialMotion(query, transfer));
      if (!query.has('times')) {
        const until = query.number('until');
        if (!(until > 0)) throw new Problem('query', '“until” must be more than 0.');
        return curveOf(motion, until, sizeOf(motion, until) / 2000);
      }
      return { values: query.numbers('times').map((time) => (time < 0 ? 0 : motion.at(time))) };
    },
  },
  { name: 'steadyState', answer: (query) => steadyStateOf(transferIn(query)) },
  {
    name: 'errorIntegrals',
    answer(query) {
      const open = transferIn(query);
      const closed = unityFeedback(open);
      const integrals = isLoopStable(open)
        ? errorIntegrals({ numerator: open.denominator, denominator: closed.denominator })
        : null;
      return integrals ?? { absolute: null, squared: null, timeWeighted: null };
    },
  },
  {
    name: 'peak',
    answer(query) {
      return peakOfResponse(transferIn(query)) ?? { value: null, time: null };
    },
  },
  {
    name: 'simulate',
    answer(query) {
      const { fraction, deadTime } = asDelayedFraction(transferIn(query, 'plant'), 'A loop with limits');
      const times = query.numbers('times', 20_000);
      const signals = limitedLoop({
        plant: fraction,
        deadTime,
        controller: readController(query.object('controller')),
        reference: query.has('reference') ? readInput(query.object('reference')) : { kind: 'step' },
        ...(query.has('disturbance') ? { disturbance: readInput(query.object('disturbance')) } : {}),
        horizon: Math.max(...times, 1e-3),
      });
      return Object.fromEntries(
        (['output', 'effort', 'demand', 'error'] as const).map((name) => [
          name,
          times.map((time) => signals[name].at(time)),
        ]),
      );
    },
  },
];

function sizeOf(motion: Motion, until: number): number {
  let largest = 0;
  for (let k = 0; k <= 100; k++) largest = Math.max(largest, Math.abs(motion.at((until * k) / 100)));
  return largest || 1;
}

/** Reads what drives a system. @throws Problem `query`. */
function readInput(fields: Query): Input {
  const kind = fields.choice('kind', ['step', 'impulse', 'ramp', 'parabola', 'levels', 'samples']);
  const input = ((): Input => {
    if (kind === 'levels') {
      return { kind, from: fields.number('from'), to: fields.number('to'), at: fields.number('at', 0) };
    }
    if (kind === 'samples') {
      return { kind, times: fields.numbers('times'), values: fields.numbers('values'), hold: fields.flag('hold') };
    }
    return { kind, amplitude: fields.number('amplitude', 1), at: fields.number('at', 0) };
  })();
  fields.finish();
  return input;
}

/** Initial conditions: `initial` holds y and its derivatives, `initialState` the states of a state-space system. */
function initialMotion(query: Query, transfer: Transfer): Motion | undefined {
  if (query.has('initialState')) {
    const system = query.value('system');
    if (!isObject(system)) throw new Problem('query', '“initialState” needs a system given by its state matrices.');
    const fields = new Query(system, 'system.');
    return inverseTransform(
      freeMotionOfStates(statesIn(fields), query.numbers('initialState'), fields.whole('output', 0)),
    );
  }
  if (!query.has('initial')) return undefined;
  return freeMotion(withoutDeadTime(transfer, 'A motion from initial conditions'), query.numbers('initial'));
}

function readController(fields: Query): PracticalController {
  const limits = fields.has('limits') ? fields.object('limits') : null;
  const controller: PracticalController = {
    Kp: fields.number('Kp', 0),
    Ki: fields.number('Ki', 0),
    Kd: fields.number('Kd', 0),
    filterTime: fields.number('filterTime', 0),
    proportionalWeight: fields.number('proportionalWeight', 1),
    derivativeWeight: fields.number('derivativeWeight', 1),
    ...(limits ? { limits: { low: limits.number('low'), high: limits.number('high') } } : {}),
    trackingTime: fields.has('trackingTime') ? fields.number('trackingTime') : null,
  };
  limits?.finish();
  fields.finish();
  if (controller.trackingTime !== null && !(controller.trackingTime! > 0)) {
    throw new Problem('query', '“controller.trackingTime” must be more than 0.');
  }
  return controller;
}
