import { type GainName, type StudentPart, openGains } from '@nailset/core';

/** Something on the ladder: a gain, or a parameter of a model that is made to follow a curve. */
export interface Knob {
  readonly name: string;
  readonly latex: string;
  readonly unit: string;
  readonly start: number;
  readonly fine: number;
  readonly coarse: number;
  readonly low?: number;
  readonly high?: number;
}

const units: Record<GainName, string> = { Kp: '', Ki: '', Kd: '', Ti: 's', Td: 's' };

/** What the student of a part sets, in the order of its ladder; none for parts that are typed or chosen. */
export function knobsOf(part: StudentPart): Knob[] {
  if (part.kind === 'gains') {
    return openGains(part.controller).map((gain) => ({
      ...gain,
      latex: `${gain.name[0]}_{${gain.name[1]}}`,
      unit: units[gain.name],
    }));
  }
  if (part.kind === 'curve') return part.knobs.map((knob) => ({ ...knob, name: knob.symbol, latex: knob.symbol }));
  return [];
}
