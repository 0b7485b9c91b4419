import Type, { type Static } from 'typebox';
import { quantityNames } from './quantityNames.js';

/** The exercise document: one JSON Schema with its TypeScript type. A published document never changes. */

const closed = { additionalProperties: false };
const text = (maxLength: number, minLength = 0) => Type.String({ minLength, maxLength });
const expression = Type.String({
  minLength: 1,
  maxLength: 2000,
  description: 'An expression in s and the parameters.',
});
const id = Type.String({ pattern: '^[a-z][a-z0-9-]{0,31}$' });
const finite = Type.Number({ minimum: -1e12, maximum: 1e12 });
const points = Type.Number({ minimum: 0, maximum: 100 });

const quantityName = Type.Enum([...quantityNames]);

export const Parameter = Type.Object(
  {
    symbol: Type.String({ pattern: '^[A-Za-zα-ωΑ-Ω][A-Za-z0-9_α-ωΑ-Ω]{0,15}$' }),
    meaning: text(80),
    unit: text(20),
    draw: Type.Union([
      Type.Object({ kind: Type.Literal('fixed'), value: finite }, closed),
      Type.Object({ kind: Type.Literal('range'), from: finite, to: finite, step: finite }, closed),
      Type.Object({ kind: Type.Literal('list'), values: Type.Array(finite, { minItems: 1, maxItems: 100 }) }, closed),
    ]),
  },
  closed,
);
export type Parameter = Static<typeof Parameter>;

export const Nail = Type.Object(
  {
    id,
    quantity: quantityName,
    relation: Type.Union([Type.Literal('atMost'), Type.Literal('atLeast')]),
    limit: finite,
    points,
  },
  closed,
);
export type Nail = Static<typeof Nail>;

const heading = { id, title: text(60, 1), prompt: text(2000) };
const tolerancePercent = Type.Number({ minimum: 0, maximum: 20 });

export const TransferFunctionPart = Type.Object(
  { ...heading, kind: Type.Literal('transferFunction'), points, expected: expression, tolerancePercent },
  closed,
);
export type TransferFunctionPart = Static<typeof TransferFunctionPart>;

export const NumberPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('number'),
    points,
    quantity: quantityName,
    system: expression,
    tolerancePercent,
  },
  closed,
);
export type NumberPart = Static<typeof NumberPart>;

const rung = Type.Object(
  {
    fine: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
    coarse: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
  },
  closed,
);
const perGain = <T extends Parameters<typeof Type.Optional>[0]>(of: T) =>
  Type.Object({ Kp: of, Ki: Type.Optional(of), Kd: Type.Optional(of) }, closed);

export const GainsPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('gains'),
    plant: expression,
    form: Type.Union([Type.Literal('P'), Type.Literal('PI'), Type.Literal('PD'), Type.Literal('PID')]),
    output: text(60, 1),
    start: perGain(finite),
    rungs: perGain(rung),
    horizon: Type.Number({ exclusiveMinimum: 0, maximum: 1e6, description: 'Time shown on the bench, in seconds.' }),
    nails: Type.Array(Nail, { minItems: 1, maxItems: 12 }),
  },
  closed,
);
export type GainsPart = Static<typeof GainsPart>;

export const Part = Type.Union([TransferFunctionPart, NumberPart, GainsPart]);
export type Part = Static<typeof Part>;

export const ExerciseDocument = Type.Object(
  {
    format: Type.Literal(1),
    title: text(120, 1),
    statement: text(8000),
    parameters: Type.Array(Parameter, { maxItems: 12 }),
    parts: Type.Array(Part, { minItems: 1, maxItems: 8 }),
    attempts: Type.Integer({ minimum: 1, maximum: 50 }),
    verdict: Type.Union([Type.Literal('atOnce'), Type.Literal('afterDue')]),
    solution: Type.Union([Type.Literal('onceDone'), Type.Literal('afterDue'), Type.Literal('never')]),
  },
  closed,
);
export type ExerciseDocument = Static<typeof ExerciseDocument>;

/** One student's numbers: symbol → exact decimal. */
export const DrawValues = Type.Record(Type.String(), Type.String());
export type DrawValues = Static<typeof DrawValues>;

const answerText = Type.String({ maxLength: 2000 });
export const Answer = Type.Union([
  Type.Object({ kind: Type.Literal('transferFunction'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('number'), text: answerText }, closed),
  Type.Object({ kind: Type.Literal('gains'), gains: perGain(Type.String({ maxLength: 60 })) }, closed),
]);
export type Answer = Static<typeof Answer>;

/** One stop on the trail: gains held for a moment, as decimals, in order of time. */
export const Trail = Type.Array(
  Type.Object({ gains: perGain(Type.String({ maxLength: 60 })), holding: Type.Integer({ minimum: 0 }) }, closed),
  { maxItems: 200 },
);
export type Trail = Static<typeof Trail>;
