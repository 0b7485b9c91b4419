import { type ExerciseDocument, orElse, parametersOf, type Scope, scopeOf } from '@nailset/core';
import { drawValues } from '@nailset/core/checks';

/** Values for showing what typed formulas mean: those of one imagined student, as far as the draft gives them. */
export function exampleScope(document: ExerciseDocument): Scope {
  const values = orElse(undefined, () => drawValues({ ...document, guards: [] }, 'sample 0')) ?? {};
  // A system that cannot be worked out yet does not keep those above it from being used.
  for (let count = document.systems.length; count > 0; count--) {
    const scope = orElse(undefined, () => scopeOf({ systems: document.systems.slice(0, count) }, values));
    if (scope) return scope;
  }
  return parametersOf(values);
}
