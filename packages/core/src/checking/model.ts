import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { parametersOf, scopeOf } from '../exercise/scope.js';
import type { Scope } from '../formula/evaluate.js';

/** What checking needs of an exercise beside the part. */
export type Given = Pick<ExerciseDocument, 'systems' | 'series'>;

/** One student's model: what expected values are worked out from, and what the student may use in an answer. */
export interface Model extends Given {
  readonly values: DrawValues;
  readonly scope: Scope;
  /** The parameters alone. */
  readonly own: Scope;
}

/** One student's model. @throws Problem when a system cannot be worked out. */
export function modelOf(given: Given, values: DrawValues): Model {
  const { systems, series } = given;
  return { values, scope: scopeOf(given, values), own: parametersOf(values), systems, series };
}
