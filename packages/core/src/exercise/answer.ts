import { moveKinds } from '../diagram/moves.js';
import Type, { type Static } from 'typebox';
import { closed } from './given.js';
import { trends } from './trends.js';

/** What students hand in, kind by kind. */

const answerText = Type.String({ maxLength: 2000 });
const typed = Type.String({ maxLength: 60 });
const key = '^[A-Za-zα-ωΑ-Ω][A-Za-z0-9_α-ωΑ-Ω]{0,15}$';

/** Numbers as typed, by the name of a gain or of a parameter. */
export const Settings = Type.Record(Type.String({ pattern: key }), typed, { maxProperties: 16, ...closed });
export type Settings = Static<typeof Settings>;

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

export const Answer = Type.Union([
  Type.Object({ kind: Type.Literal('transferFunction'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('number'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('points'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('range'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('gains'), gains: Settings }, closed),
  Type.Object(
    { kind: Type.Literal('choice'), chosen: Type.Array(Type.String({ maxLength: 32 }), { maxItems: 8 }) },
    closed,
  ),
  Type.Object(
    {
      kind: Type.Literal('trend'),
      cells: Type.Record(Type.String({ maxLength: 70 }), Type.Enum([...trends]), {
        maxProperties: 24,
        description: 'By `row/change`.',
      }),
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('curve'), knobs: Settings }, closed),
  Type.Object({ kind: Type.Literal('bode'), terms: Settings }, closed),
  Type.Object(
    {
      kind: Type.Literal('diagram'),
      texts: Type.Record(Type.String({ maxLength: 32 }), answerText, { maxProperties: 6 }),
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('reduction'), steps: Type.Array(ReductionStep, { maxItems: 200 }) }, closed),
  Type.Object({ kind: Type.Literal('paths'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('states'), a: answerText, b: answerText, c: answerText, d: answerText }, closed),
]);
export type Answer = Static<typeof Answer>;

/** One stop on the trail: settings held for a moment, in order of time; a name and a pin as the student set them. */
export const Trail = Type.Array(
  Type.Object(
    {
      gains: Settings,
      holding: Type.Integer({ minimum: 0 }),
      name: Type.Optional(Type.String({ maxLength: 30 })),
      pinned: Type.Optional(Type.Boolean()),
    },
    closed,
  ),
  { maxItems: 200 },
);
export type Trail = Static<typeof Trail>;
