import { decimalIn, isEndless } from '../expression/decimal.js';
import { Problem } from '../expression/problem.js';
import type { Trail } from './answer.js';

type Stop = Trail[number];

/** Whether a stop of a trail sets nothing but these names, each to a number or, for a time of integration, to infinity. */
export const isStopOf = (names: readonly string[], { gains }: Stop): boolean =>
  Object.entries(gains).every(
    ([name, value]) => names.includes(name) && (decimalIn(value) !== undefined || isEndless(value)),
  );

/** The stops of a trail that a part can have; a page of an earlier version may send others. */
export const stopsWith = (names: readonly string[], trail: Trail): Trail =>
  trail.filter((stop) => isStopOf(names, stop));

/**
 * Refuses a trail that a part cannot have: any at all where nothing is set on a ladder (`names` is empty), and stops
 * with other names or with what is no number.
 * @throws Problem `exercise` naming the first such stop.
 */
export function refuseOtherTrail(names: readonly string[], trail: Trail): void {
  if (names.length === 0 && trail.length > 0) throw new Problem('exercise', 'This part has no trail.');
  const at = trail.findIndex((stop) => !isStopOf(names, stop));
  if (at >= 0) throw new Problem('exercise', `Stop ${at + 1} of the trail is not of this part.`);
}
