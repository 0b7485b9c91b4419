import type { Model } from '../../checking/model.js';
import { parseFormula } from '../../formula/evaluate.js';
import { workedNumber } from '../../working/formula.js';
import type { WorkingStep } from '../../working/step.js';
import { boardOf } from '../board.js';
import type { NumberPart } from './part.js';

/** The systems, what is read off them, and the calculation. */
export const numberWorking = ({ formula }: NumberPart, model: Model): readonly WorkingStep[] =>
  workedNumber(parseFormula(formula), boardOf(model)).steps;
