import type { Settings } from '../exercise/answer.js';
import { Problem } from '../expression/problem.js';
import { ladderRange } from '../loop/controller.js';
import type { VerdictItem } from './verdict.js';

type Ladder = Parameters<typeof ladderRange>[0] & { readonly name: string; readonly fine: number };

/** One thing on a ladder, with the range in which it is searched. */
export interface Axis {
  readonly name: string;
  readonly low: number;
  readonly high: number;
  readonly fine: number;
}

/** What is searched, each over the range of its ladder. */
export const axesOf = (ladders: readonly Ladder[]): Axis[] =>
  ladders.map((ladder) => {
    const [low, high] = ladderRange(ladder);
    return { name: ladder.name, fine: ladder.fine, low, high };
  });

/** What one set of gains does: which nails hold, and how far each is from its limit. */
export interface Tried {
  readonly settings: Settings;
  readonly held: readonly boolean[];
  /** For each nail the distance beyond its limit as a share of it, negative inside; NaN where there is no value. */
  readonly beyond: readonly number[];
  /** How far the missed nails are from holding, together; 0 when all do. */
  readonly violation: number;
  readonly stable: boolean;
  /** The second-order rules predict every nail that they speak of, and the response misses one of those clearly. */
  readonly deceived: boolean;
}

export type Try = (settings: Settings) => Tried;

/** Whether every nail holds. */
export const isFound = ({ violation }: Tried): boolean => violation === 0;

/** What settings do; settings that cannot be used hold nothing. */
export function guarded(nails: number, tryAt: Try): Try {
  return (settings) => {
    try {
      return tryAt(settings);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const all = <Of>(value: Of): Of[] => new Array<Of>(nails).fill(value);
      const nothing = { held: all(false), beyond: all(NaN), violation: 20 * nails };
      return { settings, ...nothing, stable: false, deceived: false };
    }
  };
}

const farthest = 10;

/** How nails hold, from their items in a verdict. */
export function judged(items: readonly VerdictItem[]): Pick<Tried, 'held' | 'beyond' | 'violation'> {
  let violation = 0;
  const beyond = items.map(({ met, measured, limit, relation }) => {
    if (measured === null || limit === null) {
      if (!met) violation += farthest;
      return met ? -1 : NaN;
    }
    const off = ((relation === 'atLeast' ? -1 : 1) * (measured - limit)) / (Math.abs(limit) || 1);
    if (!met) violation += 1e-9 + Math.min(farthest, Math.abs(off));
    return Math.min(farthest, Math.max(-1, off));
  });
  return { held: items.map(({ met }) => met), beyond, violation };
}
