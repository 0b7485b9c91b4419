import { diagramOf } from '../../checking/diagrams.js';
import type { Model } from '../../checking/model.js';
import { exactQuestion, exactTransfer } from '../../diagram/exact.js';
import { equationsOf } from '../../exercise/systems.js';
import { insertValues } from '../../exercise/words.js';
import { nameToLatex } from '../../expression/latex.js';
import { orElse } from '../../expression/problem.js';
import { readCondition } from '../../formula/condition.js';
import { numberFrom, systemFrom } from '../../formula/evaluate.js';
import { symbolicToLatex } from '../../symbolic/text.js';
import { systemOf } from '../../system/system.js';
import { withDeadTime } from '../../system/transfer.js';
import { line, numeral, rootsLatex, type WorkingStep } from '../../working/step.js';
import { spokenLatex, transferLatex } from '../../working/systems.js';
import { inWords, isRight } from './check.js';
import type { ChoicePart } from './part.js';

type Option = ChoicePart['options'][number];

/** Option by option, what decides it. */
export const choiceWorking = (part: ChoicePart, model: Model): WorkingStep[] =>
  part.options.map((option) => {
    const { values, scope } = model;
    const right = isRight(option, model);
    const remark = option.remark && !right ? ` ${insertValues(option.remark, values, scope)}` : '';
    const words = `${inWords(insertValues(option.text, values, scope))}: ${right ? 'right.' : 'not right.'}${remark}`;
    return line(
      words,
      orElse('', () => reasonOf(option, model)),
    );
  });

/** The condition with its numbers, or the system of the plot. */
function reasonOf({ right, plot }: Option, model: Model): string {
  const { scope } = model;
  if (typeof right === 'string') {
    const { sides } = readCondition(right);
    return sides
      .filter(({ kind }) => kind !== 'number')
      .map((side) => `${spokenLatex(side)}=${orElse('\\text{none}', () => numeral(numberFrom(side, scope)))}`)
      .join(',\\quad ');
  }
  if (typeof right === 'object') {
    return right.equal.map((system) => equalLatex(system, model)).join(',\\quad ');
  }
  if (!plot) return '';
  const transfer = systemFrom(plot.system, scope);
  const plain = withDeadTime(transfer);
  return plain ? `${transferLatex(transfer) ?? ''},\\quad p=${rootsLatex(systemOf(plain.fraction).poles)}` : '';
}

/** A system in signal equations, from its input to its output. */
function equalLatex(system: string, model: Model): string {
  const { from, to } = equationsOf(model, system);
  const transfer = exactTransfer(exactQuestion(diagramOf({ system }, model, { from, to })), { from, to });
  return `\\frac{${nameToLatex(to)}}{${nameToLatex(from)}}=${symbolicToLatex(transfer)}`;
}
