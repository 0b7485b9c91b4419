import {
  type Answer,
  type Curve,
  type DrawValues,
  type Part,
  Problem,
  bindingsOf,
  curveOf,
  fractionOf,
  loopOf,
  measuresOf,
  stepResponse,
  systemOf,
} from '@nailset/core';

/** One student's answer, to be drawn. */
export interface FlockEntry {
  readonly submissionId: string;
  readonly values: DrawValues;
  readonly answer: Answer;
}

/** Its response; times 0 to the part's horizon. */
export interface FlockCurve {
  readonly submissionId: string;
  readonly curve: Curve;
}

/** Time that shows every stable response of the class settling. */
export function horizonOf(part: Part, entries: readonly FlockEntry[]): number {
  if (part.kind === 'gains') return part.horizon;
  const settled = entries.map((entry) => settlingOf(entry)).sort((a, b) => a - b);
  const middle = settled[Math.floor(settled.length / 2)] ?? 5;
  return Number((1.4 * middle || 5).toPrecision(2));
}

/** Everyone's response to one part; answers that have none are left out. */
export function flockCurves(part: Part, entries: readonly FlockEntry[], horizon: number): FlockCurve[] {
  return entries.flatMap(({ submissionId, values, answer }) => {
    try {
      const bindings = bindingsOf(values);
      const system =
        part.kind === 'gains' && answer.kind === 'gains'
          ? loopOf(part.plant, bindings, part.form, answer.gains).closed
          : answer.kind === 'gains'
            ? undefined
            : systemOf(fractionOf(answer.text, bindings));
      return system ? [{ submissionId, curve: curveOf(stepResponse(system), horizon, 0.004) }] : [];
    } catch (error) {
      if (error instanceof Problem) return [];
      throw error;
    }
  });
}

function settlingOf({ values, answer }: FlockEntry): number {
  if (answer.kind === 'gains') return 0;
  try {
    return measuresOf(systemOf(fractionOf(answer.text, bindingsOf(values)))).settlingTime ?? 0;
  } catch (error) {
    if (error instanceof Problem) return 0;
    throw error;
  }
}
