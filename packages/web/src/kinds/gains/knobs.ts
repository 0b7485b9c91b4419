import { openGains, type SeenOf } from '@nailset/core';
import type { Knob } from '../../loop/knob';

/** Times in seconds, places in the s-plane in rad/s, other gains without a unit of their own. */
const unitOf = (name: string): string => (name.startsWith('T') ? 's' : /^[zp]/.test(name) ? 'rad/s' : '');

/** The name typeset: what follows its first letter is an index. */
const latexOf = (name: string): string => (name.length > 1 ? `${name[0]}_{${name.slice(1)}}` : name);

/** The gains that the student of a part sets, in the order of its ladder. */
export const knobsOfGains = (part: Pick<SeenOf<'gains'>, 'controller'>): Knob[] =>
  openGains(part.controller).map((gain) => ({ ...gain, latex: latexOf(gain.name), unit: unitOf(gain.name) }));
