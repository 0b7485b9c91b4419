import type { Problem } from '@nailset/core';
import {
  bodeVerdict,
  modelOfTerms,
  must,
  numberIn,
  numbersOfTerms,
  orProblem,
  refineTerms,
  type Settings,
  settingsOfTerms,
  type StudentPart,
  type TermModel,
  type Verdict,
} from '@nailset/core';
import type { Knob } from '../../loop/knob';

export type BodeOfPart = Extract<StudentPart, { kind: 'bode' }>;

/** A model over frequency with one set of terms, and how far it stays from the target. */
export interface TermsResponse {
  readonly settings: Settings;
  readonly model: TermModel;
  readonly verdict: Verdict;
}

/** Models of a part by their settings. */
export function termsResponses(part: BodeOfPart) {
  return (settings: Settings): TermsResponse | Problem => {
    return orProblem(() => {
      const model = modelOfTerms(numbersOfTerms(part, settings));
      return { settings, model, verdict: bodeVerdict(part, model, part.target) };
    });
  };
}

const short = (value: number): string => String(Number(value.toPrecision(4)));

/** The middle of the frequencies that are shown. */
function middleOf({ target: { omegas } }: BodeOfPart): number {
  return Number(Math.sqrt(must(omegas[0]) * must(omegas.at(-1))).toPrecision(1));
}

/** The numbers of the terms, with rungs that go with their size. */
export function knobsOfTerms(part: BodeOfPart, settings: Settings = {}): Knob[] {
  return settingsOfTerms(part).map((name) => {
    const common = { name, latex: latexOf(name), unit: '', optional: name !== 'K' };
    if (name === 'n') return { ...common, start: 1, fine: 1, coarse: 1, low: -3, high: 3 };
    if (name.startsWith('d')) return { ...common, start: 0.3, fine: 0.01, coarse: 0.1, low: 0.005, high: 1 };
    const isCorner = /^[pzw]/.test(name);
    const start = isCorner ? middleOf(part) : name === 'K' ? 1 : Number((0.1 / middleOf(part)).toPrecision(1));
    const size = Math.abs(numberIn(settings[name] ?? String(start))) || start;
    const decade = 10 ** Math.floor(Math.log10(size) + 1e-9);
    return {
      ...common,
      unit: isCorner ? 'rad/s' : name === 'L' ? 's' : '',
      start,
      fine: Number((decade * 0.05).toPrecision(2)),
      coarse: Number((decade * 0.5).toPrecision(2)),
      low: Number((decade * 0.05).toPrecision(2)),
    };
  });
}

/** ωp1, ζp1 for a pair. */
function latexOf(name: string): string {
  if (name.startsWith('w')) return `\\omega_{${name.slice(1)}}`;
  if (name.startsWith('d')) return `\\zeta_{${name.slice(1)}}`;
  return name.length > 1 ? `\\omega_{${name}}` : name;
}

const additions: readonly { label: string; names: readonly (readonly string[])[] }[] = [
  { label: 'an integrator', names: [['n']] },
  { label: 'a pole', names: [['p1'], ['p2'], ['p3']] },
  { label: 'a zero', names: [['z1'], ['z2'], ['z3']] },
  {
    label: 'a pair of poles',
    names: [
      ['wp1', 'dp1'],
      ['wp2', 'dp2'],
    ],
  },
  { label: 'a pair of zeros', names: [['wz1', 'dz1']] },
  { label: 'dead time', names: [['L']] },
];

/** What can still be added, with the settings that it brings. */
export function termAdditions(part: BodeOfPart, settings: Settings): { label: string; settings: Settings }[] {
  const knobs = new Map(knobsOfTerms(part).map((knob) => [knob.name, knob]));
  return additions.flatMap(({ label, names }) => {
    const next = names.find((each) => each.every((name) => knobs.has(name) && settings[name] === undefined));
    if (!next) return [];
    return [{ label, settings: Object.fromEntries(next.map((name) => [name, String(must(knobs.get(name)).start)])) }];
  });
}

/** The settings without a term; a pair goes as a whole. */
export function withoutTerm(settings: Settings, name: string): Settings {
  const gone = /^[wd]/.test(name) ? [`w${name.slice(1)}`, `d${name.slice(1)}`] : [name];
  return Object.fromEntries(Object.entries(settings).filter(([removed]) => !gone.includes(removed)));
}

/** The settings after a fit of the terms that there are. @throws Problem when it leads nowhere. */
export function refined(part: BodeOfPart, settings: Settings): Settings {
  const better = refineTerms(numbersOfTerms(part, settings), part.target);
  return Object.fromEntries(Object.entries(better).map(([name, value]) => [name, short(value)]));
}

/** The model as a fraction of its terms, in LaTeX. */
export function termsLatex({ gain, integrators, deadTime, terms }: TermModel): string {
  const factor = ({ corner, damping }: TermModel['terms'][number]): string => {
    const ratio = `\\frac{s}{${short(corner)}}`;
    if (damping === null) return `\\left(1+${ratio}\\right)`;
    return `\\left(1+${short(2 * damping)}\\,${ratio}+\\frac{s^2}{${short(corner)}^2}\\right)`;
  };
  const origin = (power: number): string => (power <= 0 ? '' : power === 1 ? 's' : `s^{${power}}`);
  const above = [origin(-integrators), ...terms.filter(({ power }) => power === 1).map(factor)].join('');
  const below = [origin(integrators), ...terms.filter(({ power }) => power === -1).map(factor)].join('');
  const top = `${short(gain)}${above}`;
  const delay = deadTime > 0 ? `\\,e^{-${short(deadTime)}\\,s}` : '';
  return `${below ? `\\frac{${top}}{${below}}` : top}${delay}`;
}
