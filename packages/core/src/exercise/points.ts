import type { ExerciseDocument } from './document.js';
import type { Part } from './parts.js';

/** The points that a part can give. */
export function pointsOf(part: Part): number {
  if (part.kind === 'gains') return sumOfShares(part.nails.map(({ points }) => points));
  if (part.kind === 'diagram') return sumOfShares(part.asked.map(({ points }) => points));
  return part.points;
}

/** A part whose curves are seen only after the answer is a prediction. */
export const isPrediction = (part: Pick<Part, 'figure'>): boolean =>
  part.figure?.curves.some(({ afterwards }) => afterwards) ?? false;

/** Tries for a part: a prediction is committed once, and so is a choice unless it says otherwise. */
export function attemptsOf({ attempts }: Pick<ExerciseDocument, 'attempts'>, part: Part): number {
  if (isPrediction(part)) return 1;
  return part.kind === 'choice' ? (part.attempts ?? 1) : attempts;
}

/** A sum of points without the dust that shares such as a third leave. */
export const sumOfShares = (points: readonly number[]): number =>
  Number(points.reduce((sum, value) => sum + value, 0).toFixed(9));
