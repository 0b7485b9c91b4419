import { must, numberIn, type Settings } from '@nailset/core';

/** A zero and a pole of one number, which work together. */
export interface LeadOrLag {
  /** The number of both, as in z1 and p1. */
  readonly pair: string;
  /** As in “lead z1 : p1 = 1 : 8”. */
  readonly words: string;
  /** Pole through zero. */
  readonly ratio: number;
}

/** Pole through zero for each pair that moves as one, by its number. */
export type HeldRatios = Readonly<Record<string, number>>;

/** The leads and lags that are set. */
export function leadsAndLagsOf(settings: Settings): LeadOrLag[] {
  return ['1', '2', '3'].flatMap((pair) => {
    const [zero, pole] = [numberIn(settings[`z${pair}`]), numberIn(settings[`p${pair}`])];
    if (!zero || !pole) return [];
    const lead = Math.abs(pole) >= Math.abs(zero);
    const shown = Number(Math.abs(lead ? pole / zero : zero / pole).toPrecision(3));
    return [{ pair, words: `${lead ? 'lead' : 'lag'} z${pair} : p${pair} = 1 : ${shown}`, ratio: pole / zero }];
  });
}

/**
 * Settings in which the zero follows its pole and the pole its zero where their ratio is held and one was changed. Both
 * set at once have a new ratio, which is held from then on; where one is taken out nothing is held any more.
 */
export function withRatiosHeld(
  before: Settings,
  after: Settings,
  held: HeldRatios,
): { settings: Settings; held: HeldRatios } {
  const settings = { ...after };
  const still: Record<string, number> = {};
  for (const [pair, ratio] of Object.entries(held)) {
    const [zero, pole] = [`z${pair}`, `p${pair}`];
    if (after[zero] === undefined || after[pole] === undefined) continue;
    const changed = [zero, pole].filter((name) => before[name] !== after[name]);
    const anew = changed.length === 2 ? leadsAndLagsOf(after).find((each) => each.pair === pair) : undefined;
    still[pair] = anew?.ratio ?? ratio;
    const value = changed.length === 1 ? numberIn(after[must(changed[0])]) : 0;
    if (!value) continue;
    const [other, wanted] = changed[0] === zero ? [pole, value * ratio] : [zero, value / ratio];
    settings[other] = String(Number(wanted.toPrecision(4)));
  }
  return { settings, held: still };
}
