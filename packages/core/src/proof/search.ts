import type { Model } from '../checking/model.js';
import { type Axis, isFound, type Tried, type Try } from '../checking/trial.js';
import type { Settings } from '../exercise/answer.js';
import type { Searched } from '../kinds/index.js';
import { gridCounts, nearLowEnds, onLadder, pointsOver, scatteredOver } from './axes.js';
import { descend, holds, tidied } from './descent.js';
import { closeTo, type GainMap, mapOf } from './gainMap.js';

/** What was found for one student's numbers. */
export interface DrawSearch {
  /** Gains that hold every nail; null when none were found. */
  readonly settings: Settings | null;
  /** How many nails hold at best. */
  readonly best: number;
  /** Sets of nails that nothing holds together for these numbers, none of them needless; empty where all can hold. */
  readonly conflicts: readonly (readonly string[])[];
}

export interface Search {
  readonly nails: readonly string[];
  readonly draws: readonly DrawSearch[];
  readonly map: GainMap;
  /** Every draw's conflicts, each set once. */
  readonly conflicts: readonly (readonly string[])[];
  /** Settings for which the second-order rule predicts what the response does not give. */
  readonly deceiving: Settings | null;
}

const rounds = 14;

/**
 * Whether all nails can hold for every draw, with gains that do. The range of the ladder, its ends included, is tried on
 * a grid, or with more than three settings on points that are scattered evenly; other draws try the gains that were good
 * before, then the range again; where none hold, the best are improved. Yields the share of the work that is done.
 */
export function* searchSettings(searched: Searched, models: readonly Model[]): Generator<number, Search> {
  const { axes, nails } = searched;
  const all = nails.map((_, k) => k);
  const draws: DrawSearch[] = [];
  const sets: number[][] = [];
  let map: GainMap | undefined;
  let deceiving: Settings | null = null;
  let good: Settings[] = [];
  for (const [index, model] of models.entries()) {
    const tryAt = searched.trying(model);
    const known = good.map(tryAt).find(isFound);
    if (known && map) {
      draws.push({ settings: known.settings, best: nails.length, conflicts: [] });
      yield (index + 1) / models.length;
      continue;
    }
    const grid: Tried[] = [];
    const points = pointsOver(axes);
    for (const [k, settings] of points.entries()) {
      grid.push(tryAt(settings));
      if (k % 40 === 0) yield (index + k / points.length) / models.length;
    }
    const holding = grid.filter(isFound);
    const reached = holding.length > 0 ? central(holding, axes) : improved(searched.way, grid, axes, tryAt);
    if (isFound(reached)) good = [reached.settings, ...holding.map(({ settings }) => settings)].slice(0, 40);
    const conflicts = isFound(reached) ? [] : conflictsIn([reached, ...grid], axes, tryAt, all, sets);
    draws.push({
      settings: isFound(reached) ? reached.settings : null,
      best: Math.max(...[reached, ...grid].map(({ held }) => held.filter(Boolean).length)),
      conflicts: conflicts.map((set) => set.map((k) => nails[k]!)),
    });
    deceiving ??= grid.find(({ deceived }) => deceived)?.settings ?? null;
    const at = isFound(reached) ? reached.settings : leastViolating(grid).settings;
    const whole = map ?? mapOf(axes, nails.length, at, tryAt, grid);
    map ??= isFound(reached) ? closeTo(at, whole, (near) => mapOf(near, nails.length, at, tryAt, [])) : whole;
  }
  return { nails, draws, map: map!, conflicts: sets.map((set) => set.map((k) => nails[k]!)), deceiving };
}

/** Of the points that hold, the one nearest to their middle: the easiest to find and the least on an edge. */
function central(holding: readonly Tried[], axes: readonly Axis[]): Tried {
  const middle = axes.map(
    ({ name }) => holding.reduce((sum, { settings }) => sum + Number(settings[name]), 0) / holding.length,
  );
  const off = ({ settings }: Tried): number =>
    axes.reduce((sum, { name, low, high }, k) => sum + ((Number(settings[name]) - middle[k]!) / (high - low)) ** 2, 0);
  return holding.reduce((best, next) => (off(next) < off(best) ? next : best));
}

/** The best that can be made of points none of which holds everything. */
function improved(way: 'descent' | 'halving', grid: readonly Tried[], axes: readonly Axis[], tryAt: Try): Tried {
  if (way === 'halving') return halved(grid, axes, tryAt);
  const all = grid[0]!.held.map((_, k) => k);
  const reached = descend(grid, axes, tryAt, all);
  return isFound(reached) ? tidied(reached, axes, tryAt) : reached;
}

/** The best points of the grid, each improved by coordinate steps that halve when none helps. */
function halved(grid: readonly Tried[], axes: readonly Axis[], tryAt: Try): Tried {
  const starts = [...grid].sort((a, b) => a.violation - b.violation).slice(0, Math.min(8, axes.length + 2));
  let best = starts[0]!;
  for (const start of starts) {
    let here = start;
    let share = 1 / (gridCounts[axes.length - 1] ?? 6);
    for (let round = 0; round < rounds + 4 * Math.max(0, axes.length - 3) && here.violation > 0; round++) {
      const moves = axes.flatMap((axis) =>
        [-1, 1].map((sign) => {
          const moved = onLadder(axis, Number(here.settings[axis.name]) + sign * share * (axis.high - axis.low));
          return { ...here.settings, [axis.name]: String(moved) };
        }),
      );
      const next = moves.map(tryAt).reduce((a, b) => (b.violation < a.violation ? b : a), here);
      if (next === here) share /= 2;
      else here = next;
    }
    if (here.violation < best.violation) best = here;
    if (best.violation === 0) break;
  }
  return best;
}

const leastViolating = (grid: readonly Tried[]): Tried =>
  grid.reduce((best, next) => (next.violation < best.violation ? next : best));

/**
 * Nails that cannot hold together for one draw: those that never hold by themselves, and of the others one set from which
 * none can be left out. Sets are shared between draws: what was in conflict before is looked at first.
 * Method: deletion filter (Chinneck 2008), each step proved by points that were tried or by a descent.
 */
function conflictsIn(
  tried: readonly Tried[],
  axes: readonly Axis[],
  tryAt: Try,
  all: readonly number[],
  sets: number[][],
): number[][] {
  const pool = [...tried];
  const others: Tried[] = [];
  const canHold = (set: readonly number[]): boolean => {
    if (pool.some((each) => holds(each, set))) return true;
    const reached = descend(pool, axes, tryAt, set);
    pool.push(reached);
    if (holds(reached, set)) return true;
    // Before anything is said, once more from places that the grid does not have.
    if (others.length === 0) others.push(...[...scatteredOver(axes, 150), ...nearLowEnds(axes, 400)].map(tryAt));
    const again = others.find((each) => holds(each, set)) ?? descend(others, axes, tryAt, set);
    pool.push(again);
    return holds(again, set);
  };
  const named = (set: number[]): number[] => {
    const known = sets.find((other) => other.join() === set.join());
    if (!known) sets.push(set);
    return known ?? set;
  };
  const alone = all.filter((index) => !canHold([index]));
  const conflicts = alone.map((index) => named([index]));
  let rest = all.filter((index) => !alone.includes(index));
  if (rest.length < 2 || canHold(rest)) return conflicts;
  const before = sets.find((set) => set.length > 1 && set.every((index) => rest.includes(index)) && !canHold(set));
  if (before) return [...conflicts, before];
  for (const index of rest) {
    const without = rest.filter((other) => other !== index);
    if (without.length > 1 && !canHold(without)) rest = without;
  }
  return [...conflicts, named(rest)];
}
