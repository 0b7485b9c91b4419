import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Verdict } from '../checking/verdict.js';
import { Answer } from '../exercise/parts.js';
import { FigureMeasures, Samples } from '../exercise/seen.js';
import { closed } from './common.js';
import { Bench } from './messages.js';

/** Messages about what helps a student on: hints, the working, practice with other numbers. */

const partId = Type.String({ maxLength: 32 });

export const WorkingStepMessage = Type.Object(
  { words: Type.String(), latex: Type.String({ description: 'Empty where the words say all.' }) },
  closed,
);
export const Working = Type.Array(WorkingStepMessage);
export type Working = Static<typeof Working>;

export const HintAsked = Type.Object(
  { partId, number: Type.Integer({ minimum: 1, maximum: 3, description: 'Which of them, counted from 1.' }) },
  closed,
);
export type HintAsked = Static<typeof HintAsked>;
export const HintsTold = Type.Object({ partId: Type.String(), texts: Type.Array(Type.String()) }, closed);
export type HintsTold = Static<typeof HintsTold>;

export const PracticeTally = Type.Object(
  {
    done: Type.Integer(),
    right: Type.Integer(),
    slips: Type.Array(
      Type.Object(
        {
          words: Type.String(),
          times: Type.Integer(),
          shed: Type.Boolean({ description: 'Not made in the last two answers, which were right.' }),
        },
        closed,
      ),
    ),
  },
  { ...closed, description: 'What the student made of a part so far, hand-ins and practice together.' },
);
export type PracticeTally = Static<typeof PracticeTally>;

export const PracticeAsked = Type.Object({ partId }, closed);
export type PracticeAsked = Static<typeof PracticeAsked>;
export const Practice = Type.Object(
  {
    seed: Type.String({ description: 'Names the numbers; it comes back with the answer.' }),
    bench: Bench,
    tally: PracticeTally,
  },
  closed,
);
export type Practice = Static<typeof Practice>;

export const PracticeAnswer = Type.Object(
  { seed: Type.String({ pattern: '^[A-Za-z0-9_-]{16,64}$' }), partId, answer: Answer },
  closed,
);
export type PracticeAnswer = Static<typeof PracticeAnswer>;
export const PracticeResult = Type.Object(
  {
    verdict: Verdict,
    solution: Type.Optional(Bench.properties.solutions.items),
    working: Working,
    revealed: Type.Array(Samples),
    measured: FigureMeasures,
    tally: PracticeTally,
  },
  closed,
);
export type PracticeResult = Static<typeof PracticeResult>;
