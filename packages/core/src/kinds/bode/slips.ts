import { attempted, onlyOne, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import type { Verdict } from '../../checking/verdict.js';
import type { Settings } from '../../exercise/answer.js';
import type { Answer } from '../../exercise/parts.js';

type Change = (settings: Settings) => Settings | undefined;

const changed = (settings: Settings, names: RegExp, change: (value: number) => number): Settings | undefined => {
  const named = Object.entries(settings).filter(([name]) => names.test(name));
  if (named.length === 0) return undefined;
  return { ...settings, ...Object.fromEntries(named.map(([name, text]) => [name, String(change(Number(text)))])) };
};

const corners = /^(p|z|w)/;
const turn = 2 * Math.PI;

/** Slips with what undoes them and what makes them. */
const slips: readonly (Slip & { undo: Change; make: Change })[] = [
  {
    id: 'decibels',
    words: 'The level K looks like decibels: a ratio is asked for, K = 10^(dB/20).',
    undo: (settings) => changed(settings, /^K$/, (db) => 10 ** (db / 20)),
    make: (settings) => {
      const level = 20 * Math.log10(Number(settings['K']));
      return level > 0 ? { ...settings, K: String(Number(level.toPrecision(4))) } : undefined;
    },
  },
  {
    id: 'hertz',
    words: 'The corner frequencies look like Hz: rad/s are asked for, 2π times as much.',
    undo: (settings) => changed(settings, corners, (value) => value * turn),
    make: (settings) => changed(settings, corners, (value) => Number((value / turn).toPrecision(4))),
  },
  {
    id: 'upsideDown',
    words: 'With poles and zeros exchanged the model would follow: terms that bend down stand below the line.',
    undo: (settings) => exchanged(settings),
    make: (settings) => exchanged(settings),
  },
];

function exchanged(settings: Settings): Settings | undefined {
  const other = (name: string): string => name.replace(/[pz](?=\d)/, (letter) => (letter === 'p' ? 'z' : 'p'));
  const swapped = Object.fromEntries(
    Object.entries(settings).map(([name, text]) => [other(name), name === 'n' ? String(-Number(text)) : text]),
  );
  return JSON.stringify(swapped) === JSON.stringify(settings) ? undefined : swapped;
}

/** What a model over frequency goes wrong by, if undoing exactly one usual slip makes it follow. */
export function slipOfBode(terms: Settings, check: (answer: Answer) => Verdict): Slip | undefined {
  return onlyOne(
    slips.filter(({ undo }) => {
      const other = undo(terms);
      return other !== undefined && attempted(check, { kind: 'bode', terms: other })?.met === true;
    }),
  );
}

/** What right terms become by the usual slips. */
export function wrongTerms(right: Settings): WrongAnswer[] {
  return slips.flatMap(({ id, words, make }) => {
    const terms = make(right);
    return terms ? [{ id, words, answer: { kind: 'bode' as const, terms } }] : [];
  });
}
