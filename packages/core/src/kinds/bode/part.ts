import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Settings } from '../../exercise/answer.js';
import { closed, finite, formula, text } from '../../exercise/given.js';
import { heading, points } from '../../exercise/heading.js';
import { termGroups } from '../../exercise/names.js';
import { seenHeading } from '../../exercise/seen.js';

const omega = Type.Number({ exclusiveMinimum: 0, maximum: 1e9 });
const degrees = Type.Number({ exclusiveMinimum: 0, maximum: 90 });

/** A measured frequency response: rad/s, rising; decibels; degrees. */
export const FrequencyTable = Type.Object(
  {
    name: text(60, 1),
    omegas: Type.Array(omega, { minItems: 5, maxItems: 500 }),
    magnitudesDb: Type.Array(finite, { minItems: 5, maxItems: 500 }),
    phasesDegrees: Type.Optional(Type.Array(finite, { minItems: 5, maxItems: 500 })),
  },
  closed,
);
export type FrequencyTable = Static<typeof FrequencyTable>;

/** A model put together from terms of unit low-frequency level until it follows a frequency response. */
export const BodePart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('bode'),
    points,
    target: Type.Union([
      FrequencyTable,
      Type.Object({ system: formula, from: omega, to: omega }, { ...closed, description: 'Hidden; drawn in rad/s.' }),
    ]),
    terms: Type.Array(Type.Enum([...termGroups]), {
      uniqueItems: true,
      description: 'What may be added to the level.',
    }),
    misfitDb: Type.Number({ exclusiveMinimum: 0, maximum: 40, description: 'Root mean square, even in log ω.' }),
    misfitDegrees: Type.Optional(degrees),
    refine: Type.Optional(Type.Boolean({ description: 'Whether the student may refine the terms by least squares.' })),
  },
  closed,
);
export type BodePart = Static<typeof BodePart>;

/** The answer to it. */
export const BodeAnswer = Type.Object({ kind: Type.Literal('bode'), terms: Settings }, closed);
export type BodeAnswer = Static<typeof BodeAnswer>;

/** What its student sees. */
export const SeenBode = Type.Object(
  {
    ...seenHeading,
    kind: BodePart.properties.kind,
    terms: BodePart.properties.terms,
    misfitDb: BodePart.properties.misfitDb,
    misfitDegrees: BodePart.properties.misfitDegrees,
    refine: BodePart.properties.refine,
    target: FrequencyTable,
  },
  closed,
);
export type SeenBode = Static<typeof SeenBode>;
