import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { drawValues, extremesOf } from '../exercise/draw.js';
import { meetsGuards } from '../exercise/scope.js';
import { orElse } from '../expression/problem.js';

/** What draws need of a document. */
export type Drawn = Pick<ExerciseDocument, 'parameters' | 'systems' | 'guards'>;

/**
 * Both ends of every draw together, as far as the guards let them, then the numbers of imagined students.
 * @throws Problem `draw` when nothing can be drawn.
 */
export function sampleOf(document: Drawn, count = 20): DrawValues[] {
  const ends = document.parameters.map((p) => [p.symbol, extremesOf(p)] as const);
  const corner = (pick: (values: string[]) => string): DrawValues =>
    Object.fromEntries(ends.map(([symbol, values]) => [symbol, pick(values)]));
  const corners = [corner((values) => values[0]!), corner((values) => values[values.length - 1]!)];
  return [
    ...corners.filter((values) => isAllowed(document, values)),
    ...Array.from({ length: count }, (_, k) => drawValues(document, `sample ${k}`)),
  ];
}

/** A corner that cannot even be worked out is one that the guards must keep out. */
function isAllowed(document: Drawn, values: DrawValues): boolean {
  if (document.guards.length === 0) return true;
  return orElse(false, () => meetsGuards(document, values));
}
