import { areEqual } from '../../checking/diagrams.js';
import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { listOf } from '../../checking/words.js';
import { insertValues } from '../../exercise/words.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { holds, readCondition } from '../../formula/condition.js';
import type { Checking } from '../kind.js';
import type { ChoicePart } from './part.js';

/** Whether an option is right with these numbers. @throws Problem when that cannot be worked out. */
export function isRight({ right: when }: ChoicePart['options'][number], model: Model): boolean {
  if (typeof when === 'boolean') return when;
  return typeof when === 'string' ? holds(readCondition(when), model.scope) : areEqual(when.equal, model);
}

/** The options that are right with these numbers. @throws Problem as `isRight`. */
export function rightOptions({ options }: Pick<ChoicePart, 'options'>, model: Model): Set<string> {
  return new Set(options.filter((option) => isRight(option, model)).map(({ id }) => id));
}

/** Pictures and diagrams by what they show. */
export const inWords = (text: string): string => text.replace(/!\[([^\]]*)\]\([^)]*\)/g, '$1');

export const checking: Checking<'choice'> = {
  fromText({ options }, text) {
    const named = text
      .split(/[,;]/)
      .map((piece) => piece.trim().toLowerCase())
      .filter(Boolean);
    const chosen = named.map((name) => {
      const option =
        options.find(({ id }) => id === name) ?? (/^[a-h]$/.test(name) ? options[name.charCodeAt(0) - 97] : undefined);
      if (!option) throw new Problem('exercise', `There is no option “${name}”.`);
      return option.id;
    });
    return { kind: 'choice', chosen };
  },
  read({ options, several }, _model, { chosen }) {
    if (chosen.length === 0 && !several) throw new Problem('empty', 'Choose one first.');
    if (chosen.length > 1 && !several) throw new Problem('exercise', 'Only one can be chosen.');
    const unknown = chosen.find((id) => !options.some((option) => option.id === id));
    if (unknown !== undefined) throw new Problem('exercise', `There is no option “${unknown}”.`);
  },
  check(part, model, { chosen }) {
    const { values, scope } = model;
    const right = rightOptions(part, model);
    const marked = part.several ? part.options : part.options.filter(({ id }) => chosen.includes(id));
    const share = part.points / marked.length;
    const items = marked.map(({ id, text, remark }) => {
      const met = right.has(id) === chosen.includes(id);
      const label = inWords(insertValues(text, values, scope));
      const why = remark && !met ? ` ${insertValues(remark, values, scope)}` : '';
      const words = met
        ? 'Right.'
        : `${chosen.includes(id) ? 'Chosen, but not right.' : 'Right, but not chosen.'}${why}`;
      return {
        ...{ id, label, unit: '', measured: null, limit: null, relation: 'equal' as const },
        ...{ met, close: false, points: met ? share : 0, outOf: share, words },
      };
    });
    const missed = items.filter(({ met }) => !met);
    const words =
      missed.length === 0
        ? 'That is right.'
        : part.several
          ? `${items.length - missed.length} of ${items.length} are right.`
          : must(missed[0]).words;
    return verdictOf(items, words, {}, part.marking === 'allOrNothing');
  },
  solution(part, model) {
    const { values, scope } = model;
    const right = rightOptions(part, model);
    const texts = part.options
      .filter(({ id }) => right.has(id))
      .map(({ text }) => inWords(insertValues(text, values, scope)));
    return texts.length === 0 ? 'None of them.' : listOf(texts);
  },
};
