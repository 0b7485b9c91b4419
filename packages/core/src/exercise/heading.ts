import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed, finite, formula, id, InputSignal, symbol, text } from './given.js';

/** What parts of all kinds have in common. */

/** Points that a part or one of its entries gives. */
export const points = Type.Number({ minimum: 0, maximum: 100 });
export const tolerancePercent = Type.Number({ minimum: 0, maximum: 20 });
export const horizon = Type.Number({ exclusiveMinimum: 0, maximum: 1e6, description: 'Time shown, in seconds.' });
export const marking = Type.Optional(
  Type.Enum(['shares', 'allOrNothing'], { description: 'Points for what holds, the default, or only for everything.' }),
);

/** Curves beside a part: step responses of systems, or measured data. */
export const Figure = Type.Object(
  {
    horizon,
    input: Type.Optional(InputSignal),
    curves: Type.Array(
      Type.Object(
        {
          label: text(40, 1),
          system: Type.Optional(formula),
          series: Type.Optional(id),
          afterwards: Type.Boolean({ description: 'Shown once the answer is handed in: predict, then see.' }),
        },
        closed,
      ),
      { minItems: 1, maxItems: 6 },
    ),
  },
  closed,
);
export type Figure = Static<typeof Figure>;

/** Help that a student may ask for, one after the other. */
export const Hint = Type.Object(
  {
    text: text(1000),
    cost: Type.Number({ minimum: 0, maximum: 100, description: 'Points that later answers lose; 0 for none.' }),
  },
  closed,
);
export type Hint = Static<typeof Hint>;

/** What every part begins with. */
export const heading = {
  id,
  title: text(60, 1),
  prompt: text(2000),
  figure: Type.Optional(Figure),
  hints: Type.Optional(Type.Array(Hint, { maxItems: 3 })),
};

const positive = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });

/** What is set on a ladder: where it starts, its two rungs, and its range where it has one. */
export const ladder = {
  start: finite,
  fine: positive,
  coarse: positive,
  low: Type.Optional(finite),
  high: Type.Optional(finite),
};

/** The diagram that a part is about. */
export const ofDiagram = {
  system: { ...symbol, description: 'A system in signal equations; letters without a value stay letters.' },
};
