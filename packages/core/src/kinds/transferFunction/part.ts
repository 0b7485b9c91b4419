import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, formula } from '../../exercise/given.js';
import { heading, points, tolerancePercent } from '../../exercise/heading.js';
import { seenHeading } from '../../exercise/seen.js';

export const TransferFunctionPart = Type.Object(
  { ...heading, kind: Type.Literal('transferFunction'), points, expected: formula, tolerancePercent },
  closed,
);
export type TransferFunctionPart = Static<typeof TransferFunctionPart>;

/** The answer to it. */
export const TransferFunctionAnswer = Type.Object({ kind: Type.Literal('transferFunction'), text: answerText }, closed);
export type TransferFunctionAnswer = Static<typeof TransferFunctionAnswer>;

/** What its student sees. */
export const SeenTransferFunction = Type.Object(
  { ...seenHeading, kind: TransferFunctionPart.properties.kind, tolerancePercent: Type.Number() },
  closed,
);
export type SeenTransferFunction = Static<typeof SeenTransferFunction>;
