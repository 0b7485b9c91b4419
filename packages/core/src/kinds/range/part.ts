import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, formula } from '../../exercise/given.js';
import { heading, marking, points, tolerancePercent } from '../../exercise/heading.js';
import { seenHeading } from '../../exercise/seen.js';

/** All gains with which a loop is stable, in ranges. */
export const RangePart = Type.Object(
  { ...heading, kind: Type.Literal('range'), points, of: formula, tolerancePercent, marking },
  closed,
);
export type RangePart = Static<typeof RangePart>;

/** The answer to it. */
export const RangeAnswer = Type.Object({ kind: Type.Literal('range'), text: answerText }, closed);
export type RangeAnswer = Static<typeof RangeAnswer>;

/** What its student sees. */
export const SeenRange = Type.Object(
  { ...seenHeading, kind: RangePart.properties.kind, tolerancePercent: Type.Number() },
  closed,
);
export type SeenRange = Static<typeof SeenRange>;
