import type { NumberPart } from '../kinds/number/part.js';

/** A full turn in the units of angles. */
const turns: Readonly<Record<string, number>> = { '°': 360, deg: 360, degrees: 360, rad: 2 * Math.PI };

/** A full turn in a unit; undefined for a unit that is none of an angle. */
export const turnOf = (unit: string): number | undefined => turns[unit.trim()];

/** How far an answer may be off in units of the answer; undefined where it is a share of the expected value. */
export function absoluteTolerance({
  unit,
  toleranceAbsolute,
}: Pick<NumberPart, 'unit' | 'toleranceAbsolute'>): number | undefined {
  const turn = turnOf(unit);
  // One degree, unless the part says otherwise: per cent of an angle near zero would be nothing.
  return toleranceAbsolute ?? (turn === undefined ? undefined : turn / 360);
}

/** How far two values are apart; angles modulo a full turn. */
export function distanceIn(unit: string, a: number, b: number): number {
  const turn = turnOf(unit);
  const off = Math.abs(a - b);
  return turn === undefined ? off : Math.abs(off - turn * Math.round(off / turn));
}
