import type { Diagram } from '../diagram/equations.js';
import { exactQuestion, exactTransfer, readWith } from '../diagram/exact.js';
import { expressionsOf } from '../diagram/reduce.js';
import type { SignalPair } from '../diagram/reduction.js';
import { equationsOf, knownLetters } from '../exercise/systems.js';
import { must } from '../expression/must.js';
import { Problem } from '../expression/problem.js';
import { isSameSymbolic } from '../symbolic/fraction.js';
import type { Model } from './model.js';

/** The diagram of a part with the student's numbers in the place of letters that have them. */
export function diagramOf(part: { readonly system: string }, model: Model, pair: SignalPair): Diagram {
  const { text } = equationsOf(model, part.system, [pair.from, pair.to]);
  const diagram = readWith(text, knownLetters(model.scope), [pair.from]);
  if (!diagram.inputs.includes(pair.from)) throw new Problem('signal', `The diagram has no input ${pair.from}.`);
  if (!diagram.signals.includes(pair.to)) throw new Problem('signal', `The diagram has no signal ${pair.to}.`);
  return diagram;
}

/**
 * Whether two systems in signal equations have the same transfer function, each from its own input to its own output,
 * exactly. @throws Problem when one of them is missing or cannot be reduced.
 */
export function areEqual([one, other]: readonly [string, string], model: Model): boolean {
  const [left, right] = [one, other].map((system) => {
    const { from, to } = equationsOf(model, system);
    return { from, to, diagram: diagramOf({ system }, model, { from, to }) };
  }) as [SignalPair & { diagram: Diagram }, SignalPair & { diagram: Diagram }];
  const question = exactQuestion(left.diagram, [expressionsOf(right.diagram)]);
  const beside = { diagram: right.diagram, field: must(question.others[0]), others: [] };
  return isSameSymbolic(exactTransfer(question, left), exactTransfer(beside, right));
}
