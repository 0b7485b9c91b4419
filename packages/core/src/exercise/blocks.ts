import { splitEquations } from '../diagram/equations.js';
import { mentions } from '../diagram/exact.js';
import { orElse } from '../expression/problem.js';
import { type Scope, systemFrom } from '../formula/evaluate.js';
import type { Transfer } from '../system/transfer.js';
import type { ExerciseDocument } from './document.js';

type Given = Pick<ExerciseDocument, 'systems'>;

/** The blocks with values that stand in the diagrams of an exercise: other systems, and what a diagram binds itself. */
export function blocksOf({ systems }: Given, scope: Scope): Map<string, Transfer> {
  const blocks = new Map<string, Transfer>();
  for (const { form } of systems) {
    if (form.kind !== 'equations') continue;
    for (const { name } of systems) {
      const value = scope.names.get(name);
      if (value && mentions(form.text, name)) blocks.set(name, value);
    }
    const where = orElse({}, () => splitEquations(form.text).where);
    for (const [name, meaning] of Object.entries(where)) {
      orElse(undefined, () => blocks.set(name, systemFrom(meaning, { names: new Map([...scope.names, ...blocks]) })));
    }
  }
  return blocks;
}
