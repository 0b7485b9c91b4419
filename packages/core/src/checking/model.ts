import { blocksOf } from '../exercise/blocks.js';
import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { hiddenIn, parametersOf, scopeOf } from '../exercise/scope.js';
import type { Scope } from '../formula/evaluate.js';

/** What checking needs of an exercise beside the part. */
export type Given = Pick<ExerciseDocument, 'systems' | 'series'> & Partial<Pick<ExerciseDocument, 'parameters'>>;

/** One student's model: what expected values are worked out from, and what the student may use in an answer. */
export interface Model extends Given {
  readonly values: DrawValues;
  readonly scope: Scope;
  /** The parameters that students see, and the blocks of given diagrams that have a value. */
  readonly asSymbols: Scope;
}

/** One student's model. @throws Problem when a system cannot be worked out. */
export function modelOf(given: Given, values: DrawValues): Model {
  const { systems, series } = given;
  const scope = scopeOf(given, values);
  const hidden = hiddenIn(given.parameters);
  const letters = [...parametersOf(values).names].filter(([symbol]) => !hidden.has(symbol));
  const asSymbols: Scope = { names: new Map([...blocksOf(given, scope), ...letters]) };
  return { values, scope, asSymbols, systems, series, ...(given.parameters ? { parameters: given.parameters } : {}) };
}
