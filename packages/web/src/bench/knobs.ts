import { type StudentPart, openGains } from '@nailset/core';
import type { Knob } from './knob';
import { knobsOfTerms } from './terms';

export type { Knob } from './knob';

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
  if (part.kind === 'bode') return knobsOfTerms(part);
  return [];
}
