import { isPid } from '../../exercise/controllers.js';
import type { DrawValues } from '../../exercise/document.js';
import { hiddenIn, scopeOf } from '../../exercise/scope.js';
import { textOf } from '../../exercise/systems.js';
import { must } from '../../expression/must.js';
import { orElse } from '../../expression/problem.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { type Given, withoutFigure } from '../kind.js';
import type { Controller, ControllerGain, Family, GainsPart } from './part.js';

/** A gains part with its student's numbers, and the loop at other values of what it depends on. */
export const seenLoop = (part: GainsPart, document: Given, values: DrawValues, scope: Scope) => ({
  ...withoutFigure(part),
  ...numbersOfLoop(part, scope),
  families: familiesOf(document, part, values),
});

/** Everything of a loop that formulas give, as numbers. */
function numbersOfLoop(
  part: GainsPart,
  scope: Scope,
): Pick<GainsPart, 'plant' | 'controller'> & Partial<Pick<GainsPart, 'sensor' | 'limits'>> {
  const written = (formula: string): string => textOf(systemFrom(formula, scope));
  const { limits, sensor, controller } = part;
  return {
    plant: written(part.plant),
    ...(sensor === undefined ? {} : { sensor: written(sensor) }),
    ...(limits
      ? {
          limits: {
            low: written(limits.low),
            high: written(limits.high),
            ...(limits.trackingTime === undefined ? {} : { trackingTime: written(limits.trackingTime) }),
          },
        }
      : {}),
    controller: numbersOfController(controller, written),
  };
}

const familyFactors = [0.5, 0.75, 1.33, 2];
/** From a quarter of a value to four times it. */
const sweepFactors = Array.from({ length: 33 }, (_, k) => 2 ** ((k - 16) / 8));

/**
 * Plant and sensor with one parameter at a half, three quarters, four thirds and double of the student's value; where
 * the bench has a locus, closer and farther too.
 */
function familiesOf(document: Given, part: GainsPart, values: DrawValues): Family[] {
  const formulas = [part.plant, ...(part.sensor === undefined ? [] : [part.sensor])];
  const written = (settings: DrawValues): string[] => {
    const scope = scopeOf(document, settings);
    return formulas.map((formula) => textOf(systemFrom(formula, scope)));
  };
  const now = written(values).join();
  const hidden = hiddenIn(document.parameters);
  const shown = Object.keys(values).filter((parameter) => !hidden.has(parameter));
  return shown.flatMap((parameter) => {
    const at = (factors: readonly number[], digits: number): Family['members'] =>
      factors.flatMap((factor) => {
        const value = String(Number((Number(values[parameter]) * factor).toPrecision(digits)));
        return orElse([], () => {
          const [plant, sensor] = written({ ...values, [parameter]: value });
          return [{ value, plant: must(plant), ...(sensor === undefined ? {} : { sensor }) }];
        });
      });
    const members = at(familyFactors, 3);
    const matters = members.some(
      ({ plant, sensor }) => [plant, ...(sensor === undefined ? [] : [sensor])].join() !== now,
    );
    if (!matters) return [];
    return [{ parameter, members, sweep: part.views.includes('locus') ? at(sweepFactors, 6) : [] }];
  });
}

function numbersOfController(controller: Controller, written: (formula: string) => string): Controller {
  const numbered = <Of extends ControllerGain>(gain: Of): Of =>
    'value' in gain ? { ...gain, value: written(gain.value) } : gain;
  if (!isPid(controller)) return { ...controller, gains: controller.gains.map(numbered) };
  return {
    ...controller,
    ...(controller.filterTime === undefined ? {} : { filterTime: written(controller.filterTime) }),
    gains: controller.gains.map(numbered),
  };
}
