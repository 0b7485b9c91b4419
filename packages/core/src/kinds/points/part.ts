import type { Static } from 'typebox';
import * as Type from 'typebox';
import { answerText } from '../../exercise/answer.js';
import { closed, formula } from '../../exercise/given.js';
import { heading, marking, points, tolerancePercent } from '../../exercise/heading.js';
import { pointSets } from '../../exercise/names.js';
import { seenHeading } from '../../exercise/seen.js';

/** Points of the s-plane, marked or typed: those of a system or of its root locus, or any that lie on the locus. */
export const PointsPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('points'),
    points,
    of: formula,
    what: Type.Enum([...pointSets], {
      description:
        'Poles or zeros of the system; real break points or axis crossings of its locus; a point in each stretch of the real axis on it; where its asymptotes meet, then a point on each; points on the locus.',
    }),
    tolerancePercent,
    count: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 20, description: 'How many points on the locus are asked for.' }),
    ),
    toleranceDegrees: Type.Optional(
      Type.Number({ exclusiveMinimum: 0, maximum: 45, description: 'Of the angle condition, or of asymptotes.' }),
    ),
    offAxis: Type.Optional(Type.Boolean({ description: 'Points on the locus count only off the real axis.' })),
    marking,
  },
  closed,
);
export type PointsPart = Static<typeof PointsPart>;

/** The answer to it. */
export const PointsAnswer = Type.Object({ kind: Type.Literal('points'), text: answerText }, closed);
export type PointsAnswer = Static<typeof PointsAnswer>;

/** What its student sees. */
export const SeenPoints = Type.Object(
  {
    ...seenHeading,
    kind: PointsPart.properties.kind,
    what: PointsPart.properties.what,
    tolerancePercent: Type.Number(),
    count: PointsPart.properties.count,
    toleranceDegrees: PointsPart.properties.toleranceDegrees,
    offAxis: PointsPart.properties.offAxis,
    loop: Type.Optional(
      Type.String({ description: 'The open loop, where its poles and zeros are not what is asked.' }),
    ),
  },
  closed,
);
export type SeenPoints = Static<typeof SeenPoints>;
