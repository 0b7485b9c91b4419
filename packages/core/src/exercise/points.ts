import type { Part } from './parts.js';

/** A part whose curves are seen only after the answer is a prediction. */
export const isPrediction = (part: Pick<Part, 'figure'>): boolean =>
  part.figure?.curves.some(({ afterwards }) => afterwards) ?? false;

/** A sum of points without the dust that shares such as a third leave. */
export const sumOfShares = (points: readonly number[]): number =>
  Number(points.reduce((sum, value) => sum + value, 0).toFixed(9));
