import type { Model } from '../../checking/model.js';
import { isPid } from '../../exercise/controllers.js';
import type { InputSignal } from '../../exercise/given.js';
import { inputFrom } from '../../exercise/inputs.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { systemFrom } from '../../formula/evaluate.js';
import { compensatorTrouble } from '../../loop/compensator.js';
import { gainsOf, openGains, startOf } from '../../loop/controller.js';
import type { Trial } from '../kind.js';
import { refuseImproper } from '../proper.js';
import { checkLoop, loopModelOf } from './check.js';
import type { CorridorNail, GainsPart, PidController } from './part.js';

function pidTrouble(controller: PidController): string | undefined {
  const wanted = gainsOf(controller);
  const names = controller.gains.map(({ name }) => name);
  if (wanted.length === names.length && wanted.every((name) => names.some((gain) => gain === name))) return undefined;
  return `This controller has the gains ${wanted.join(', ')}, each once.`;
}

/** Everything that a loop with its limits would run. */
export function loopTrials(part: GainsPart, model: Model): Trial[] {
  const { controller, limits, sensor } = part;
  return [
    { field: 'plant', run: () => refuseImproper(part.plant, model) },
    ...(sensor === undefined ? [] : [{ field: 'sensor', run: () => void systemFrom(sensor, model.scope) }]),
    {
      field: 'controller',
      run: () => {
        const trouble = isPid(controller) ? pidTrouble(controller) : compensatorTrouble(controller);
        if (trouble) throw new Problem('exercise', trouble);
        const open = openGains(controller);
        if (open.length === 0) throw new Problem('exercise', 'At least one gain is left to the student.');
        for (const { name, low, high, start } of open) {
          if ((low !== undefined && start < low) || (high !== undefined && start > high)) {
            throw new Problem('exercise', `${name} starts outside its range.`);
          }
        }
        loopModelOf(part, model).loopWith(startOf(controller));
      },
    },
    { field: 'input', run: () => refuseInput(part.input, model, limits !== undefined) },
    { field: 'disturbance', run: () => refuseInput(part.disturbance, model, limits !== undefined) },
    {
      field: 'limits',
      run: () => {
        if (!limits) return;
        if (sensor !== undefined) throw new Problem('exercise', 'With limits of the effort, the feedback is direct.');
        if (part.nails.some((nail) => 'quantity' in nail && nail.quantity.startsWith('integral'))) {
          throw new Problem('exercise', 'Integrals of the error are not worked out for loops with limits.');
        }
        if (!isPid(controller)) throw new Problem('exercise', 'Limits of the effort go with a PID controller.');
        if (controller.terms.includes('D') && controller.filterTime === undefined) {
          throw new Problem('exercise', 'With limits of the effort, the derivative needs a filter time.');
        }
      },
    },
    ...part.nails.flatMap((nail, k) =>
      'corridor' in nail ? [{ field: `nails/${k}`, run: () => refuseCorridor(nail) }] : [],
    ),
    {
      field: 'nails',
      run: () => {
        const loop = loopModelOf(part, model);
        checkLoop(part, loop, loop.loopWith(startOf(controller)));
      },
    },
  ];
}

function refuseInput(input: InputSignal | undefined, model: Model, limited: boolean): void {
  if (!input) return;
  if (input.kind === 'initial') throw new Problem('exercise', 'Initial conditions are for figures and curves.');
  if (limited && (input.kind === 'impulse' || (input.kind === 'levels' && input.from !== 0))) {
    throw new Problem('exercise', 'With limits of the effort, the input starts from 0 and is no impulse.');
  }
  inputFrom(input, model.series);
}

function refuseCorridor({ corridor }: CorridorNail): void {
  corridor.forEach(({ time, low, high }, k) => {
    if (k > 0 && !(time > must(corridor[k - 1]).time))
      throw new Problem('exercise', 'The times of a corridor must rise.');
    if (low !== null && high !== null && low >= high) {
      throw new Problem('exercise', `At ${time} s the corridor’s lower bound is not below its upper.`);
    }
  });
  const bounded = (side: 'low' | 'high'): boolean =>
    corridor.some((corner, k) => k > 0 && corner[side] !== null && must(corridor[k - 1])[side] !== null);
  if (!bounded('low') && !bounded('high')) throw new Problem('exercise', 'A corridor needs a bound over some time.');
}
