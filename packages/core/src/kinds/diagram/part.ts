import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, id, symbol } from '../../exercise/given.js';
import { heading, marking, ofDiagram, points, tolerancePercent } from '../../exercise/heading.js';
import { seenEquations, seenHeading } from '../../exercise/seen.js';

/** Transfer functions between signals of a diagram, exact, with letters or numbers. */
export const DiagramPart = Type.Object(
  {
    ...heading,
    ...ofDiagram,
    kind: Type.Literal('diagram'),
    asked: Type.Array(Type.Object({ id, from: symbol, to: symbol, points }, closed), { minItems: 1, maxItems: 6 }),
    tolerancePercent,
    marking,
  },
  closed,
);
export type DiagramPart = Static<typeof DiagramPart>;

/** The answer to it. */
export const DiagramAnswer = Type.Object(
  {
    kind: Type.Literal('diagram'),
    texts: Type.Record(Type.String({ maxLength: 32 }), answerText, { maxProperties: 6 }),
  },
  closed,
);
export type DiagramAnswer = Static<typeof DiagramAnswer>;

/** What its student sees. */
export const SeenDiagram = Type.Object({ ...DiagramPart.properties, ...seenHeading, equations: seenEquations }, closed);
export type SeenDiagram = Static<typeof SeenDiagram>;
