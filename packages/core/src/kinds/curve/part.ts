import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Settings } from '../../exercise/answer.js';
import { closed, formula, id, InputSignal, symbol, text } from '../../exercise/given.js';
import { heading, horizon, ladder, points } from '../../exercise/heading.js';
import { Samples, seenHeading } from '../../exercise/seen.js';

export const CurvePart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('curve'),
    points,
    model: formula,
    knobs: Type.Array(Type.Object({ symbol, unit: text(12), ...ladder }, closed), { minItems: 1, maxItems: 5 }),
    target: Type.Union([Type.Object({ series: id }, closed), Type.Object({ system: formula }, closed)]),
    input: Type.Optional(InputSignal),
    output: text(60, 1),
    horizon,
    misfitPercent: Type.Number({ exclusiveMinimum: 0, maximum: 50 }),
  },
  closed,
);
export type CurvePart = Static<typeof CurvePart>;

/** The answer to it. */
export const CurveAnswer = Type.Object({ kind: Type.Literal('curve'), knobs: Settings }, closed);
export type CurveAnswer = Static<typeof CurveAnswer>;

/** What its student sees. */
export const SeenCurve = Type.Object(
  {
    ...seenHeading,
    kind: CurvePart.properties.kind,
    model: CurvePart.properties.model,
    knobs: CurvePart.properties.knobs,
    known: Type.Record(Type.String(), Type.String(), { description: 'What the other names of the model stand for.' }),
    input: CurvePart.properties.input,
    target: Samples,
    output: Type.String(),
    horizon: Type.Number(),
    misfitPercent: Type.Number(),
  },
  closed,
);
export type SeenCurve = Static<typeof SeenCurve>;
