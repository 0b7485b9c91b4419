import { Problem } from '../expression/problem.js';
import type { Settings } from '../exercise/answer.js';
import type { CurvePart, GainsPart } from '../exercise/parts.js';
import { targetOf } from '../exercise/studentView.js';
import { ladderRange, openGains } from '../loop/controller.js';
import type { ControlLoop } from '../loop/controlLoop.js';
import { loopModelOf, nailsOf } from './answers/gains.js';
import { curveMotion, curveVerdict, misfitPercent } from './answers/curve.js';
import type { Model } from './model.js';
import { isPromised } from './slips/rule.js';
import type { VerdictItem } from './verdict.js';

/** One thing on a ladder, with the range in which it is searched. */
export interface Axis {
  readonly name: string;
  readonly low: number;
  readonly high: number;
  readonly fine: number;
}

/** What one set of gains does: which nails hold, and how far the others are from holding (0 when all do). */
interface Tried {
  readonly settings: Settings;
  readonly held: readonly boolean[];
  readonly violation: number;
  readonly stable: boolean;
  /** What the second-order rule promises of the nails that it speaks of; null when it speaks of none. */
  readonly promised: boolean | null;
}

type Try = (settings: Settings) => Tried;

/** What was found for one student's numbers. */
export interface DrawSearch {
  /** Gains that hold every nail; null when none were found. */
  readonly settings: Settings | null;
  /** How many nails hold at best. */
  readonly best: number;
}

/** The gains over two axes and what holds there; a third gain stays at `at`. */
export interface GainMap {
  /** The ranges that are shown. */
  readonly axes: readonly Axis[];
  readonly columns: readonly number[];
  readonly rows: readonly number[];
  /** Row by row: nails that hold, −1 where the loop is unstable. */
  readonly held: readonly number[];
  readonly at: Settings;
  /** Share of the whole range of both ladders where every nail holds. */
  readonly share: number;
}

export interface Search {
  readonly nails: readonly string[];
  readonly draws: readonly DrawSearch[];
  readonly map: GainMap;
  /** Sets of nails, the smallest, that never held together; empty when everything can hold for every draw. */
  readonly conflicts: readonly (readonly string[])[];
  /** Settings for which the second-order rule promises what the response does not give. */
  readonly deceiving: Settings | null;
}

/** Steps over an axis of one, two or three. With more axes a grid that is fine enough has too many points. */
const counts = [160, 26, 12];
const scattered = 1600;
const rounds = 14;
const mostStarts = 8;

/** What is searched, each over the range of its ladder. */
export function axesOf(part: GainsPart | CurvePart): Axis[] {
  const ladders =
    part.kind === 'gains'
      ? openGains(part.controller)
      : part.knobs.map(({ symbol, ...ladder }) => ({ ...ladder, name: symbol }));
  return ladders.map((ladder) => {
    const [low, high] = ladderRange(ladder);
    return { name: ladder.name, fine: ladder.fine, low, high };
  });
}

/**
 * Whether all nails can hold for every draw, with gains that do. The ladder's range is tried on a grid, or with more than
 * three settings on points that are scattered evenly; other draws try the gains that were good before, then the range
 * again; where none hold, the best are improved by coordinate steps that halve. Yields the share of the work that is done.
 */
export function* searchSettings(part: GainsPart | CurvePart, models: readonly Model[]): Generator<number, Search> {
  const axes = axesOf(part);
  const nails = part.kind === 'gains' ? part.nails.map(({ id }) => id) : [part.id];
  const masks = new Set<string>();
  const draws: DrawSearch[] = [];
  let map: GainMap | undefined;
  let deceiving: Settings | null = null;
  let good: Settings[] = [];
  for (const [index, model] of models.entries()) {
    const attempt = tryOf(part, model);
    const known = good.map(attempt).find(isFound);
    if (known && map) {
      draws.push({ settings: known.settings, best: nails.length });
      yield (index + 1) / models.length;
      continue;
    }
    const grid: Tried[] = [];
    const points = pointsOver(axes);
    for (const [k, settings] of points.entries()) {
      const tried = attempt(settings);
      grid.push(tried);
      masks.add(tried.held.map(Number).join(''));
      if (k % 40 === 0) yield (index + k / points.length) / models.length;
    }
    const holding = grid.filter(isFound);
    const found = holding.length > 0 ? central(holding, axes) : improved(grid, axes, attempt, masks);
    if (isFound(found)) good = [found.settings, ...holding.map(({ settings }) => settings)].slice(0, 40);
    draws.push({
      settings: isFound(found) ? found.settings : null,
      best: Math.max(...[found, ...grid].map(({ held }) => held.filter(Boolean).length)),
    });
    deceiving ??=
      grid.find(({ stable, promised, violation }) => stable && promised === true && violation > 0.2)?.settings ?? null;
    const at = isFound(found) ? found.settings : leastViolating(grid).settings;
    const whole = map ?? mapOf(axes, nails.length, at, attempt, grid);
    map ??= isFound(found) ? closeTo(at, whole, (near) => mapOf(near, nails.length, at, attempt, [])) : whole;
  }
  const failed = draws.some(({ settings }) => settings === null);
  return { nails, draws, map: map!, conflicts: failed ? conflictsIn(masks, nails) : [], deceiving };
}

