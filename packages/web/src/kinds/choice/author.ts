import type { AuthorKind } from '../kind';
import { ChoiceEditor } from './ChoiceEditor';

export const choice: AuthorKind<'choice'> = {
  name: 'choice',
  id: 'choice',
  Editor: ChoiceEditor,
  fresh: ({ system }) => ({
    title: 'Choose',
    prompt: 'Is this system stable?',
    points: 1,
    several: false,
    options: [
      { id: 'a', text: 'It is stable.', right: `stable(${system})` },
      { id: 'b', text: 'It is not.', right: `stable(${system}) < 1` },
    ],
  }),
  // A prediction is a choice whose curves come after the answer.
  variants: [
    {
      name: 'prediction',
      id: 'predict',
      fresh: ({ system }) => ({
        title: 'Predict',
        prompt: 'Say first what the step response will do.',
        points: 1,
        several: false,
        options: [
          { id: 'a', text: 'It swings beyond its final value.', right: `overshootPercent(${system}) > 1` },
          { id: 'b', text: 'It does not.', right: `overshootPercent(${system}) <= 1` },
        ],
        figure: { horizon: 5, curves: [{ label: 'response', system, afterwards: true }] },
      }),
    },
  ],
  hasFigure: true,
  aboutDiagram: false,
};
