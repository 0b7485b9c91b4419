import type { Static } from 'typebox';
import * as Type from 'typebox';

/** What an exercise gives: parameters, systems, inputs, measured data, pictures. */

export const closed = { additionalProperties: false };
export const text = (maxLength: number, minLength = 0) => Type.String({ minLength, maxLength });
export const formula = Type.String({
  minLength: 1,
  maxLength: 2000,
  description: 'A formula: an expression in s, the parameters and the systems, with the functions of docs/formulas.md.',
});
export const id = Type.String({ pattern: '^[a-z][a-z0-9-]{0,31}$' });
export const finite = Type.Number({ minimum: -1e12, maximum: 1e12 });
export const symbol = Type.String({ pattern: '^[A-Za-zα-ωΑ-Ω][A-Za-z0-9_α-ωΑ-Ω]{0,15}$' });
const seconds = Type.Number({ minimum: 0, maximum: 1e6 });

export const Parameter = Type.Object(
  {
    symbol,
    meaning: text(80),
    unit: text(20),
    hidden: Type.Optional(
      Type.Boolean({ description: 'Students are not told the value, and cannot use the letter in answers.' }),
    ),
    draw: Type.Union([
      Type.Object({ kind: Type.Literal('fixed'), value: finite }, closed),
      Type.Object({ kind: Type.Literal('range'), from: finite, to: finite, step: finite }, closed),
      Type.Object({ kind: Type.Literal('list'), values: Type.Array(finite, { minItems: 1, maxItems: 100 }) }, closed),
    ]),
  },
  closed,
);
export type Parameter = Static<typeof Parameter>;

const coefficients = Type.Array(formula, { minItems: 1, maxItems: 41, description: 'Highest power of s first.' });
const places = Type.Array(Type.Object({ re: formula, im: Type.Optional(formula) }, closed), {
  maxItems: 20,
  description: 'With `im`, the conjugate is there too.',
});
const matrix = Type.Array(Type.Array(formula, { minItems: 1, maxItems: 12 }), { minItems: 1, maxItems: 12 });

/** A system in one of the forms in which people write it down. */
export const SystemForm = Type.Union([
  Type.Object({ kind: Type.Literal('expression'), text: formula }, closed),
  Type.Object(
    {
      kind: Type.Literal('coefficients'),
      numerator: coefficients,
      denominator: coefficients,
      deadTime: Type.Optional(formula),
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('zerosPoles'), gain: formula, zeros: places, poles: places }, closed),
  Type.Object(
    {
      kind: Type.Literal('secondOrder'),
      gain: formula,
      dampingRatio: formula,
      naturalFrequency: Type.Optional(formula),
      timeConstant: Type.Optional(formula),
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('states'), a: matrix, b: matrix, c: matrix, d: matrix }, closed),
  Type.Object(
    {
      kind: Type.Literal('equations'),
      text: text(4000, 1),
      from: symbol,
      to: symbol,
    },
    closed,
  ),
]);
export type SystemForm = Static<typeof SystemForm>;

export const NamedSystem = Type.Object(
  {
    ...{ name: symbol, meaning: text(80), form: SystemForm },
    open: Type.Optional(Type.Boolean({ description: 'Students may take it to the open bench, with their numbers.' })),
  },
  closed,
);
export type NamedSystem = Static<typeof NamedSystem>;

/** Measured values at rising times, from a table. */
export const Series = Type.Object(
  {
    id,
    name: text(60, 1),
    times: Type.Array(seconds, { minItems: 2, maxItems: 2000 }),
    values: Type.Array(finite, { minItems: 2, maxItems: 2000 }),
  },
  closed,
);
export type Series = Static<typeof Series>;

/** A picture, put into words by `![what it shows](picture:id)`. */
export const Picture = Type.Object(
  {
    id,
    type: Type.Enum(['image/png', 'image/jpeg', 'image/svg+xml', 'image/webp']),
    base64: Type.String({ maxLength: 400_000, pattern: '^[A-Za-z0-9+/]*={0,2}$' }),
  },
  closed,
);
export type Picture = Static<typeof Picture>;

/** What drives a system on a bench; times in seconds. */
export const InputSignal = Type.Union([
  Type.Object({ kind: Type.Literal('levels'), from: finite, to: finite, at: seconds }, closed),
  Type.Object(
    {
      kind: Type.Union([Type.Literal('ramp'), Type.Literal('impulse'), Type.Literal('parabola')]),
      amplitude: finite,
      at: seconds,
    },
    closed,
  ),
  Type.Object({ kind: Type.Literal('series'), series: id }, closed),
  Type.Object(
    {
      kind: Type.Literal('initial'),
      values: Type.Array(finite, { minItems: 1, maxItems: 20, description: 'y, y′, … at t = 0.' }),
    },
    closed,
  ),
]);
export type InputSignal = Static<typeof InputSignal>;