const isFound = ({ violation }: Tried): boolean => violation === 0;

function tryOf(part: GainsPart | CurvePart, model: Model): Try {
  if (part.kind === 'gains') {
    const loopModel = loopModelOf(part, model);
    return guarded(part.nails.length, (settings) => {
      const loop = loopModel.loopWith(settings);
      return {
        settings,
        ...judged(nailsOf(part, loopModel, loop)),
        stable: loop.stable,
        promised: promisedBy(part, loop),
      };
    });
  }
  const target = targetOf(part, model.scope, model.series);
  return guarded(1, (settings) => {
    const misfit = misfitPercent(curveMotion(part, model.scope, settings, model.series), target, part.horizon);
    return { settings, ...judged(curveVerdict(part, misfit).items), stable: true, promised: null };
  });
}

function guarded(nails: number, attempt: Try): Try {
  return (settings) => {
    try {
      return attempt(settings);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const held = new Array<boolean>(nails).fill(false);
      return { settings, held, violation: 20 * nails, stable: false, promised: null };
    }
  };
}

function judged(items: readonly VerdictItem[]): Pick<Tried, 'held' | 'violation'> {
  let violation = 0;
  for (const { met, measured, limit } of items) {
    if (met) continue;
    const off = measured === null || limit === null ? 10 : Math.abs(measured - limit) / (Math.abs(limit) || 1);
    violation += 1e-9 + Math.min(10, off);
  }
  return { held: items.map(({ met }) => met), violation };
}

function promisedBy(part: GainsPart, loop: ControlLoop): boolean | null {
  if (!loop.stable || loop.hasDeadTime) return null;
  const spoken = part.nails.map((nail) => isPromised(nail, loop)).filter((promised) => promised !== null);
  return spoken.length === 0 ? null : spoken.every(Boolean);
}

/** A value on the ladder: the low end and whole fine rungs. */
function onLadder({ low, high, fine }: Axis, value: number): number {
  const snapped = low + fine * Math.round((Math.min(high, Math.max(low, value)) - low) / fine);
  return Number(Math.min(high, snapped).toPrecision(12));
}

function stepsOf(axis: Axis, count: number): number[] {
  const values = Array.from({ length: count }, (_, k) =>
    onLadder(axis, axis.low + ((k + 0.5) * (axis.high - axis.low)) / count),
  );
  return [...new Set(values)];
}

function pointsOver(axes: readonly Axis[]): Settings[] {
  const count = counts[axes.length - 1];
  if (count === undefined) return scatteredOver(axes);
  let points: Settings[] = [{}];
  for (const axis of axes) {
    points = points.flatMap((point) => stepsOf(axis, count).map((value) => ({ ...point, [axis.name]: String(value) })));
  }
  return points;
}

const primes = [2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31];

/** Points of Halton's sequence (1960): however many axes there are, every one of them is covered evenly. */
function scatteredOver(axes: readonly Axis[]): Settings[] {
  return Array.from({ length: scattered }, (_, k) =>
    Object.fromEntries(
      axes.map((axis, n) => [axis.name, String(onLadder(axis, within(axis, radicalInverse(k + 1, primes[n]!))))]),
    ),
  );
}

/** A share of the axis, by its logarithm where it keeps its sign over more than a decade: places in the s-plane do. */
function within({ low, high }: Axis, share: number): number {
  const ratio = high / low;
  const isWide = low * high > 0 && (ratio > 10 || ratio < 0.1);
  return isWide ? low * ratio ** share : low + share * (high - low);
}

