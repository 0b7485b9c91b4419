import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Samples } from '../exercise/seen.js';

const closed = { additionalProperties: false };
const nullable = (of: ReturnType<typeof Type.Number>) => Type.Union([of, Type.Null()]);

/** One nail of a verdict: one specification, or the one comparison of an answer that has no specifications. */
export const VerdictItem = Type.Object(
  {
    id: Type.String(),
    label: Type.String(),
    unit: Type.String(),
    measured: nullable(Type.Number()),
    infinite: Type.Optional(Type.Literal(true, { description: 'What was measured has no end; `measured` is null.' })),
    limit: nullable(Type.Number()),
    relation: Type.Union([Type.Literal('atMost'), Type.Literal('atLeast'), Type.Literal('equal')]),
    met: Type.Boolean(),
    close: Type.Boolean({ description: 'Within 1 % of the limit: a person may want to look.' }),
    points: Type.Number(),
    outOf: Type.Number(),
    words: Type.String(),
  },
  closed,
);
export type VerdictItem = Static<typeof VerdictItem>;

/** A recognised way in which an answer went wrong. */
export const RecognisedSlip = Type.Object(
  {
    id: Type.String(),
    words: Type.String(),
    place: Type.Optional(Type.Array(Type.String(), { description: 'The parts of the diagram that it is about.' })),
  },
  closed,
);
export type RecognisedSlip = Static<typeof RecognisedSlip>;

/** What the check says of one answer; pure: same exercise, values and answer, same verdict. */
export const Verdict = Type.Object(
  {
    checker: Type.String(),
    met: Type.Boolean(),
    points: Type.Number(),
    outOf: Type.Number(),
    words: Type.String(),
    items: Type.Array(VerdictItem),
    slip: Type.Optional(RecognisedSlip),
    responses: Type.Optional(
      Type.Array(Samples, { description: 'What was tried to see whether the answer holds: unit step responses.' }),
    ),
    curveDistance: Type.Optional(
      Type.Number({
        description:
          'Largest distance between the step responses of answer and expected value, as a share of the final value.',
      }),
    ),
  },
  closed,
);
export type Verdict = Static<typeof Verdict>;
