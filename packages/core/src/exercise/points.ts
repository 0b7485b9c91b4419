import type { Part } from './document.js';

/** The points that a part can give. */
export function pointsOf(part: Part): number {
  return part.kind === 'gains' ? part.nails.reduce((sum, nail) => sum + nail.points, 0) : part.points;
}
