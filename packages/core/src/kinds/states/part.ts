import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, formula } from '../../exercise/given.js';
import { heading, points, tolerancePercent } from '../../exercise/heading.js';
import { seenHeading } from '../../exercise/seen.js';

/** State matrices of a system, accepted up to a change of state variables. */
export const StatesPart = Type.Object(
  { ...heading, kind: Type.Literal('states'), points, expected: formula, tolerancePercent },
  closed,
);
export type StatesPart = Static<typeof StatesPart>;

/** The answer to it. */
export const StatesAnswer = Type.Object(
  { kind: Type.Literal('states'), a: answerText, b: answerText, c: answerText, d: answerText },
  closed,
);
export type StatesAnswer = Static<typeof StatesAnswer>;

/** What its student sees. */
export const SeenStates = Type.Object(
  { ...seenHeading, kind: StatesPart.properties.kind, tolerancePercent: Type.Number() },
  closed,
);
export type SeenStates = Static<typeof SeenStates>;
