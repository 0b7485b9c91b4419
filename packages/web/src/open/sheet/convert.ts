import {
  must,
  type Pole,
  Problem,
  type Root,
  type SheetLine,
  stateForm,
  statesText,
  type System,
  systemStates,
} from '@nailset/core';
import type { Drawn } from './drawn';

/** Forms in which a line can be written instead; each gives the same system, or says why it has no such form. */
export const conversions: Readonly<Record<string, (facts: Drawn['facts']) => readonly (readonly [string, string])[]>> =
  {
    'coefficients, highest power first': (facts) => [['', `${coefficients(known(facts))}${delay(facts)}`]],
    'gain, zeros and poles': (facts) => {
      const { gain, zeros, poles } = known(facts);
      const above = [number(gain), ...factors(zeros)].join('*');
      const below = factors(poles).join('*');
      return [['', `${above}${below ? `/(${below})` : ''}${delay(facts)}`]];
    },
    'K, ζ, ωn': (facts) => {
      const { poles, zeros, dcGain } = known(facts);
      const order = count(poles);
      if (order !== 2 || zeros.length > 0 || dcGain === null) {
        throw new Problem(
          'notPossible',
          `K, ζ and ωn are of two poles, no zero and a gain at rest; this has ${inWords(facts)}.`,
        );
      }
      const [first, second] = poles.length === 1 ? [must(poles[0]), must(poles[0])] : [must(poles[0]), must(poles[1])];
      const square = first.im === 0 ? first.re * second.re : first.re ** 2 + first.im ** 2;
      if (!(square > 0)) throw new Problem('notPossible', 'The poles lie on both sides of the axis: there is no ωn.');
      const wn = Math.sqrt(square);
      return [
        ['K', number(dcGain)],
        ['zeta', number(-(first.re + second.re) / (2 * wn))],
        ['wn', number(wn)],
        ['', `K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)${delay(facts)}`],
      ];
    },
    'K and τ': (facts) => {
      const { poles, zeros, dcGain } = known(facts);
      if (count(poles) !== 1 || zeros.length > 0 || dcGain === null) {
        throw new Problem(
          'notPossible',
          `K and τ are of one pole, no zero and a gain at rest; this has ${inWords(facts)}.`,
        );
      }
      return [
        ['K', number(dcGain)],
        ['tau', number(-1 / must(poles[0]).re)],
        ['', `K/(tau*s + 1)${delay(facts)}`],
      ];
    },
    'state matrices': (facts) => {
      if (facts.deadTime > 0) throw new Problem('deadTime', 'Dead time has no finite number of states.');
      return [['', statesText(stateForm(systemStates(known(facts)), 'controllable'))]];
    },
  };

function known({ system }: Drawn['facts']): System {
  if (!system) throw new Problem('deadTime', 'Dead time stands inside of sums; this cannot be written otherwise.');
  return system;
}

const count = (roots: readonly Root[]): number => roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);

function inWords(facts: Drawn['facts']): string {
  const { poles, zeros, dcGain } = known(facts);
  const [below, above] = [count(poles), count(zeros)];
  return `${below} ${below === 1 ? 'pole' : 'poles'}, ${above} ${above === 1 ? 'zero' : 'zeros'}${dcGain === null ? ' and none at rest' : ''}`;
}

/** Twelve digits: what doubles print as, without their rounding. */
const number = (value: number): string => String(Number(value.toPrecision(12)));
const delay = ({ deadTime }: Drawn['facts']): string => (deadTime > 0 ? `*exp(-${number(deadTime)}*s)` : '');

function coefficients({ fraction }: System): string {
  const list = ({ integers, denominator }: { integers: readonly bigint[]; denominator: bigint }) =>
    `[${[...integers]
      .reverse()
      .map((each) => number(Number(each) / Number(denominator)))
      .join(', ')}]`;
  return `${list(fraction.numerator)}/${list(fraction.denominator)}`;
}

/** (s + 2), s^2, ((s + 1)^2 + 3^2): a pair as one. */
const factors = (roots: readonly (Root | Pole)[]): string[] =>
  roots
    .filter(({ im }) => im >= 0)
    .map(({ re, im, multiplicity }) => {
      const line = re === 0 ? 's' : `(s ${re < 0 ? '+' : '-'} ${number(Math.abs(re))})`;
      const factor = im === 0 ? line : `(${line}^2 + ${number(im)}^2)`;
      return multiplicity > 1 ? `${factor}^${multiplicity}` : factor;
    });

/** The lines with one of them written otherwise; numbers that it needs stand above it, under names that are free. */
export function converted(
  lines: readonly SheetLine[],
  at: number,
  written: readonly (readonly [string, string])[],
): SheetLine[] {
  const old = must(lines[at]);
  const taken = new Set(lines.map(({ name }) => name));
  const renamed = new Map<string, string>();
  for (const [name] of written) {
    if (!name) continue;
    let free = name;
    for (let k = 1; taken.has(free); k++) free = `${name}${k}`;
    taken.add(free);
    renamed.set(name, free);
  }
  const texts = written.map(([name, text]): SheetLine => {
    const { from: _from, probes: _probes, ...rest } = old;
    return {
      ...rest,
      name: renamed.get(name) ?? old.name,
      text: text.replace(/[A-Za-z]+/g, (word) => (name === '' ? (renamed.get(word) ?? word) : word)),
    };
  });
  return [...lines.slice(0, at), ...texts, ...lines.slice(at + 1)];
}
