import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed, NamedSystem, Parameter, Picture, Series, text } from './given.js';
import { Part } from './parts.js';

/** How long after the due date answers are taken, and what is kept of their points. */
export const LateRule = Type.Object(
  {
    hours: Type.Number({ exclusiveMinimum: 0, maximum: 8760 }),
    keepPercent: Type.Number({ minimum: 0, maximum: 100 }),
  },
  { ...closed, description: 'How long after the due date answers are taken, and what is kept of their points.' },
);
export type LateRule = Static<typeof LateRule>;

/** The exercise document: one JSON Schema with its TypeScript type. A published document never changes. */
export const ExerciseDocument = Type.Object(
  {
    format: Type.Literal(2),
    title: text(120, 1),
    statement: text(8000),
    parameters: Type.Array(Parameter, { maxItems: 12 }),
    systems: Type.Array(NamedSystem, { maxItems: 8 }),
    guards: Type.Array(text(500, 1), { maxItems: 12, description: 'Conditions that every draw must meet.' }),
    series: Type.Array(Series, { maxItems: 4 }),
    pictures: Type.Array(Picture, { maxItems: 4 }),
    parts: Type.Array(Part, { minItems: 1, maxItems: 26 }),
    attempts: Type.Integer({ minimum: 1, maximum: 50 }),
    verdict: Type.Union([Type.Literal('atOnce'), Type.Literal('afterDue')]),
    shows: Type.Object(
      { measured: Type.Boolean(), slip: Type.Boolean() },
      { ...closed, description: 'What a verdict tells beside held or missed.' },
    ),
    solution: Type.Union([Type.Literal('onceDone'), Type.Literal('afterDue'), Type.Literal('never')]),
    late: Type.Union([Type.Null(), LateRule]),
    practice: Type.Optional(
      Type.Enum(['always', 'afterwards', 'never'], {
        description: 'Other numbers, ungraded; unless given, of parts that are solved, spent or closed.',
      }),
    ),
    layout: Type.Optional(
      Type.Enum(['together', 'single'], {
        description: 'Small parts on one sheet, unless given, or every part on its own.',
      }),
    ),
  },
  closed,
);
export type ExerciseDocument = Static<typeof ExerciseDocument>;

/** One student's numbers: symbol → exact decimal. */
export const DrawValues = Type.Record(Type.String(), Type.String());
export type DrawValues = Static<typeof DrawValues>;
