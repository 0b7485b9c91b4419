import type { Model } from '../../checking/model.js';
import { parseFormula } from '../../formula/evaluate.js';
import { rationalToNumber } from '../../rational/number.js';
import { coefficient, degree } from '../../rational/polynomial.js';
import { fractionToLatex } from '../../system/latex.js';
import { matricesOf } from '../../system/stateSpace.js';
import { statesLatex } from '../../working/states.js';
import { line, numeral, type WorkingStep } from '../../working/step.js';
import { systemSteps } from '../../working/systems.js';
import { boardOf } from '../board.js';
import { expectedFraction, formOf } from './check.js';
import type { StatesPart } from './part.js';

/** The system, scaled, and its coefficients put into the controllable form. */
export function statesWorking(part: StatesPart, model: Model): WorkingStep[] {
  const fraction = expectedFraction(part, model.scope);
  const { numerator, denominator } = fraction;
  const [n, m] = [degree(denominator), degree(numerator)];
  const direct = m === n ? rationalToNumber(coefficient(numerator, n)) : 0;
  return [
    ...systemSteps(parseFormula(part.expected), boardOf(model)),
    line('Scaled so that the highest power below has the factor 1:', fractionToLatex(fraction)),
    line(
      m === n
        ? 'As many zeros as poles; what is left at high frequency goes straight through:'
        : 'Fewer zeros than poles, so nothing goes straight through:',
      `D=${numeral(direct)}`,
    ),
    line(
      'In the controllable form A takes the coefficients below with their sign turned, C those above:',
      statesLatex(matricesOf(formOf(part, model.scope))),
    ),
  ];
}
