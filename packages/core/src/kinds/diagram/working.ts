import { diagramOf } from '../../checking/diagrams.js';
import type { Model } from '../../checking/model.js';
import { readBlocks } from '../../diagram/blocks.js';
import { exactQuestion, exactTransfer } from '../../diagram/exact.js';
import { equationsOf } from '../../exercise/systems.js';
import { nameToLatex } from '../../expression/latex.js';
import { symbolicToLatex } from '../../symbolic/text.js';
import { determinantSteps } from '../../working/diagrams.js';
import { line, type WorkingStep } from '../../working/step.js';
import type { DiagramPart } from './part.js';

/** The determinant rule for each pair of signals, and what it comes to. */
export function diagramWorking(part: DiagramPart, model: Model): WorkingStep[] {
  return part.asked.flatMap((pair, k) => {
    const { text } = equationsOf(model, part.system, [pair.from, pair.to]);
    const transfer = exactTransfer(exactQuestion(diagramOf(part, model, pair)), pair);
    const name = `\\frac{${nameToLatex(pair.to)}}{${nameToLatex(pair.from)}}`;
    return [
      ...determinantSteps(readBlocks(text, [pair.from]), pair, k > 0),
      line('Multiplied out:', `${name}=${symbolicToLatex(transfer)}`),
    ];
  });
}
