import type { Model } from '../../checking/model.js';
import { isPromised } from '../../checking/slips/rule.js';
import { attempted, onlyOne, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import type { Verdict } from '../../checking/verdict.js';
import type { Settings } from '../../exercise/answer.js';
import { isPid } from '../../exercise/controllers.js';
import type { Answer } from '../../exercise/parts.js';
import { numberIn } from '../../expression/decimal.js';
import { must } from '../../expression/must.js';
import { gainsOf, openGains } from '../../loop/controller.js';
import type { ControlLoop } from '../../loop/controlLoop.js';
import { quantities } from '../../quantity/index.js';
import { loopModelOf } from './check.js';
import { compensatorSlips } from './compensatorSlips.js';
import type { GainsPart, Nail } from './part.js';

type Check = (answer: Answer) => Verdict;

const swapped = { id: 'swapped', words: 'With Ki and Kd exchanged all nails hold: are they swapped?' };
const timesSwapped = { id: 'swapped', words: 'With Ti and Td exchanged all nails hold: are they swapped?' };
const timesForGains = {
  id: 'timesForGains',
  words: 'Read as Ti and Td all nails hold: Ki and Kd of the parallel form are asked for.',
};
const gainsForTimes = {
  id: 'gainsForTimes',
  words: 'Read as Ki and Kd all nails hold: Ti and Td are asked for.',
};
const noIntegral = { id: 'noIntegral', words: 'The offset stays because nothing integrates.' };
const onlyByRule = {
  id: 'onlyByRule',
  words: 'For the dominant poles the second-order rule predicts that this holds; the response does not follow it.',
};
const hiddenMode = {
  id: 'hiddenMode',
  words: 'The controller cancels an unstable pole of the plant; it stays in the loop and grows.',
};

/** What a set of gains goes wrong by, if exactly one usual slip fits. */
export function slipOfGains(part: GainsPart, model: Model, settings: Settings, check: Check): Slip | undefined {
  const holds = (other: Settings | undefined): boolean =>
    other !== undefined && attempted(check, { kind: 'gains', gains: other })?.met === true;
  const loopModel = loopModelOf(part, model);
  const loop = loopModel.loopWith(settings);
  if (!loop.stable && !loop.hasDeadTime && must(loop.subject().system).stable) {
    return loop.hiddenCause === 'the controller cancels a pole of the plant' ? hiddenMode : undefined;
  }
  const parallel = part.controller.form === 'parallel';
  const other = parallel ? timesForGains : gainsForTimes;
  const exchanged = [
    ...(holds(exchange(part, settings)) ? [parallel ? swapped : timesSwapped] : []),
    ...(holds(converted(part, settings, parallel ? 'gains' : 'times')) ? [other] : []),
  ];
  // Where a change of any one setting would do as well, nothing says that this was the mistake.
  const read = compensatorSlips(part, loopModel.plant).filter(({ mend }) => holds(mend(settings)));
  const specific = exchanged.length > 0 && !neighbours(settings).some(holds) ? exchanged : [];
  if (exchanged.length + read.length > 0) return onlyOne<Slip>([...specific, ...read]);
  if (!loop.stable) return undefined;
  const verdict = check({ kind: 'gains', gains: settings });
  const missed = part.nails.filter((nail) => verdict.items.some(({ id, met }) => id === nail.id && !met));
  const fitting: Slip[] = [];
  // An error that stays makes its integrals endless.
  const isEndless = (nail: Nail): boolean =>
    'quantity' in nail &&
    quantities[nail.quantity].source === 'error' &&
    verdict.items.some(({ id, measured }) => id === nail.id && measured === null);
  const rests = missed.filter((nail) => isAboutRest(nail) || isEndless(nail));
  if (lacksIntegral(loop) && rests.length > 0) fitting.push(noIntegral);
  const others = missed.filter((nail) => !rests.includes(nail));
  if (others.length > 0 && others.every((nail) => isPromised(nail, loop) === true)) fitting.push(onlyByRule);
  return fitting.length === 1 ? fitting[0] : undefined;
}

/** What a correct set of gains becomes by the usual slips. */
export function wrongGains(part: GainsPart, model: Model, right: Settings): WrongAnswer[] {
  const answers: [Slip, Settings | undefined][] = [
    [part.controller.form === 'parallel' ? swapped : timesSwapped, exchange(part, right)],
    part.controller.form === 'parallel'
      ? [timesForGains, converted(part, right, 'times')]
      : [gainsForTimes, converted(part, right, 'gains')],
    [noIntegral, withoutIntegral(part, right)],
    ...compensatorSlips(part, loopModelOf(part, model).plant).map((slip): [Slip, Settings | undefined] => [
      slip,
      slip.make(right),
    ]),
  ];
  return answers.flatMap(([{ id, words }, settings]) =>
    settings ? [{ id, words, answer: { kind: 'gains' as const, gains: settings } }] : [],
  );
}

const isSet = ({ controller }: GainsPart, ...names: string[]): boolean => {
  const open = openGains(controller).map(({ name }) => name as string);
  return names.every((name) => open.includes(name));
};

/** Ki and Kd, or Ti and Td, exchanged. */
function exchange(part: GainsPart, settings: Settings): Settings | undefined {
  const pair = part.controller.form === 'parallel' ? (['Ki', 'Kd'] as const) : (['Ti', 'Td'] as const);
  const [one, other] = pair.map((name) => settings[name]);
  if (!isSet(part, ...pair) || one === undefined || other === undefined || one === other) return undefined;
  return { ...settings, [pair[0]]: other, [pair[1]]: one };
}

/** One setting at a time at half, two thirds, three halves and double. */
function neighbours(settings: Settings): Settings[] {
  return Object.entries(settings).flatMap(([name, text]) => {
    const value = numberIn(text);
    if (!Number.isFinite(value) || value === 0) return [];
    return [0.5, 2 / 3, 1.5, 2].map((factor) => ({ ...settings, [name]: String(value * factor) }));
  });
}

/** Times as gains, Ki = Kp/Ti and Kd = Kp·Td, or gains as times, whatever names they stand under. */
function converted({ controller }: GainsPart, settings: Settings, to: 'gains' | 'times'): Settings | undefined {
  const open = openGains(controller).map(({ name }) => name);
  const numbers = new Map(open.map((name) => [name, numberIn(settings[name])]));
  const Kp = numbers.get('Kp');
  // A derivative alone is taken for another too easily: only a set with an integral part tells the forms apart.
  if (
    !isPid(controller) ||
    !Kp ||
    !(numbers.has('Ki') || numbers.has('Ti')) ||
    open.length < gainsOf(controller).length
  )
    return undefined;
  const numbersThere = [...numbers].map(([name, value]): [string, number] => {
    if (name === 'Ki' || name === 'Ti') return [name, Kp / value];
    if (name === 'Kd' || name === 'Td') return [name, to === 'gains' ? Kp * value : value / Kp];
    return [name, value];
  });
  if (numbersThere.some(([, value]) => !Number.isFinite(value))) return undefined;
  return Object.fromEntries(numbersThere.map(([name, value]) => [name, String(Number(value.toPrecision(6)))]));
}

function withoutIntegral(part: GainsPart, settings: Settings): Settings | undefined {
  return isSet(part, 'Ki') ? { ...settings, Ki: '0' } : undefined;
}

const aboutRest: ReadonlySet<string> = new Set(['stepError', 'rampError', 'parabolaError', 'finalValue']);
const isAboutRest = (nail: GainsPart['nails'][number]): boolean => 'quantity' in nail && aboutRest.has(nail.quantity);
const lacksIntegral = (loop: ControlLoop): boolean => loop.steadyState.type === 0;
