import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, symbol } from '../../exercise/given.js';
import { heading, ofDiagram, points } from '../../exercise/heading.js';
import { seenEquations, seenHeading } from '../../exercise/seen.js';

/** The gains of loops, of forward paths, or both, in any order. */
export const PathsPart = Type.Object(
  {
    ...heading,
    ...ofDiagram,
    kind: Type.Literal('paths'),
    points,
    from: symbol,
    to: symbol,
    list: Type.Enum(['loops', 'forward']),
  },
  closed,
);
export type PathsPart = Static<typeof PathsPart>;

/** The answer to it. */
export const PathsAnswer = Type.Object({ kind: Type.Literal('paths'), text: answerText }, closed);
export type PathsAnswer = Static<typeof PathsAnswer>;

/** What its student sees. */
export const SeenPaths = Type.Object({ ...PathsPart.properties, ...seenHeading, equations: seenEquations }, closed);
export type SeenPaths = Static<typeof SeenPaths>;
