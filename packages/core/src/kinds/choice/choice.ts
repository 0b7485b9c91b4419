import { insertValues } from '../../exercise/words.js';
import { Problem } from '../../expression/problem.js';
import { type AnswerKind, defaults } from '../kind.js';
import { checking, isRight, rightOptions } from './check.js';
import { shownPlots } from './plot.js';

export const choice: AnswerKind<'choice'> = {
  ...defaults,
  ...checking,
  toText: ({ chosen }) => chosen.join(', '),
  seen({ kind, several, options }, _document, values, scope) {
    const plots = shownPlots(
      options.map(({ plot }) => plot),
      scope,
    );
    return {
      ...{ kind, several },
      options: options.map(({ id, text }, k) => ({
        ...{ id, text: insertValues(text, values, scope) },
        ...(plots[k] ? { plot: plots[k] } : {}),
      })),
    };
  },
  right: (part, model) => ({ kind: part.kind, chosen: [...rightOptions(part, model)] }),
  wrong(part, model) {
    const right = rightOptions(part, model);
    return part.options
      .filter(({ id }) => !right.has(id))
      .map(({ id, text }) => ({ id, words: text, answer: { kind: part.kind, chosen: [id] } }));
  },
  trials: (part, model) => [
    ...part.options.map((option, k) => ({ field: `options/${k}`, run: () => void isRight(option, model) })),
    ...part.options.map(({ plot }, k) => ({ field: `options/${k}`, run: () => void shownPlots([plot], model.scope) })),
    {
      field: 'options',
      run: () => {
        const count = rightOptions(part, model).size;
        if (!part.several && count !== 1) {
          throw new Problem('exercise', `${count === 0 ? 'No option is' : `${count} options are`} right.`);
        }
      },
    },
  ],
  // A choice is made once unless the exercise says otherwise.
  attempts: ({ attempts }) => attempts ?? 1,
  ids: ({ options }) => options.map(({ id }) => id),
  words: ({ options }) => options.map(({ text }) => ({ field: 'options', text })),
};
