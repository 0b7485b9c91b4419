import {
  type Branch,
  ladderRange,
  numberIn,
  openGains,
  Problem,
  type Settings,
  sweepParameter,
  sweepSetting,
} from '@nailset/core';
import { type GainsOf, type LoopResponse, type LoopResponses, tryResponse } from '../loop/loopResponse';
import { type PlaneFrame, windowOf } from './locus';

/** Closed-loop poles over one quantity, on which readings are set. */
export interface Sweep {
  /** Of what the values are that the branches hold as gains. */
  readonly name: string;
  readonly branches: readonly Branch[];
  /** Where the loop is now; null where that is not one value. */
  readonly now: number | null;
  /** The nearest value that the loop can be measured at. */
  snapped(value: number): number;
  /** So many small steps on. */
  stepped(value: number, steps: number): number;
  /** The loop at such a value; null where it cannot be measured. */
  responseAt(value: number): LoopResponse | null;
}

const orNull = (response: LoopResponse | Problem): LoopResponse | null =>
  response instanceof Problem ? null : response;
const short = (value: number): string => String(Number(value.toPrecision(6)));

/** Over the gain of the locus: the controller's factor, or each of its terms times it. */
export function sweepGain(
  branches: readonly Branch[],
  responses: LoopResponses,
  settings: Settings,
  factor: string | null,
): Sweep {
  const at = (gain: number): Settings =>
    factor
      ? { ...settings, [factor]: short(gain) }
      : Object.fromEntries(Object.entries(settings).map(([name, text]) => [name, short(numberIn(text) * gain)]));
  return {
    name: 'K',
    branches,
    now: factor ? numberIn(settings[factor]) : null,
    snapped: (value) => value,
    stepped: (value, steps) => value * 1.02 ** steps,
    responseAt: (value) => orNull(tryResponse(responses, at(value))),
  };
}

/**
 * Poles over a setting in its range, or over a parameter of the plant from a quarter of its value to four times it.
 * @throws Problem when there are none to draw.
 */
export function sweepOver(
  name: string,
  part: GainsOf,
  responses: LoopResponses,
  settings: Settings,
  frame: PlaneFrame,
): Sweep {
  const knob = openGains(part.controller).find((gain) => gain.name === name);
  if (knob) {
    const [low, high] = ladderRange(knob);
    return {
      name,
      branches: sweepSetting(responses.model, settings, name, [low, high], windowOf(frame)),
      now: Number(settings[name]),
      snapped: (value) => value,
      stepped: (value, steps) => Math.min(high, Math.max(low, value + (steps * (high - low)) / 200)),
      responseAt: (value) => orNull(tryResponse(responses, { ...settings, [name]: short(value) })),
    };
  }
  const nodes = responses.sweep(name);
  const loops = nodes.map(({ value, responses: { model } }) => ({ value, loop: model.loopWith(settings) }));
  const nearest = (value: number): number => {
    const off = nodes.map((node) => Math.abs(node.value - value));
    return off.indexOf(Math.min(...off));
  };
  return {
    name,
    branches: sweepParameter(loops, windowOf(frame)),
    // The student's own value stands in the middle.
    now: nodes[(nodes.length - 1) >> 1]!.value,
    snapped: (value) => nodes[nearest(value)]!.value,
    stepped: (value, steps) => nodes[Math.min(nodes.length - 1, Math.max(0, nearest(value) + Math.sign(steps)))]!.value,
    responseAt: (value) => orNull(tryResponse(nodes[nearest(value)]!.responses, settings)),
  };
}
