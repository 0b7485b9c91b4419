import {
  type Compensator,
  type Controller,
  type ControllerGain,
  type GainName,
  gainsOf,
  type PidController,
} from '@nailset/core';

type Ladder = Omit<Extract<ControllerGain, { start: number }>, 'name'>;

const place = (start: number, optional = true): Ladder => ({
  start,
  fine: 0.1,
  coarse: 1,
  low: 10 * start,
  high: -0.01,
  optional,
});
const half: Ladder = { start: 1, fine: 0.1, coarse: 1, optional: true };

const ladders: Record<GainName, Ladder> = {
  Kp: { start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
  Ki: { start: 0, fine: 0.5, coarse: 2, low: 0, high: 40 },
  Kd: { start: 0, fine: 0.1, coarse: 1, low: 0, high: 20 },
  Ti: { start: 10, fine: 0.1, coarse: 1, low: 0.1, high: 60 },
  Td: { start: 0, fine: 0.05, coarse: 0.5, low: 0, high: 10 },
  K: { start: 1, fine: 0.5, coarse: 5, low: 0, high: 500 },
  z1: place(-1),
  p1: place(-10),
  z2: place(-2),
  p2: place(-20),
  z3: place(-3),
  p3: place(-30),
  zr: { ...half, start: -1 },
  zi: half,
  pr: { ...half, start: -5 },
  pi: half,
};

/** A controller with every gain left to the student; gains of an earlier one stay as they were. */
export function newController(
  terms: Controller['terms'],
  form: Controller['form'],
  before: readonly ControllerGain[] = [],
): Controller {
  const kept = (name: GainName): ControllerGain =>
    before.find((gain) => gain.name === name) ?? ({ name, ...ladders[name] } as ControllerGain);
  if (terms === 'compensator') {
    const shape = form === 'corners' ? 'corners' : 'factors';
    const gains = (['K', 'z1', 'p1'] as const).map(kept) as Compensator['gains'];
    return { terms, form: shape, proper: true, largestRatio: 10, gains };
  }
  const shape = form === 'ideal' || form === 'series' ? form : 'parallel';
  return { terms, form: shape, gains: gainsOf({ terms, form: shape }).map(kept) as PidController['gains'] };
}

/** The gain with a ladder again. */
export const opened = <Name extends GainName>(name: Name): ControllerGain =>
  ({ name, ...ladders[name] }) as ControllerGain;
