import { type StudentPart, openGains } from '@nailset/core';

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
  /** It may be left out. */
  readonly optional?: boolean;
}

/** Times in seconds, places in the s-plane in rad/s, other gains without a unit of their own. */
const unitOf = (name: string): string => (name.startsWith('T') ? 's' : /^[zp]/.test(name) ? 'rad/s' : '');

/** The name typeset: what follows its first letter is an index. */
const latexOf = (name: string): string => (name.length > 1 ? `${name[0]}_{${name.slice(1)}}` : name);

/** What the student of a part sets, in the order of its ladder; none for parts that are typed or chosen. */
export function knobsOf(part: StudentPart): Knob[] {
  if (part.kind === 'gains') {
    return openGains(part.controller).map((gain) => ({
      ...gain,
      latex: latexOf(gain.name),
      unit: unitOf(gain.name),
    }));
  }
  if (part.kind === 'curve') return part.knobs.map((knob) => ({ ...knob, name: knob.symbol, latex: knob.symbol }));
  return [];
}