/** The digits of a whole number in a base, read backwards behind the point. */
function radicalInverse(index: number, base: number): number {
  let value = 0;
  for (let digit = 1 / base, rest = index; rest > 0; rest = Math.floor(rest / base), digit /= base) {
    value += (rest % base) * digit;
  }
  return value;
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

/** The best points of the grid, each improved by coordinate steps that halve when none helps. */
function improved(grid: readonly Tried[], axes: readonly Axis[], attempt: Try, masks: Set<string>): Tried {
  const starts = [...grid].sort((a, b) => a.violation - b.violation).slice(0, Math.min(mostStarts, axes.length + 2));
  let best = starts[0]!;
  for (const start of starts) {
    let here = start;
    let share = 1 / (counts[axes.length - 1] ?? 6);
    for (let round = 0; round < rounds + 4 * Math.max(0, axes.length - 3) && here.violation > 0; round++) {
      const moves = axes.flatMap((axis) =>
        [-1, 1].map((sign) => {
          const moved = onLadder(axis, Number(here.settings[axis.name]) + sign * share * (axis.high - axis.low));
          return { ...here.settings, [axis.name]: String(moved) };
        }),
      );
      const next = moves.map(attempt).reduce((a, b) => (b.violation < a.violation ? b : a), here);
      masks.add(next.held.map(Number).join(''));
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

/** The map over the first two gains that `at` has, its others staying where they are, for one student's numbers. */
export function gainMapAt(part: GainsPart, model: Model, at: Settings): GainMap {
  const axes = axesOf(part).filter(({ name }) => name in at);
  return mapOf(axes, part.nails.length, at, tryOf(part, model), []);
}

/** The map over the first two gains, others staying where they are at; what was tried already is not tried again. */
function mapOf(axes: readonly Axis[], nails: number, at: Settings, attempt: Try, tried: readonly Tried[]): GainMap {
  const [first, second] = axes;
  const count = counts[Math.min(1, axes.length - 1)]!;
  const columns = stepsOf(first!, second ? count : counts[0]!);
  const rows = second ? stepsOf(second, count) : [0];
  const known = new Map(tried.map((each) => [JSON.stringify(each.settings), each]));
  const held = rows.flatMap((row) =>
    columns.map((column) => {
      const own = { ...at, [first!.name]: String(column), ...(second ? { [second.name]: String(row) } : {}) };
      const found = known.get(JSON.stringify(own)) ?? attempt(own);
      return found.stable ? found.held.filter(Boolean).length : -1;
    }),
  );
  const share = held.filter((number) => number === nails).length / held.length;
  return { axes, columns, rows, held, at, share };
}

const speck = 0.02;
const closest = 1 / 256;

/** A map of less and less around a point where all nails hold, until they hold on more than a speck of it. */
function closeTo(at: Settings, whole: GainMap, mapOver: (axes: readonly Axis[]) => GainMap): GainMap {
  let map = whole;
  let area = 1;
  for (let part = 1 / 4; map.share < speck * area && part >= closest; part /= 4) {
    const near = whole.axes.map((axis, k) => (k < 2 ? around(axis, Number(at[axis.name]), part) : axis));
    area = near.reduce((product, axis, k) => (product * widthOf(axis)) / widthOf(whole.axes[k]!), 1);
    const closer = mapOver(near);
    map = { ...closer, share: closer.share * area };
  }
  return map;
}

/** A part of an axis around a value, from rung to rung and inside it. */
function around(axis: Axis, value: number, part: number): Axis {
  const half = (part * widthOf(axis)) / 2;
  return { ...axis, low: onLadder(axis, value - half), high: onLadder(axis, value + half) };
}

/** How far an axis reaches; 1 where there is one value only. */
const widthOf = ({ low, high }: Axis): number => high - low || 1;

/** The smallest sets of nails that no tried point holds together. */
function conflictsIn(masks: ReadonlySet<string>, nails: readonly string[]): string[][] {
  const seen = [...masks];
  const found: number[][] = [];
  for (let size = 1; size <= Math.min(3, nails.length); size++) {
    for (const set of subsets(nails.length, size)) {
      if (found.some((smaller) => smaller.every((index) => set.includes(index)))) continue;
      if (!seen.some((mask) => set.every((index) => mask[index] === '1'))) found.push(set);
    }
    if (found.length > 0 && size >= 2) break;
  }
  return found.map((set) => set.map((index) => nails[index]!));
}

function subsets(count: number, size: number, from = 0): number[][] {
  if (size === 0) return [[]];
  const all: number[][] = [];
  for (let k = from; k < count; k++) for (const rest of subsets(count, size - 1, k + 1)) all.push([k, ...rest]);
  return all;
}
