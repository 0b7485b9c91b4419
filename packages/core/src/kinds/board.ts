import type { Model } from '../checking/model.js';
import { readBlocks } from '../diagram/blocks.js';
import { mentions } from '../diagram/exact.js';
import { formulaOfForm } from '../exercise/systems.js';
import { nameToLatex } from '../expression/latex.js';
import { orElse } from '../expression/problem.js';
import type { Tree } from '../expression/tree.js';
import { parseFormula } from '../formula/evaluate.js';
import { determinantSteps } from '../working/diagrams.js';
import { line, type WorkingStep } from '../working/step.js';
import { type Board, transferLatex } from '../working/systems.js';

/** What the board knows of an exercise: one student's numbers, and how its systems were written down. */
export function boardOf({ systems, scope }: Model): Board {
  const definitions = new Map<string, Tree>();
  for (const { name, form } of systems) {
    if (form.kind === 'states' || form.kind === 'equations') continue;
    const tree = orElse(null, () => parseFormula(formulaOfForm(form)));
    if (tree) definitions.set(name, tree);
  }
  return {
    scope,
    definitions,
    between(from, to): WorkingStep[] | undefined {
      const transfer = scope.between?.(from, to);
      const form = systems
        .map((system) => system.form)
        .find((each) => each.kind === 'equations' && mentions(each.text, from) && mentions(each.text, to));
      if (!transfer || form?.kind !== 'equations') return undefined;
      const pair = { from, to };
      const steps = orElse([], () => determinantSteps(readBlocks(form.text, [from]), pair));
      const result = transferLatex(transfer);
      if (result === null) return steps;
      const name = `\\frac{${nameToLatex(to)}}{${nameToLatex(from)}}`;
      return [...steps, line('With the numbers, multiplied out:', `${name}=${result}`)];
    },
  };
}
