import {
  type Around,
  type Curve,
  curveOf,
  driveLine,
  drivenMotion,
  type Motion,
  orProblem,
  partMotion,
  Problem,
  type SheetDrive,
  togetherMotion,
  type Transfer,
} from '@nailset/core';
import type { Drawn } from './drawn';

/** Curves that were worked out before, by system, drives and time. */
const known = new WeakMap<Transfer, Map<string, Curve | Problem>>();
const most = 8;

function kept(transfer: Transfer, key: string, make: () => Motion, until: number): Curve | Problem {
  const curves = known.get(transfer) ?? new Map<string, Curve | Problem>();
  known.set(transfer, curves);
  const before = curves.get(key);
  if (before !== undefined) return before;
  const curve = orProblem(() => {
    const motion = make();
    const rough = curveOf(motion, until, 0.01);
    const size = Math.max(...rough.values.map(Math.abs));
    return curveOf(motion, until, 0.0015 * (size > 0 && size < 1e5 ? size : 1));
  });
  if (curves.size >= most) curves.clear();
  curves.set(key, curve);
  return curve;
}

/** Everything besides the system that a curve depends on. */
const keyOf = (drives: readonly SheetDrive[], { data, initial, numbers }: Around, until: number): string =>
  JSON.stringify([
    drives,
    initial,
    until,
    drives.some(({ kind }) => kind === 'data') ? data : 0,
    drives.some(({ kind }) => kind === 'typed') ? [...numbers] : 0,
  ]);

type System = Pick<Drawn, 'transfer' | 'states' | 'parts' | 'limited'>;

/** The response to one drive; a Problem for a system that has none to it, as of a derivative to a step. */
export function responseOf(
  { transfer, states, limited }: System,
  drive: SheetDrive,
  around: Around,
  until: number,
): Curve | Problem {
  const make = () =>
    drivenMotion({ transfer, ...(states ? { states } : {}), ...(limited ? { limited } : {}) }, drive, around, until);
  return kept(transfer, keyOf([drive], around, until), make, until);
}

/** Of several inputs together: the sum, and what each gives alone. */
export function togetherOf(
  { transfer, states, parts = [] }: System,
  drives: readonly SheetDrive[],
  around: Around,
  until: number,
): { sum: Curve | Problem; alone: { input: string; curve: Curve }[] } {
  const key = keyOf(drives, around, until);
  const transfers = parts.map((part) => part.transfer);
  return {
    sum: kept(transfer, `sum ${key}`, () => togetherMotion(transfers, states, drives, around, until), until),
    alone: parts.flatMap((part, k) => {
      const make = () => partMotion(part.transfer, k, states, drives, around, until);
      const curve = kept(part.transfer, `alone ${k} ${key}`, make, until);
      return curve instanceof Problem ? [] : [{ input: part.input, curve }];
    }),
  };
}

/** A drive as a line beside the responses. */
export function lineOf(drive: SheetDrive, around: Around, until: number): Curve {
  const points = orProblem(() => driveLine(drive, around, until));
  const shown = points instanceof Problem ? [] : points;
  return {
    times: Float64Array.from(shown, ({ time }) => time),
    values: Float64Array.from(shown, ({ value }) => value),
  };
}
