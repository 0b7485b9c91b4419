import { Problem } from '../../expression/problem.js';
import type { Answer, DrawValues, GainsPart } from '../../exercise/document.js';
import { bindingsOf } from '../../exercise/draw.js';
import { type Bindings, type Fraction, fractionOf } from '../../rational/fraction.js';
import { rationalFromDecimal } from '../../rational/number.js';
import { type ControllerForm, type Gain, type Gains, controllerOf, gainsOfForm } from '../../system/controller.js';
import { type Loop, closeLoop, closedFraction, modesOf } from '../../system/loop.js';
import { measuresOf } from '../../response/measures.js';
import { checkNails } from '../nails.js';
import type { Verdict } from '../verdict.js';
import { verdictOf } from '../verdictOf.js';
import { formatPoint, listOf } from '../words.js';
import type { AnswerKind } from './kind.js';

type GainsAnswer = Extract<Answer, { kind: 'gains' }>;
type GainTexts = GainsAnswer['gains'];

/**
 * Gains as exact numbers; those that the form does not have must not be given.
 * @throws Problem `notANumber` for a gain that is missing or not a decimal number.
 */
export function gainsFromText(form: ControllerForm, texts: GainTexts): Gains {
  const gains: Gains = {};
  for (const gain of gainsOfForm[form]) {
    const text = (texts[gain] ?? '').trim().replace('−', '-');
    if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,2})?$/i.test(text) || text.length > 40) {
      throw new Problem('notANumber', text ? `${gain} must be a number; “${text}” is not.` : `${gain} is empty.`);
    }
    gains[gain] = rationalFromDecimal(text);
  }
  return gains;
}

/** The loop that a gains part describes, for given gains. @throws Problem when plant or gains cannot be used. */
export function loopOf(plant: string | Fraction, bindings: Bindings, form: ControllerForm, texts: GainTexts): Loop {
  const fraction = typeof plant === 'string' ? fractionOf(plant, bindings) : plant;
  return closeLoop(controllerOf(gainsFromText(form, texts)), fraction);
}

/** The verdict on a loop: its nails, and in words what is left. */
export function checkLoop(part: Pick<GainsPart, 'nails'>, loop: Loop, measures = measuresOf(loop.closed)): Verdict {
  const judged = loop.stable ? measures : { ...measures, stable: false };
  const items = checkNails(part.nails, judged);
  if (!loop.stable) {
    const growing = modesOf(loop).filter((mode) => mode.im >= 0 && mode.re >= -1e-12 * mode.naturalFrequency);
    const hidden = loop.closed.stable ? ', hidden because the controller cancels it' : '';
    const where = listOf(growing.map(formatPoint));
    return verdictOf(items, `The loop is unstable: pole at ${where}${hidden}. No nail can hold.`);
  }
  const missed = items.filter((item) => !item.met);
  if (missed.length === 0)
    return verdictOf(items, items.length === 1 ? 'The nail holds.' : `All ${items.length} nails hold.`);
  const count = `${items.length - missed.length} of ${items.length} nails hold.`;
  return verdictOf(items, `${count} ${missed[0]!.words}`);
}

/** Gains by name, as in “Kp = 14, Ki = 5” in any order, or bare numbers in the order of the form. */
function namedGains(form: ControllerForm, text: string): GainTexts {
  const names = gainsOfForm[form];
  const pieces = text.split(/[,;\s]+(?=[A-Za-z+\-−.\d])/).filter((piece) => piece.trim() !== '');
  const texts: Partial<Record<Gain, string>> = {};
  pieces
    .join(' ')
    .replace(/\s*[=:]\s*/g, '=')
    .split(' ')
    .filter(Boolean)
    .forEach((piece, k) => {
      const [name, value] = piece.includes('=') ? (piece.split('=') as [string, string]) : [names[k] ?? '', piece];
      const gain = names.find((known) => known.toLowerCase() === name.trim().toLowerCase());
      if (!gain || texts[gain] !== undefined) {
        throw new Problem(
          'notANumber',
          `“${piece}” is not one of the gains ${names.join(', ')}, as in ${names[0]} = 14.`,
        );
      }
      texts[gain] = value;
    });
  return { ...texts, Kp: texts.Kp ?? '' };
}

export const gains: AnswerKind<'gains'> = {
  kind: 'gains',
  fromText: (part, text) => ({ kind: 'gains', gains: namedGains(part.form, text) }),
  read(part, values, answer) {
    closedFraction(controllerOf(gainsFromText(part.form, answer.gains)), fractionOf(part.plant, bindingsOf(values)));
  },
  check(part, values: DrawValues, answer) {
    return checkLoop(part, loopOf(part.plant, bindingsOf(values), part.form, answer.gains));
  },
  solution: () => null,
};
