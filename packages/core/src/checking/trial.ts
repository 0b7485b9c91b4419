import { Problem } from '../expression/problem.js';
import type { Settings } from '../exercise/answer.js';
import type { CurvePart, GainsPart } from '../exercise/parts.js';
import { targetOf } from '../exercise/studentView.js';
import type { ControlLoop } from '../loop/controlLoop.js';
import { curveMotion, curveVerdict, misfitPercent } from './answers/curve.js';
import { loopModelOf, nailsOf } from './answers/gains.js';
import type { Model } from './model.js';
import { isPromised } from './slips/rule.js';
import type { VerdictItem } from './verdict.js';

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

/** What settings do for one student's numbers; settings that cannot be used hold nothing. */
export function tryOf(part: GainsPart | CurvePart, model: Model): Try {
  if (part.kind === 'gains') {
    const loopModel = loopModelOf(part, model);
    return guarded(part.nails.length, (settings) => {
      const loop = loopModel.loopWith(settings);
      const found = judged(nailsOf(part, loopModel, loop));
      return { settings, ...found, stable: loop.stable, deceived: isDeceived(part, loop, found) };
    });
  }
  const target = targetOf(part, model.scope, model.series);
  return guarded(1, (settings) => {
    const misfit = misfitPercent(curveMotion(part, model.scope, settings, model.series), target, part.horizon);
    return { settings, ...judged(curveVerdict(part, misfit).items), stable: true, deceived: false };
  });
}

function guarded(nails: number, attempt: Try): Try {
  return (settings) => {
    try {
      return attempt(settings);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const all = <Of>(value: Of): Of[] => new Array<Of>(nails).fill(value);
      const nothing = { held: all(false), beyond: all(NaN), violation: 20 * nails };
      return { settings, ...nothing, stable: false, deceived: false };
    }
  };
}

const farthest = 10;

function judged(items: readonly VerdictItem[]): Pick<Tried, 'held' | 'beyond' | 'violation'> {
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

/** A nail that the rules speak of is missed by more than this, as a share of its limit. */
const clearly = 0.2;

function isDeceived(part: GainsPart, loop: ControlLoop, { beyond }: Pick<Tried, 'beyond'>): boolean {
  if (!loop.stable || loop.hasDeadTime) return false;
  const promised = part.nails.map((nail) => isPromised(nail, loop));
  return (
    promised.every((holds) => holds !== false) && promised.some((holds, k) => holds === true && beyond[k]! > clearly)
  );
}
