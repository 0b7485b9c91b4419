import type { Model } from '../checking/model.js';
import type { Axis, Tried, Try } from '../checking/trial.js';
import type { Settings } from '../exercise/answer.js';
import type { GainsPart } from '../kinds/gains/part.js';
import { searching } from '../kinds/gains/search.js';
import { gridCounts, onLadder, stepsOf, widthOf } from './axes.js';

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

/** The map over the first two gains that `at` has, its others staying where they are, for one student's numbers. */
export function gainMapAt(part: GainsPart, model: Model, at: Settings): GainMap {
  const axes = searching.axes(part).filter(({ name }) => name in at);
  return mapOf(axes, part.nails.length, at, searching.trying(part, model), []);
}

/** The map over the first two gains, others staying where they are at; what was tried already is not tried again. */
export function mapOf(
  axes: readonly Axis[],
  nails: number,
  at: Settings,
  tryAt: Try,
  tried: readonly Tried[],
): GainMap {
  const [first, second] = axes;
  const count = gridCounts[Math.min(1, axes.length - 1)]!;
  const columns = stepsOf(first!, second ? count : gridCounts[0]!);
  const rows = second ? stepsOf(second, count) : [0];
  const known = new Map(tried.map((each) => [JSON.stringify(each.settings), each]));
  const held = rows.flatMap((row) =>
    columns.map((column) => {
      const settings = { ...at, [first!.name]: String(column), ...(second ? { [second.name]: String(row) } : {}) };
      const tried = known.get(JSON.stringify(settings)) ?? tryAt(settings);
      return tried.stable ? tried.held.filter(Boolean).length : -1;
    }),
  );
  const share = held.filter((number) => number === nails).length / held.length;
  return { axes, columns, rows, held, at, share };
}

const speck = 0.02;
const closest = 1 / 256;

/** A map of less and less around a point where all nails hold, until they hold on more than a speck of it. */
export function closeTo(at: Settings, whole: GainMap, mapOver: (axes: readonly Axis[]) => GainMap): GainMap {
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
