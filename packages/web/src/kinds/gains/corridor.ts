import { type CorridorNail, must, numberIn } from '@nailset/core';

export type Corridor = Readonly<CorridorNail['corridor']>;
export type Bound = 'low' | 'high';

/** As many as the format takes. */
const mostCorners = 20;

interface Rung {
  readonly time: number;
  readonly value: number;
}

const onRung = (value: number, rung: number): number => Number((rung * Math.round(value / rung)).toPrecision(10));

/** A corridor with one bound of a corner elsewhere, on rungs, between its neighbours and never across the other bound. */
export function cornerMoved(
  corridor: Corridor,
  index: number,
  bound: Bound,
  to: { readonly time: number; readonly value: number },
  rung: Rung,
): Corridor {
  const corner = must(corridor[index]);
  const [first, last] = [corridor[index - 1]?.time, corridor[index + 1]?.time];
  const earliest = first === undefined ? 0 : first + rung.time;
  const latest = last === undefined ? Infinity : last - rung.time;
  const time = earliest > latest ? corner.time : Math.min(latest, Math.max(earliest, onRung(to.time, rung.time)));
  const wanted = onRung(to.value, rung.value);
  const value = bound === 'low' ? Math.min(wanted, corner.high ?? wanted) : Math.max(wanted, corner.low ?? wanted);
  const moved = { ...corner, time: Number(time.toPrecision(10)), [bound]: value };
  return corridor.map((each, k) => (k === index ? moved : each));
}

/**
 * A corridor with one more corner at a time: on its bounds, the nearer of which goes to the value. Undefined when there
 * is no room for it.
 */
export function cornerAdded(
  corridor: Corridor,
  at: { readonly time: number; readonly value: number },
  rung: Rung,
): Corridor | undefined {
  const time = onRung(at.time, rung.time);
  if (corridor.length >= mostCorners || corridor.some((corner) => Math.abs(corner.time - time) < rung.time / 2)) {
    return undefined;
  }
  const next = corridor.findIndex((corner) => corner.time > time);
  const index = next < 0 ? corridor.length : next;
  const [before, after] = [corridor[index - 1], corridor[index]];
  const between = (bound: Bound): number | null => {
    if (!before || !after) return must(before ?? after)[bound];
    if (before[bound] === null || after[bound] === null) return null;
    const share = (time - before.time) / (after.time - before.time);
    return onRung(before[bound] + share * (after[bound] - before[bound]), rung.value);
  };
  const corner = { time, low: between('low'), high: between('high') };
  const added = [...corridor.slice(0, index), corner, ...corridor.slice(index)];
  const off = (bound: Bound): number => (corner[bound] === null ? Infinity : Math.abs(corner[bound] - at.value));
  const bound = off('low') < off('high') ? 'low' : 'high';
  return Number.isFinite(off(bound)) ? cornerMoved(added, index, bound, { time, value: at.value }, rung) : added;
}

/** Corners as `time  low  high`, one a line; a dash for no bound. */
export const corridorText = (corridor: Corridor): string =>
  corridor.map(({ time, low, high }) => `${time}  ${low ?? '–'}  ${high ?? '–'}`).join('\n');

/** Corners from lines as `corridorText` writes them; undefined when they are none. */
export function corridorFromText(text: string): Corridor | undefined {
  const lines = text.split('\n').filter((line) => line.trim());
  const corners = lines.map((line) => {
    const [time, low, high] = line.trim().split(/[\s;]+/);
    const bound = (value: string | undefined) =>
      value === undefined || /^[-–—]$/.test(value) ? null : numberIn(value);
    return { time: numberIn(time), low: bound(low), high: bound(high) };
  });
  const good = corners.every(({ time, low, high }) => [time, low ?? 0, high ?? 0].every(Number.isFinite) && time >= 0);
  return good && corners.length >= 2 && corners.length <= mostCorners ? corners : undefined;
}

/** Whether two corridors have the same corners. */
export const same = (left: Corridor, right: Corridor): boolean => corridorText(left) === corridorText(right);
