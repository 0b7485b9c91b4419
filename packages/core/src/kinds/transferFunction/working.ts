import { withoutLoops } from '../../checking/compare.js';
import type { Model } from '../../checking/model.js';
import { parseFormula, systemFrom } from '../../formula/evaluate.js';
import { delayedToLatex } from '../../system/latex.js';
import { line, type WorkingStep } from '../../working/step.js';
import { systemSteps } from '../../working/systems.js';
import { boardOf } from '../board.js';
import type { TransferFunctionPart } from './part.js';

/** What the transfer function is made of, put together and multiplied out. */
export function transferFunctionWorking({ expected }: TransferFunctionPart, model: Model): WorkingStep[] {
  const steps = systemSteps(parseFormula(expected), boardOf(model));
  const { fraction, deadTime } = withoutLoops(systemFrom(expected, model.scope));
  const result = delayedToLatex(fraction, deadTime);
  return steps.at(-1)?.latex.endsWith(result) ? steps : [...steps, line('So the answer is', result)];
}
