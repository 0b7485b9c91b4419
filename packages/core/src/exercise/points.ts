import type { ExerciseDocument } from './document.js';
import type { Part } from './parts.js';

/** The points that a part can give. */
export function pointsOf(part: Part): number {
  if (part.kind === 'gains') return part.nails.reduce((sum, nail) => sum + nail.points, 0);
  if (part.kind === 'diagram') return part.asked.reduce((sum, pair) => sum + pair.points, 0);
  return part.points;
}

/** A part whose curves are seen only after the answer is a prediction. */
export const isPrediction = (part: Pick<Part, 'figure'>): boolean =>
  part.figure?.curves.some(({ afterwards }) => afterwards) ?? false;

/** Tries for a part: a prediction is committed once. */
export const attemptsOf = (document: Pick<ExerciseDocument, 'attempts'>, part: Pick<Part, 'figure'>): number =>
  isPrediction(part) ? 1 : document.attempts;
