import solver from 'javascript-lp-solver';
import type { Axis, Tried, Try } from '../checking/trial.js';
import type { Settings } from '../exercise/answer.js';
import { onLadder, widthOf } from './axes.js';

// Its types are those of a CommonJS module, of which the solver is the whole.
const programs = solver as unknown as { Solve(model: object): Readonly<Record<string, unknown>> };

const rounds = 30;
const mostStarts = 8;
/** Starts lie at least this far apart, as a share of the ranges. */
const apart = 0.06;
/** Steps for slopes, and the shortest that is still tried, as shares of a range. */
const forSlopes = 1e-5;
const shortest = 1e-7;

/**
 * From the best points known, settings with which all of the nails in question hold, or the nearest to it that was found.
 * Method: the largest excess is made small by linear programs, each in a box around the point before that grows while
 * they help (sequential minimax; Madsen 1975); where a nail has no value yet, steps along the axes that halve.
 * @param nails places of the nails that are to hold
 */
export function descend(known: readonly Tried[], axes: readonly Axis[], tryAt: Try, nails: readonly number[]): Tried {
  let best: Tried | undefined;
  for (const start of startsFrom(known, axes, nails)) {
    const reached = minimax(towardsValues(start, axes, tryAt, nails), axes, tryAt, nails);
    if (!best || worst(reached, nails) < worst(best, nails)) best = reached;
    if (holds(best, nails)) break;
  }
  return best!;
}

/** Whether all of some nails hold. */
export const holds = ({ held }: Tried, nails: readonly number[]): boolean => nails.every((index) => held[index]);

/** The largest excess; nails without a value count most. */
function worst({ beyond, held }: Tried, nails: readonly number[]): number {
  let largest = -Infinity;
  let without = 0;
  for (const index of nails) {
    const off = beyond[index]!;
    if (Number.isNaN(off)) without += 1;
    else largest = Math.max(largest, held[index] ? Math.min(off, 0) : Math.max(off, 1e-9));
  }
  return without > 0 ? 100 * without : largest;
}

/** All of it together, to choose between points that are equally bad at their worst. */
const together = ({ beyond }: Tried, nails: readonly number[]): number =>
  nails.reduce((sum, index) => sum + (Number.isNaN(beyond[index]!) ? 20 : Math.max(0, beyond[index]!)), 0);

function startsFrom(known: readonly Tried[], axes: readonly Axis[], nails: readonly number[]): Tried[] {
  const starts: Tried[] = [];
  const place = ({ settings }: Tried): number[] =>
    axes.map((axis) => (Number(settings[axis.name]) - axis.low) / widthOf(axis));
  const ranked = known
    .map((tried) => ({ tried, worst: worst(tried, nails), together: together(tried, nails) }))
    .sort((a, b) => a.worst - b.worst || a.together - b.together);
  // The nearest by their worst nail, and the nearest by all of them.
  const byAll = [...ranked].sort((a, b) => a.together - b.together);
  for (let k = 0; k < ranked.length && starts.length < mostStarts; k++) {
    for (const { tried } of [ranked[k]!, byAll[k]!]) {
      const here = place(tried);
      const isNew = starts.every((other) => place(other).some((x, j) => Math.abs(x - here[j]!) > apart));
      if (isNew && starts.length < mostStarts) starts.push(tried);
    }
  }
  return starts;
}

/** Steps along the axes that halve, until every nail has a value. */
function towardsValues(start: Tried, axes: readonly Axis[], tryAt: Try, nails: readonly number[]): Tried {
  let here = start;
  let share = 0.1;
  const rest = (tried: Tried): number => together(tried, nails);
  for (let round = 0; round < 12 && nails.some((index) => Number.isNaN(here.beyond[index]!)); round++) {
    const moves = axes.flatMap((axis) =>
      [-1, 1].map((sign) =>
        withValue(here.settings, axis, Number(here.settings[axis.name]) + sign * share * widthOf(axis)),
      ),
    );
    const next = moves.map(tryAt).reduce((a, b) => (rest(b) < rest(a) ? b : a), here);
    if (next === here) share /= 2;
    else here = next;
  }
  return here;
}

const withValue = (settings: Settings, axis: Axis, value: number): Settings => ({
  ...settings,
  [axis.name]: String(Number(Math.min(axis.high, Math.max(axis.low, value)).toPrecision(12))),
});

