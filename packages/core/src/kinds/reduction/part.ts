import type { Static } from 'typebox';
import * as Type from 'typebox';
import { moveKinds } from '../../diagram/moves.js';
import { answerText } from '../../exercise/answer.js';
import { closed, symbol } from '../../exercise/given.js';
import { heading, ofDiagram, points } from '../../exercise/heading.js';
import { seenEquations, seenHeading } from '../../exercise/seen.js';

export const ReductionPart = Type.Object(
  {
    ...heading,
    ...ofDiagram,
    kind: Type.Literal('reduction'),
    points,
    from: symbol,
    to: symbol,
    typed: Type.Enum(['no', 'atOnce', 'atHandIn'], {
      description: 'Whether the student types what a step gives, and when it is checked.',
    }),
  },
  closed,
);
export type ReductionPart = Static<typeof ReductionPart>;

/** A move of block diagram algebra by its kind and elements, and what the student says it gives. */
export const ReductionStep = Type.Object(
  {
    kind: Type.Enum([...moveKinds]),
    of: Type.Array(Type.String({ maxLength: 20 }), { minItems: 1, maxItems: 4 }),
    gain: Type.Optional(answerText),
  },
  closed,
);
export type ReductionStep = Static<typeof ReductionStep>;

/** The answer to it. */
export const ReductionAnswer = Type.Object(
  { kind: Type.Literal('reduction'), steps: Type.Array(ReductionStep, { maxItems: 200 }) },
  closed,
);
export type ReductionAnswer = Static<typeof ReductionAnswer>;

/** What its student sees. */
export const SeenReduction = Type.Object(
  { ...ReductionPart.properties, ...seenHeading, equations: seenEquations },
  closed,
);
export type SeenReduction = Static<typeof SeenReduction>;
