import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed, formula, id, symbol, text } from '../../exercise/given.js';
import { heading, marking, points } from '../../exercise/heading.js';
import { plotKinds } from '../../exercise/names.js';
import { seenHeading } from '../../exercise/seen.js';

export const ChoicePart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('choice'),
    points,
    several: Type.Boolean({ description: 'Whether several options can be right.' }),
    attempts: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 50, description: 'Tries for this part; one unless given.' }),
    ),
    options: Type.Array(
      Type.Object(
        {
          id,
          text: text(400, 1),
          right: Type.Union(
            [Type.Boolean(), text(500, 1), Type.Object({ equal: Type.Tuple([symbol, symbol]) }, closed)],
            {
              description:
                'Yes, no, a condition on the student’s numbers, or two systems in signal equations: right when their transfer functions are equal.',
            },
          ),
          remark: Type.Optional(text(400)),
          plot: Type.Optional(
            Type.Object(
              { kind: Type.Enum([...plotKinds]), system: formula },
              { ...closed, description: 'A plot of a system, to be recognised; the locus and Nyquist plot of a loop.' },
            ),
          ),
        },
        closed,
      ),
      { minItems: 2, maxItems: 8 },
    ),
    marking,
  },
  closed,
);
export type ChoicePart = Static<typeof ChoicePart>;

const numbers = Type.Array(Type.Number());

/** A small plot to be recognised: lines and marks, and nothing of the system behind them. */
export const ShownPlot = Type.Object(
  {
    kind: Type.Enum([...plotKinds]),
    lines: Type.Array(Type.Object({ x: numbers, y: numbers }, closed), {
      description: 'Time and output; real and imaginary parts; rad/s and decibels, then rad/s and degrees.',
    }),
    marks: Type.Array(Type.Object({ what: Type.Enum(['pole', 'zero']), x: Type.Number(), y: Type.Number() }, closed)),
  },
  closed,
);
export type ShownPlot = Static<typeof ShownPlot>;

/** The answer to it. */
export const ChoiceAnswer = Type.Object(
  { kind: Type.Literal('choice'), chosen: Type.Array(Type.String({ maxLength: 32 }), { maxItems: 8 }) },
  closed,
);
export type ChoiceAnswer = Static<typeof ChoiceAnswer>;

/** What its student sees. */
export const SeenChoice = Type.Object(
  {
    ...seenHeading,
    kind: ChoicePart.properties.kind,
    several: ChoicePart.properties.several,
    options: Type.Array(
      Type.Object({ id: Type.String(), text: Type.String(), plot: Type.Optional(ShownPlot) }, closed),
    ),
  },
  closed,
);
export type SeenChoice = Static<typeof SeenChoice>;
