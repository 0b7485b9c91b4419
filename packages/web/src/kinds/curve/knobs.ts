import type { SeenOf } from '@nailset/core';
import type { Knob } from '../../loop/knob';

/** The parameters that the student of a part sets, in the order of its ladder. */
export const knobsOfCurve = (part: Pick<SeenOf<'curve'>, 'knobs'>): Knob[] =>
  part.knobs.map((knob) => ({ ...knob, name: knob.symbol, latex: knob.symbol }));
