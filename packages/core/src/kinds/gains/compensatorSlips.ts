import type { Slip } from '../../checking/slips/slip.js';
import type { Settings } from '../../exercise/answer.js';
import { isPid } from '../../exercise/controllers.js';
import { numberIn } from '../../expression/decimal.js';
import { must } from '../../expression/must.js';
import { lowestTerms } from '../../rational/fraction.js';
import type { Root } from '../../system/roots.js';
import { systemOf } from '../../system/system.js';
import { type Transfer, withDeadTime } from '../../system/transfer.js';
import type { GainsPart } from './part.js';

/** A slip in what is set of a compensator, with what undoes it and what makes it; undefined where it does not apply. */
export interface SettingsSlip extends Slip {
  readonly mend: (settings: Settings) => Settings | undefined;
  readonly make: (settings: Settings) => Settings | undefined;
}

/** What goes wrong with gains and places that are read off the plane or a plot, for one student's plant. */
export function compensatorSlips({ controller, views }: GainsPart, plant: Transfer): SettingsSlip[] {
  const factor = isPid(controller) ? 'Kp' : 'K';
  // A gain that is nudged until a curve looks right is not read off anything.
  const isRead = !isPid(controller) || (controller.terms === 'P' && views.includes('locus'));
  const constant = (isRead ? constantsOf(plant) : []).map((value, k): SettingsSlip => ({
    id: 'plantConstant',
    words: 'Divided by the plant’s own constant this gain holds: was it read without that constant?',
    mend: (settings) => withFactor(settings, factor, 1 / value),
    // One of them is enough for an example.
    make: (settings) => (k === 0 ? withFactor(settings, factor, value) : undefined),
  }));
  if (isPid(controller)) return constant;
  const isLevel = controller.form === 'corners';
  return [
    ...constant,
    {
      id: 'placesTurned',
      words: 'With the signs of its places turned round it holds: a factor s + 2 has its place at −2.',
      mend: turned,
      make: turned,
    },
    {
      id: 'placesExchanged',
      words: 'With zeros and poles exchanged it holds: are they swapped?',
      mend: exchanged,
      make: exchanged,
    },
    {
      id: 'otherForm',
      words: isLevel
        ? 'Read as the factor of (s − z)/(s − p) this K holds: here K is the level at low frequency.'
        : 'Read as the level at low frequency this K holds: here K multiplies (s − z)/(s − p).',
      mend: (settings) => inOtherForm(settings, isLevel ? -1 : 1),
      make: (settings) => inOtherForm(settings, isLevel ? 1 : -1),
    },
  ];
}

/** The plant's constant, for factors s + a and for factors 1 + T·s; without those that are 1. */
function constantsOf(plant: Transfer): number[] {
  const plain = withDeadTime(plant);
  if (!plain) return [];
  const { gain, zeros, poles } = systemOf(lowestTerms(plain.fraction));
  const level = (roots: readonly Root[]): number =>
    roots.reduce((product, { re, im, multiplicity }) => product * (Math.hypot(re, im) || 1) ** multiplicity, 1);
  const constants = [gain, (gain * level(zeros)) / level(poles)];
  return constants.filter(
    (value, k) => Math.abs(value - 1) > 1e-9 && Math.abs(value - (constants[k - 1] ?? NaN)) !== 0,
  );
}

type Place = 'z1' | 'z2' | 'z3' | 'zr' | 'p1' | 'p2' | 'p3' | 'pr';
const partners: readonly (readonly [zero: keyof Settings, pole: keyof Settings])[] = [
  ['z1', 'p1'],
  ['z2', 'p2'],
  ['z3', 'p3'],
  ['zr', 'pr'],
  ['zi', 'pi'],
];

const numberOf = (settings: Settings, name: keyof Settings): number | undefined => {
  const text = settings[name];
  return text === undefined ? undefined : numberIn(text);
};
const typed = (value: number): string => String(Number(value.toPrecision(8)));

function withFactor(settings: Settings, name: 'K' | 'Kp', factor: number): Settings | undefined {
  const value = numberOf(settings, name);
  return value === undefined ? undefined : { ...settings, [name]: typed(value * factor) };
}

function placesIn(settings: Settings): Place[] {
  return (['z1', 'z2', 'z3', 'zr', 'p1', 'p2', 'p3', 'pr'] as const).filter((name) => settings[name] !== undefined);
}

function turned(settings: Settings): Settings | undefined {
  const places = placesIn(settings);
  if (places.length === 0) return undefined;
  return { ...settings, ...Object.fromEntries(places.map((name) => [name, typed(-must(numberOf(settings, name)))])) };
}

function exchanged(settings: Settings): Settings | undefined {
  const pairs = partners.filter(([zero, pole]) => settings[zero] !== undefined && settings[pole] !== undefined);
  if (pairs.length === 0) return undefined;
  const swapped = pairs.flatMap(([zero, pole]) => [
    [zero, must(settings[pole])],
    [pole, must(settings[zero])],
  ]);
  return { ...settings, ...(Object.fromEntries(swapped) as Settings) };
}

/** K times the level at low frequency of ∏(s − p)/∏(s − z), or divided by it. */
function inOtherForm(settings: Settings, way: 1 | -1): Settings | undefined {
  const level = placesIn(settings).reduce((product, name) => {
    const re = must(numberOf(settings, name));
    const im = name.endsWith('r') ? numberOf(settings, name === 'zr' ? 'zi' : 'pi') : undefined;
    const size = im === undefined ? -re : re * re + im * im;
    return product * size ** (name.startsWith('p') ? 1 : -1);
  }, 1);
  return Number.isFinite(level) && level > 0 && Math.abs(level - 1) > 1e-9
    ? withFactor(settings, 'K', level ** way)
    : undefined;
}
