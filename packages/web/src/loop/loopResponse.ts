import type { Problem } from '@nailset/core';
import {
  checkLoop,
  type ControlLoop,
  type Curve,
  curveOf,
  hiddenModes,
  inputLine,
  LoopModel,
  type Measures,
  must,
  orProblem,
  type Pole,
  type Root,
  type Scope,
  type Series,
  type Settings,
  type SignalName,
  type StudentPart,
  type Verdict,
  withDeadTime,
} from '@nailset/core';

export type GainsOf = Extract<StudentPart, { kind: 'gains' }>;

/** Everything that the bench shows of one set of gains. */
export interface LoopResponse {
  readonly settings: Settings;
  readonly loop: ControlLoop;
  readonly measures: Measures;
  /** Null for a signal that starts with an impulse. */
  readonly curves: Readonly<Record<SignalName, Curve | null>>;
  readonly verdict: Verdict;
  /** Empty for loops with dead time. */
  readonly poles: readonly Pole[];
  /** Modes that the output does not show after a step of the reference. */
  readonly hidden: readonly Pole[];
  readonly zeros: readonly Root[];
  /** First time at 10 % of the final value, from which the rise is counted. */
  readonly riseFrom: number;
}

/** The loop of a part with everything that does not depend on the gains. */
export interface LoopResponses {
  readonly model: LoopModel;
  /** The reference as a line over time. */
  readonly reference: Curve;
  /** @throws Problem for gains that cannot be used. */
  of(settings: Settings): LoopResponse;
  /** The same with one parameter of the plant at its other values; made when they are first asked for. */
  others(parameter: string): readonly { readonly value: number; readonly responses: LoopResponses }[];
  /** The same in close, even steps of the parameter's logarithm; empty where the bench has no locus. */
  sweep(parameter: string): readonly { readonly value: number; readonly responses: LoopResponses }[];
}

/** Share of the frame's height by which a drawn curve may differ from the response. */
const tolerance = 0.002;
const kept = 80;

/**
 * Responses of one part's loop, computed once per set of gains.
 * @throws Problem for a plant that cannot be used.
 */
export function loopResponses(part: GainsOf, scope: Scope, series: readonly Series[]): LoopResponses {
  const model = new LoopModel(part, scope, series);
  const known = new Map<string, LoopResponse>();
  const line = inputLine(part.input, series, part.horizon);
  const reference = { times: Float64Array.from(line.times), values: Float64Array.from(line.values) };
  const height = Math.max(1e-9, ...line.values.map(Math.abs));
  const made = new Map<string, { value: number; responses: LoopResponses }[]>();
  const along = (parameter: string, which: 'members' | 'sweep') => {
    const key = `${which} ${parameter}`;
    const family = part.families.find((each) => each.parameter === parameter)?.[which] ?? [];
    const all =
      made.get(key) ??
      family.map(({ value, ...loop }) => ({
        value: Number(value),
        responses: loopResponses({ ...part, ...loop }, scope, series),
      }));
    made.set(key, all);
    return all;
  };
  return {
    model,
    reference,
    of(settings) {
      const key = JSON.stringify(settings);
      const before = known.get(key);
      if (before) return before;
      const loop = model.loopWith(settings);
      const signals = model.signals(loop);
      const drawn = (signal: SignalName): Curve | null =>
        signals[signal] && curveOf(signals[signal], part.horizon, tolerance * (signal === 'u' ? 5 * height : height));
      const y = drawn('y');
      let e: Curve | null | undefined;
      const curves = {
        y,
        // The error is drawn only when someone looks at it.
        get e() {
          return (e ??= drawn('e'));
        },
        u: part.views.includes('effort') ? drawn('u') : null,
      };
      const { measures } = model.subject(loop);
      const system = loop.subject().system;
      const response: LoopResponse = {
        settings,
        loop,
        measures,
        curves,
        verdict: checkLoop(part, model, loop),
        poles: system?.poles ?? [],
        hidden: system ? hiddenModes(must(withDeadTime(loop.subject().transfer)).fraction) : [],
        zeros: system?.zeros ?? [],
        riseFrom: firstAbove(must(curves.y), 0.1 * (measures.finalValue ?? 1)),
      };
      if (known.size >= kept) known.delete(must(known.keys().next().value));
      known.set(key, response);
      return response;
    },
    others: (parameter) => along(parameter, 'members'),
    sweep: (parameter) => along(parameter, 'sweep'),
  };
}

/** The response, or what is wrong with the gains. */
export function tryResponse(responses: LoopResponses, settings: Settings): LoopResponse | Problem {
  return orProblem(() => responses.of(settings));
}

function firstAbove({ times, values }: Curve, level: number): number {
  const k = values.findIndex((value) => (level >= 0 ? value >= level : value <= level));
  return k < 0 ? 0 : must(times[k]);
}
