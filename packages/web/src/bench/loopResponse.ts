import {
  type Bindings,
  type Curve,
  type GainsPart,
  type Loop,
  type Measures,
  Problem,
  type Verdict,
  checkLoop,
  curveOf,
  fractionOf,
  loopOf,
  measuresOf,
  stepResponse,
} from '@nailset/core';

/** Everything that the bench shows of one set of gains. */
export interface LoopResponse {
  readonly loop: Loop;
  readonly measures: Measures;
  readonly curve: Curve;
  readonly verdict: Verdict;
  /** First time at 10 % of the final value, from which the rise is counted. */
  readonly riseFrom: number;
}

/** Share of the frame's height by which a drawn curve may differ from the response. */
const tolerance = 0.002;
const kept = 60;

/**
 * Responses of one part's loop, computed once per set of gains.
 * The function throws Problem for gains or a plant that cannot be used.
 */
export function loopResponses(part: GainsPart, bindings: Bindings) {
  const plant = fractionOf(part.plant, bindings);
  const known = new Map<string, LoopResponse>();
  return (gains: { Kp: string; Ki?: string; Kd?: string }): LoopResponse => {
    const key = `${gains.Kp} ${gains.Ki ?? ''} ${gains.Kd ?? ''}`;
    const found = known.get(key);
    if (found) return found;
    const loop = loopOf(plant, bindings, part.form, gains);
    const motion = stepResponse(loop.closed);
    const measures = measuresOf(loop.closed, motion);
    const curve = curveOf(motion, part.horizon, tolerance);
    const response = {
      loop,
      measures,
      curve,
      verdict: checkLoop(part, loop, measures),
      riseFrom: firstAbove(curve, 0.1 * (measures.finalValue ?? 1)),
    };
    if (known.size >= kept) known.delete(known.keys().next().value!);
    known.set(key, response);
    return response;
  };
}

/** The response, or what is wrong with the gains. */
export function tryResponse(
  responses: ReturnType<typeof loopResponses>,
  gains: { Kp: string; Ki?: string; Kd?: string },
): LoopResponse | Problem {
  try {
    return responses(gains);
  } catch (error) {
    if (error instanceof Problem) return error;
    throw error;
  }
}

function firstAbove({ times, values }: Curve, level: number): number {
  const k = values.findIndex((value) => (level >= 0 ? value >= level : value <= level));
  return k < 0 ? 0 : times[k]!;
}
