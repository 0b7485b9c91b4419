import type { Problem } from '@nailset/core';
import {
  type Curve,
  curveMotion,
  curveOf,
  curveVerdict,
  misfitPercent,
  orProblem,
  type Scope,
  type Series,
  type Settings,
  type StudentPart,
  systemFrom,
  type Verdict,
} from '@nailset/core';

export type CurveOfPart = Extract<StudentPart, { kind: 'curve' }>;

/** The model with one set of knobs: its curve and how far it stays from the target. */
export interface CurveResponse {
  readonly settings: Settings;
  readonly curve: Curve;
  readonly verdict: Verdict;
}

/** What the names of the model stand for, apart from the knobs. @throws Problem when one cannot be read. */
export function scopeOfModel(part: CurveOfPart): Scope {
  const names = new Map<string, ReturnType<typeof systemFrom>>();
  for (const [name, text] of Object.entries(part.known)) names.set(name, systemFrom(text, { names: new Map() }));
  return { names };
}

/** Responses of a part's model, each worked out once. */
export function curveResponses(part: CurveOfPart, series: readonly Series[]) {
  const scope = scopeOfModel(part);
  const range = Math.max(...part.target.values) - Math.min(...part.target.values) || 1;
  const known = new Map<string, CurveResponse>();
  return (settings: Settings): CurveResponse | Problem => {
    const key = JSON.stringify(settings);
    const before = known.get(key);
    if (before) return before;
    return orProblem(() => {
      const motion = curveMotion(part, scope, settings, series);
      const response = {
        settings,
        curve: curveOf(motion, part.horizon, 0.002 * range),
        verdict: curveVerdict(part, misfitPercent(motion, part.target, part.horizon)),
      };
      if (known.size > 80) known.clear();
      known.set(key, response);
      return response;
    });
  };
}
