import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed, formula, id, symbol, text } from '../../exercise/given.js';
import { heading, marking, points } from '../../exercise/heading.js';
import { seenHeading } from '../../exercise/seen.js';
import { trends } from './trends.js';

export const TrendPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('trend'),
    points,
    changes: Type.Array(
      Type.Object(
        { id, label: text(40, 1), symbol, factor: Type.Number({ minimum: 0.01, maximum: 100 }) },
        { ...closed, description: 'A parameter that is multiplied by a factor.' },
      ),
      { minItems: 1, maxItems: 4 },
    ),
    rows: Type.Array(Type.Object({ id, label: text(40, 1), formula }, closed), { minItems: 1, maxItems: 6 }),
    samePercent: Type.Number({ minimum: 0, maximum: 50, description: 'A smaller change counts as none.' }),
    marking,
  },
  closed,
);
export type TrendPart = Static<typeof TrendPart>;

const labelled = Type.Array(Type.Object({ id: Type.String(), label: Type.String() }, closed));

/** The answer to it. */
export const TrendAnswer = Type.Object(
  {
    kind: Type.Literal('trend'),
    cells: Type.Record(Type.String({ maxLength: 70 }), Type.Enum([...trends]), {
      maxProperties: 24,
      description: 'By `row/change`.',
    }),
  },
  closed,
);
export type TrendAnswer = Static<typeof TrendAnswer>;

/** What its student sees. */
export const SeenTrend = Type.Object(
  { ...seenHeading, kind: TrendPart.properties.kind, changes: labelled, rows: labelled },
  closed,
);
export type SeenTrend = Static<typeof SeenTrend>;
