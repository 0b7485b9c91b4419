import { shownPlots } from '../exercise/shownPlot.js';
import { expectedRanges } from './answers/range.js';
import { frequencyTarget } from '../exercise/frequencyTarget.js';
import { Problem } from '../expression/problem.js';
import type { InputSignal } from '../exercise/given.js';
import { inputFrom } from '../exercise/inputs.js';
import { figureCurves } from '../exercise/figure.js';
import type { CorridorNail, CurvePart, GainsPart, Part, PidController } from '../exercise/parts.js';
import { isPid } from '../exercise/controllers.js';
import { compensatorTrouble } from '../loop/compensator.js';
import { studentPart, targetOf } from '../exercise/studentView.js';
import { systemFrom } from '../formula/evaluate.js';
import { gainsOf, openGains, startOf } from '../loop/controller.js';
import { isProper } from '../rational/fraction.js';
import { asDelayedFraction } from '../system/transfer.js';
import { curveMotion, refuseTakenNames } from './answers/curve.js';
import { expectedNumber, holdsWith, refuseNoise } from './answers/number.js';
import { checkLoop, loopModelOf } from './answers/gains.js';
import { isRight, rightOptions } from './answers/choice.js';
import { exactQuestion, exactTransfer } from '../diagram/exact.js';
import { reduction } from '../diagram/reduction.js';
import { diagramOf } from './answers/diagram.js';
import { expectedPaths } from './answers/paths.js';
import { startOfReduction } from './answers/reduction.js';
import { expectedPoints, fractionOfPoints } from './answers/points.js';
import { rightStates } from './answers/states.js';
import { expectedTrends } from './answers/trend.js';
import type { Model } from './model.js';

/** Something that a student's work would run, and the field that is to blame when it fails. */
export interface Trial {
  readonly field: string;
  readonly run: () => void;
}

/** Everything that working on a part and checking it would run, the likeliest culprits first. */
export function trialsOf(part: Part, model: Model): Trial[] {
  const figure: Trial[] = (part.figure?.curves ?? []).map((curve, k) => ({
    field: `figure/curves/${k}`,
    run: () => {
      if (curve.system === undefined && curve.series === undefined) {
        throw new Problem('exercise', 'This curve needs a system or a table.');
      }
      figureCurves({ ...part.figure!, curves: [curve] }, model.scope, model.series);
    },
  }));
  const seen: Trial = {
    field: 'prompt',
    run: () => void studentPart({ ...model, attempts: 1 }, part, model.values, model.scope),
  };
  return [...figure, ...ownTrials(part, model), seen];
}

function ownTrials(part: Part, model: Model): Trial[] {
  const { scope } = model;
  switch (part.kind) {
    case 'transferFunction':
      return [{ field: 'expected', run: () => refuseImproper(part.expected, model) }];
    case 'number':
      return [
        { field: 'formula', run: () => void expectedNumber(part, scope) },
        { field: 'tolerancePercent', run: () => refuseNoise(part, expectedNumber(part, scope)) },
        {
          field: 'condition',
          run: () => {
            if (!part.condition || holdsWith(part.condition, model, expectedNumber(part, scope))) return;
            throw new Problem('exercise', 'The condition does not hold with the value that the formula gives.');
          },
        },
      ];
    case 'gains':
      return loopTrials(part, model);
    case 'choice':
      return [
        ...part.options.map((option, k) => ({ field: `options/${k}`, run: () => void isRight(option, model) })),
        ...part.options.map(({ plot }, k) => ({
          field: `options/${k}`,
          run: () => void shownPlots([plot], model.scope),
        })),
        {
          field: 'options',
          run: () => {
            const count = rightOptions(part, model).size;
            if (!part.several && count !== 1) {
              throw new Problem('exercise', `${count === 0 ? 'No option is' : `${count} options are`} right.`);
            }
          },
        },
      ];
    case 'diagram':
      return part.asked.map((pair, k) => ({
        field: `asked/${k}`,
        run: () => void exactTransfer(exactQuestion(diagramOf(part, model, pair)), pair),
      }));
    case 'reduction':
      return [{ field: 'system', run: () => void reduction(startOfReduction(part, model), part) }];
    case 'paths':
      return [{ field: 'system', run: () => void expectedPaths(part, model) }];
    case 'states':
      return [{ field: 'expected', run: () => void rightStates(part, model) }];
    case 'points':
      return [
        {
          field: 'of',
          run: () => {
            fractionOfPoints(part, model);
            if (part.what !== 'locus' && expectedPoints(part, model).length === 0) {
              throw new Problem('exercise', 'There are none of these points here.');
            }
          },
        },
      ];
    case 'trend':
      return [{ field: 'rows', run: () => void expectedTrends(part, model) }];
    case 'range':
      return [{ field: 'of', run: () => void expectedRanges(part, model) }];
    case 'bode':
      return [{ field: 'target', run: () => void frequencyTarget(part, model.scope) }];
    case 'curve':
      return curveTrials(part, model);
  }
}

function refuseImproper(formula: string, { scope }: Model): void {
  if (!isProper(asDelayedFraction(systemFrom(formula, scope), 'The comparison').fraction)) {
    throw new Problem('improper', 'This system has more zeros than poles.');
  }
}

function pidTrouble(controller: PidController): string | undefined {
  const wanted = gainsOf(controller);
  const names = controller.gains.map(({ name }) => name);
  if (wanted.length === names.length && wanted.every((name) => names.some((own) => own === name))) return undefined;
  return `This controller has the gains ${wanted.join(', ')}, each once.`;
}

function loopTrials(part: GainsPart, model: Model): Trial[] {
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
    if (k > 0 && !(time > corridor[k - 1]!.time)) throw new Problem('exercise', 'The times of a corridor must rise.');
    if (low !== null && high !== null && low >= high) {
      throw new Problem('exercise', `At ${time} s the corridor’s lower bound is not below its upper.`);
    }
  });
  const bounded = (side: 'low' | 'high'): boolean =>
    corridor.some((corner, k) => k > 0 && corner[side] !== null && corridor[k - 1]![side] !== null);
  if (!bounded('low') && !bounded('high')) throw new Problem('exercise', 'A corridor needs a bound over some time.');
}

function curveTrials(part: CurvePart, model: Model): Trial[] {
  const settings = Object.fromEntries(part.knobs.map(({ symbol, start }) => [symbol, String(start)]));
  return [
    { field: 'knobs', run: () => refuseTakenNames(part, model.scope) },
    { field: 'target', run: () => void targetOf(part, model.scope, model.series) },
    { field: 'model', run: () => void curveMotion(part, model.scope, settings, model.series).at(part.horizon) },
  ];
}
