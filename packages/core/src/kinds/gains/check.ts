import type { Model } from '../../checking/model.js';
import { checkNails } from '../../checking/nails.js';
import { namedNumbers } from '../../checking/namedNumbers.js';
import type { Verdict, VerdictItem } from '../../checking/verdict.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatPoint, listOf } from '../../checking/words.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { openGains, refuseOutside } from '../../loop/controller.js';
import type { ControlLoop } from '../../loop/controlLoop.js';
import { LoopModel } from '../../loop/model.js';
import type { Checking } from '../kind.js';
import type { GainsPart } from './part.js';

/** Every nail of a part against a loop. */
export function nailsOf({ nails }: Pick<GainsPart, 'nails'>, model: LoopModel, loop: ControlLoop): VerdictItem[] {
  return checkNails(nails, {
    stable: loop.stable,
    subject: (signal, input) => model.subject(loop, signal, input),
    output: () => model.output(loop),
  });
}

/** The verdict on a loop: its nails, and in words what is left. */
export function checkLoop(part: Pick<GainsPart, 'nails' | 'marking'>, model: LoopModel, loop: ControlLoop): Verdict {
  const items = nailsOf(part, model, loop);
  const allOrNothing = part.marking === 'allOrNothing';
  if (!loop.stable) return verdictOf(items, unstableWords(loop), {}, allOrNothing);
  const missed = items.filter((item) => !item.met);
  if (missed.length === 0) {
    return verdictOf(items, items.length === 1 ? 'The nail holds.' : `All ${items.length} nails hold.`);
  }
  const count = `${items.length - missed.length} of ${items.length} nails hold.`;
  return verdictOf(items, `${count} ${must(missed[0]).words}`, {}, allOrNothing);
}

function unstableWords(loop: ControlLoop): string {
  if (loop.hasDeadTime) return 'The loop is unstable. No nail can hold.';
  const growing = loop.modes.filter((mode) => mode.im >= 0 && mode.re >= -1e-12 * mode.naturalFrequency);
  const cause = must(loop.subject().system).stable ? loop.hiddenCause : null;
  const hidden = cause ? `, hidden because ${cause}` : '';
  return `The loop is unstable: pole at ${listOf(growing.map(formatPoint))}${hidden}. No nail can hold.`;
}

const loopModels = new WeakMap<Model, WeakMap<GainsPart, LoopModel>>();

/** The loop of a part with one student's numbers, worked out once. @throws Problem when it cannot be worked out. */
export function loopModelOf(part: GainsPart, model: Model): LoopModel {
  const ofParts = loopModels.get(model) ?? new WeakMap<GainsPart, LoopModel>();
  loopModels.set(model, ofParts);
  const loopModel = ofParts.get(part) ?? new LoopModel(part, model.scope, model.series);
  ofParts.set(part, loopModel);
  return loopModel;
}

export const checking: Checking<'gains'> = {
  fromText(part, text) {
    const names = openGains(part.controller).map(({ name }) => name);
    return { kind: 'gains', gains: namedNumbers(names, text) };
  },
  read(part, model, answer) {
    const open = openGains(part.controller).map(({ name }) => name as string);
    const other = Object.keys(answer.gains).find((name) => !open.includes(name));
    if (other) throw new Problem('exercise', `There is no gain ${other} to set here.`);
    refuseOutside(openGains(part.controller), answer.gains);
    loopModelOf(part, model).loopWith(answer.gains);
  },
  check(part, model, answer) {
    const loop = loopModelOf(part, model);
    return checkLoop(part, loop, loop.loopWith(answer.gains));
  },
  solution: () => null,
};