function minimax(start: Tried, axes: readonly Axis[], tryAt: Try, nails: readonly number[]): Tried {
  let here = start;
  let reach = 0.08;
  for (let round = 0; round < rounds && reach > shortest && !holds(here, nails); round++) {
    if (nails.some((index) => Number.isNaN(here.beyond[index]!))) return here;
    const slopes = axes.map((axis) => slopesAlong(axis, here, tryAt, nails));
    let accepted = false;
    while (!accepted && reach > shortest) {
      const step = linearStep(here, axes, slopes, nails, reach);
      if (!step) return here;
      const next = tryAt(moved(here.settings, axes, step.shares));
      const gained = worst(here, nails) - worst(next, nails);
      if (gained > 0.1 * Math.max(0, worst(here, nails) - step.promised)) {
        accepted = true;
        here = next;
        reach = Math.min(0.5, reach * 2);
      } else reach /= 4;
      if (worst(here, nails) - step.promised < 1e-6 && !accepted) return here;
    }
  }
  return here;
}

const moved = (settings: Settings, axes: readonly Axis[], shares: readonly number[]): Settings =>
  axes.reduce(
    (all, axis, k) => withValue(all, axis, Number(settings[axis.name]) + shares[k]! * widthOf(axis)),
    settings,
  );

/** How the excess of each nail changes along an axis, per range of it; backwards at its upper end. */
function slopesAlong(axis: Axis, here: Tried, tryAt: Try, nails: readonly number[]): number[] {
  const value = Number(here.settings[axis.name]);
  const sign = value + forSlopes * widthOf(axis) > axis.high ? -1 : 1;
  const beside = tryAt(withValue(here.settings, axis, value + sign * forSlopes * widthOf(axis)));
  return nails.map((index) => {
    const slope = (beside.beyond[index]! - here.beyond[index]!) / (sign * forSlopes);
    return Number.isFinite(slope) ? slope : 0;
  });
}

/** The step inside the box, as shares of the ranges, for which the largest excess is least if every nail were linear. */
function linearStep(
  here: Tried,
  axes: readonly Axis[],
  slopes: readonly (readonly number[])[],
  nails: readonly number[],
  reach: number,
): { shares: number[]; promised: number } | null {
  // With x = lowest + y, y ≥ 0, and the excess t = t₀ + z, z ≥ 0, below which no nail can come in the box.
  const lowest = axes.map((axis) => Math.max(-reach, (axis.low - Number(here.settings[axis.name])) / widthOf(axis)));
  const highest = axes.map((axis) => Math.min(reach, (axis.high - Number(here.settings[axis.name])) / widthOf(axis)));
  const offsets = nails.map(
    (index, i) => here.beyond[index]! + axes.reduce((sum, _, j) => sum + slopes[j]![i]! * lowest[j]!, 0),
  );
  const least = Math.min(
    ...offsets.map((offset, i) =>
      axes.reduce((sum, _, j) => sum + Math.min(0, slopes[j]![i]! * (highest[j]! - lowest[j]!)), offset),
    ),
  );
  const constraints: Record<string, { max: number }> = {};
  const variables: Record<string, Record<string, number>> = { excess: { goal: 1 } };
  nails.forEach((_, i) => {
    constraints[`nail${i}`] = { max: least - offsets[i]! };
    variables['excess']![`nail${i}`] = -1;
  });
  axes.forEach((_, j) => {
    constraints[`box${j}`] = { max: highest[j]! - lowest[j]! };
    const box: Record<string, number> = { [`box${j}`]: 1 };
    nails.forEach((__, i) => (box[`nail${i}`] = slopes[j]![i]!));
    variables[`step${j}`] = box;
  });
  const solved = programs.Solve({ optimize: 'goal', opType: 'min', constraints, variables });
  if (solved['feasible'] !== true) return null;
  const value = (name: string): number => (typeof solved[name] === 'number' ? solved[name] : 0);
  return {
    shares: axes.map((_, j) => lowest[j]! + value(`step${j}`)),
    promised: least + value('excess'),
  };
}

/** The same on whole fine steps of the ladder, or with few digits, as long as everything still holds. */
export function tidied(reached: Tried, axes: readonly Axis[], tryAt: Try): Tried {
  const all = reached.held.map((_, k) => k);
  const rounded = (of: (axis: Axis, value: number) => number): Settings =>
    axes.reduce(
      (settings, axis) => withValue(settings, axis, of(axis, Number(reached.settings[axis.name]))),
      reached.settings,
    );
  const candidates = [
    onLadder,
    ...[3, 4, 5, 6, 8].map((digits) => (_: Axis, value: number) => Number(value.toPrecision(digits))),
  ];
  for (const of of candidates) {
    const tried = tryAt(rounded(of));
    if (holds(tried, all)) return tried;
  }
  return reached;
}
