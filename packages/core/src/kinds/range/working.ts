import type { Model } from '../../checking/model.js';
import { parseFormula } from '../../formula/evaluate.js';
import { rangeSteps } from '../../working/onLocus.js';
import type { WorkingStep } from '../../working/step.js';
import { systemSteps } from '../../working/systems.js';
import { boardOf } from '../board.js';
import { expectedRanges, loopOfRange } from './check.js';
import type { RangePart } from './part.js';

/** The loop, its Routh array, and the gains that keep the first column of one sign. */
export function rangeWorking(part: RangePart, model: Model): WorkingStep[] {
  const { fraction, deadTime } = loopOfRange(part, model);
  return [
    ...systemSteps(parseFormula(part.of), boardOf(model)),
    ...rangeSteps(fraction, deadTime, expectedRanges(part, model)),
  ];
}
