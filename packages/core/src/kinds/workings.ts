import type { Model } from '../checking/model.js';
import type { Kind, Part, PartOf } from '../exercise/parts.js';
import { orElse } from '../expression/problem.js';
import { within } from '../response/work.js';
import type { WorkingStep } from '../working/step.js';
import { bodeWorking } from './bode/working.js';
import { choiceWorking } from './choice/working.js';
import { curveWorking } from './curve/working.js';
import { diagramWorking } from './diagram/working.js';
import { gainsWorking } from './gains/working.js';
import { mostSteps } from './index.js';
import { numberWorking } from './number/working.js';
import { pathsWorking } from './paths/working.js';
import { pointsWorking } from './points/working.js';
import { rangeWorking } from './range/working.js';
import { reductionWorking } from './reduction/working.js';
import { statesWorking } from './states/working.js';
import { transferFunctionWorking } from './transferFunction/working.js';
import { trendWorking } from './trend/working.js';

/** The way to a right answer, for each kind. @throws Problem where it cannot be worked out. */
const workings: { [K in Kind]: (part: PartOf<K>, model: Model) => readonly WorkingStep[] } = {
  number: numberWorking,
  transferFunction: transferFunctionWorking,
  choice: choiceWorking,
  trend: trendWorking,
  states: statesWorking,
  paths: pathsWorking,
  reduction: reductionWorking,
  diagram: diagramWorking,
  range: rangeWorking,
  points: pointsWorking,
  bode: bodeWorking,
  curve: curveWorking,
  gains: gainsWorking,
};

/**
 * The way to a right answer with a student's numbers, line by line as on the board; empty where none can be worked out.
 * What it says is read off the same model as the verdict, by the methods of course books.
 */
export function workingOf(part: Part, model: Model): readonly WorkingStep[] {
  // Part and entry are of the same kind, which the compiler cannot follow.
  const working = workings[part.kind] as unknown as (part: Part, model: Model) => readonly WorkingStep[];
  return orElse([], () => within(mostSteps, () => working(part, model)));
}
