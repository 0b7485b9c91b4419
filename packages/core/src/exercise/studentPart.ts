import Type, { type Static } from 'typebox';
import { GainsPart } from './document.js';

const closed = { additionalProperties: false };
const heading = { id: Type.String(), title: Type.String(), prompt: Type.String(), points: Type.Number() };

/** A part as its student may see it: nothing that is expected, what is given with the student's own numbers. */
export const StudentPart = Type.Union([
  Type.Object({ ...heading, kind: Type.Literal('transferFunction'), tolerancePercent: Type.Number() }, closed),
  Type.Object(
    {
      ...heading,
      kind: Type.Literal('number'),
      quantity: Type.String(),
      tolerancePercent: Type.Number(),
    },
    closed,
  ),
  Type.Object({ ...GainsPart.properties, points: Type.Number() }, closed),
]);
export type StudentPart = Static<typeof StudentPart>;
