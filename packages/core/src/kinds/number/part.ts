import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, formula, symbol, text } from '../../exercise/given.js';
import { heading, points, tolerancePercent } from '../../exercise/heading.js';
import { seenHeading } from '../../exercise/seen.js';

export const NumberPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('number'),
    points,
    formula,
    unit: text(12),
    tolerancePercent,
    toleranceAbsolute: Type.Optional(Type.Number({ minimum: 0, maximum: 1e9 })),
    condition: Type.Optional(
      Type.Object(
        { symbol, holds: text(500, 1) },
        { ...closed, description: 'Any value counts with which this holds, its letter being the symbol.' },
      ),
    ),
  },
  closed,
);
export type NumberPart = Static<typeof NumberPart>;

/** The answer to it. */
export const NumberAnswer = Type.Object({ kind: Type.Literal('number'), text: answerText }, closed);
export type NumberAnswer = Static<typeof NumberAnswer>;

/** What its student sees. */
export const SeenNumber = Type.Object(
  {
    ...seenHeading,
    kind: NumberPart.properties.kind,
    unit: Type.String(),
    tolerancePercent: Type.Number(),
    toleranceAbsolute: Type.Optional(Type.Number()),
    quantity: Type.Optional(Type.String({ description: 'Whose definition is shown.' })),
  },
  closed,
);
export type SeenNumber = Static<typeof SeenNumber>;
