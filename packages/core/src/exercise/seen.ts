import type { Static } from 'typebox';
import * as Type from 'typebox';
import { closed } from './given.js';

/** What students see, whatever the kind of a part. */

/** Points of a curve, times rising. */
export const Samples = Type.Object(
  { label: Type.String(), times: Type.Array(Type.Number()), values: Type.Array(Type.Number()) },
  closed,
);
export type Samples = Static<typeof Samples>;

/** Curves beside a part, and how many more there are after the answer. */
export const StudentFigure = Type.Object(
  { horizon: Type.Number(), input: Samples, curves: Type.Array(Samples), afterwards: Type.Integer() },
  closed,
);
export type StudentFigure = Static<typeof StudentFigure>;

const orNone = Type.Union([Type.Number(), Type.Null()]);

/** What is read off a response to a step from one level to another: values as drawn, times from the step on. */
export const LevelMeasures = Type.Object(
  {
    at: Type.Number({ description: 'When the step comes, in seconds.' }),
    restValue: Type.Number({ description: 'Before the step.' }),
    finalValue: Type.Number(),
    ...{ riseTime: orNone, settlingTime: orNone, peakTime: orNone, peakValue: orNone },
  },
  closed,
);
export type LevelMeasures = Static<typeof LevelMeasures>;

/** In the order of the curves. */
export const FigureMeasures = Type.Array(Type.Union([LevelMeasures, Type.Null()]));
export type FigureMeasures = Static<typeof FigureMeasures>;

/** What every part begins with as its student sees it. */
export const seenHeading = {
  id: Type.String(),
  title: Type.String(),
  prompt: Type.String(),
  points: Type.Number(),
  attempts: Type.Integer(),
  figure: Type.Optional(StudentFigure),
  hints: Type.Optional(
    Type.Array(Type.Number(), { description: 'What each hint costs; their words come on request.' }),
  ),
};

export const seenEquations = Type.String({ description: 'The diagram as signal equations.' });

/** A diagram that the words of an exercise show. */
export const ShownDiagram = Type.Object(
  { name: Type.String(), equations: seenEquations, from: Type.String(), to: Type.String() },
  closed,
);
export type ShownDiagram = Static<typeof ShownDiagram>;
