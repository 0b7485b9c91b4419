import type { Model } from '../../checking/model.js';
import { reduction } from '../../diagram/reduction.js';
import { reducedGain } from '../../diagram/reduction.js';
import { moveWords } from '../../diagram/words.js';
import { nameToLatex, toLatex } from '../../expression/latex.js';
import { parse } from '../../expression/parse.js';
import { line, type WorkingStep } from '../../working/step.js';
import { startOfReduction } from './check.js';
import type { ReductionPart } from './part.js';

/** A whole reduction, move by move. */
export function reductionWorking(part: ReductionPart, model: Model): WorkingStep[] {
  const steps: WorkingStep[] = [];
  let now = startOfReduction(part, model);
  for (const move of reduction(now, part)) {
    steps.push(
      line(
        `${moveWords(now, move)}${move.gain === undefined ? '.' : ':'}`,
        move.gain === undefined ? '' : toLatex(parse(move.gain)),
      ),
    );
    now = move.after;
  }
  const last = reducedGain(now, part);
  if (last === null) return steps;
  const name = `\\frac{${nameToLatex(part.to)}}{${nameToLatex(part.from)}}`;
  return [...steps, line('One block is left:', `${name}=${toLatex(parse(last))}`)];
}
