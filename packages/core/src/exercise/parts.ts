import Type, { type Static } from 'typebox';
import { quantityNames } from '../quantity/names.js';
import { BodePart } from './bodePart.js';
import { InputSignal, closed, finite, formula, id, symbol, text } from './given.js';
import { heading, horizon, marking, points, tolerancePercent } from './heading.js';
import { compensatorNames, partViews, pidGainNames, plotKinds, pointSets, signalNames } from './names.js';

/** What an exercise asks, kind by kind. */

export { Figure } from './heading.js';
export * from './bodePart.js';

export const TransferFunctionPart = Type.Object(
  { ...heading, kind: Type.Literal('transferFunction'), points, expected: formula, tolerancePercent },
  closed,
);
export type TransferFunctionPart = Static<typeof TransferFunctionPart>;

export const NumberPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('number'),
    points,
    formula,
    unit: text(12),
    tolerancePercent,
    toleranceAbsolute: Type.Optional(Type.Number({ minimum: 0, maximum: 1e9 })),
    condition: Type.Optional(
      Type.Object(
        { symbol, holds: text(500, 1) },
        { ...closed, description: 'Any value counts with which this holds, its letter being the symbol.' },
      ),
    ),
  },
  closed,
);
export type NumberPart = Static<typeof NumberPart>;

export const MeasureNail = Type.Object(
  {
    id,
    quantity: Type.Enum([...quantityNames]),
    signal: Type.Optional(Type.Enum([...signalNames], { description: 'Output y (unless given), error e, effort u.' })),
    input: Type.Optional(Type.Enum(['r', 'd'], { description: 'Reference r (unless given), disturbance d.' })),
    relation: Type.Union([Type.Literal('atMost'), Type.Literal('atLeast')]),
    limit: finite,
    points,
  },
  closed,
);
export type MeasureNail = Static<typeof MeasureNail>;

export const CorridorNail = Type.Object(
  {
    id,
    corridor: Type.Array(
      Type.Object(
        {
          time: Type.Number({ minimum: 0, maximum: 1e6 }),
          low: Type.Union([finite, Type.Null()]),
          high: Type.Union([finite, Type.Null()]),
        },
        closed,
      ),
      { minItems: 2, maxItems: 20, description: 'Bounds of y at rising times, straight lines between; null for none.' },
    ),
    points,
  },
  closed,
);
export type CorridorNail = Static<typeof CorridorNail>;

export const Nail = Type.Union([MeasureNail, CorridorNail]);
export type Nail = Static<typeof Nail>;

const positive = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });
const ladder = {
  start: finite,
  fine: positive,
  coarse: positive,
  low: Type.Optional(finite),
  high: Type.Optional(finite),
};

const gainsNamed = <Name extends string>(names: readonly Name[]) => {
  const name = Type.Enum([...names]);
  return Type.Union(
    [
      Type.Object({ name, ...ladder, optional: Type.Optional(Type.Boolean()) }, closed),
      Type.Object({ name, value: formula }, closed),
    ],
    { description: 'Set by the student, who may leave it out where it is optional, or given.' },
  );
};

export const PidController = Type.Object(
  {
    terms: Type.Enum(['P', 'PI', 'PD', 'PID']),
    form: Type.Enum(['parallel', 'ideal', 'series'], {
      description: 'Kp + Ki/s + Kd s; Kp(1 + 1/(Ti s) + Td s); Kp(1 + 1/(Ti s))(1 + Td s).',
    }),
    filterTime: Type.Optional(formula),
    gains: Type.Array(gainsNamed(pidGainNames), { minItems: 1, maxItems: 3 }),
  },
  closed,
);
export type PidController = Static<typeof PidController>;

export const Compensator = Type.Object(
  {
    terms: Type.Literal('compensator'),
    form: Type.Enum(['factors', 'corners'], {
      description: 'K (s − z)…/(s − p)…; K (1 − s/z)…/(1 − s/p)…, whose level at low frequency is K.',
    }),
    largestRatio: Type.Optional(
      Type.Number({
        exclusiveMinimum: 1,
        maximum: 1e4,
        description: 'Of pole to zero, or zero to pole, in a pair zk, pk.',
      }),
    ),
    proper: Type.Optional(Type.Boolean({ description: 'At least as many poles as zeros.' })),
    gains: Type.Array(gainsNamed(compensatorNames), { minItems: 1, maxItems: compensatorNames.length }),
  },
  closed,
);
export type Compensator = Static<typeof Compensator>;

export const Controller = Type.Union([PidController, Compensator]);
export type Controller = Static<typeof Controller>;
export type ControllerGain = Controller['gains'][number];

export const ActuatorLimits = Type.Object(
  {
    low: formula,
    high: formula,
    trackingTime: Type.Optional(formula),
  },
  { ...closed, description: 'Limits of the effort; with a tracking time the integrator does not wind up.' },
);

export const GainsPart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('gains'),
    plant: formula,
    sensor: Type.Optional(formula),
    limits: Type.Optional(ActuatorLimits),
    controller: Controller,
    output: text(60, 1),
    effort: Type.Optional(text(60, 1)),
    input: Type.Optional(InputSignal),
    disturbance: Type.Optional(InputSignal),
    horizon,
    views: Type.Array(Type.Enum([...partViews]), { maxItems: partViews.length, uniqueItems: true }),
    tunedStart: Type.Optional(Type.Boolean()),
    nails: Type.Array(Nail, { minItems: 1, maxItems: 12 }),
    marking,
  },
  closed,
);
export type GainsPart = Static<typeof GainsPart>;

export const ChoicePart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('choice'),
    points,
    several: Type.Boolean({ description: 'Whether several options can be right.' }),
    attempts: Type.Optional(
      Type.Integer({ minimum: 1, maximum: 50, description: 'Tries for this part; one unless given.' }),
    ),
    options: Type.Array(
      Type.Object(
        {
          id,
          text: text(400, 1),
          right: Type.Union(
            [Type.Boolean(), text(500, 1), Type.Object({ equal: Type.Tuple([symbol, symbol]) }, closed)],
            {
              description:
                'Yes, no, a condition on the student’s numbers, or two systems in signal equations: right when their transfer functions are equal.',
            },
          ),
          remark: Type.Optional(text(400)),
          plot: Type.Optional(
            Type.Object(
              { kind: Type.Enum([...plotKinds]), system: formula },
              { ...closed, description: 'A plot of a system, to be recognised; the locus and Nyquist plot of a loop.' },
            ),
          ),
        },
        closed,
      ),
      { minItems: 2, maxItems: 8 },
    ),
    marking,
  },
  closed,
);
export type ChoicePart = Static<typeof ChoicePart>;

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

export const CurvePart = Type.Object(
  {
    ...heading,
    kind: Type.Literal('curve'),
    points,
    model: formula,
    knobs: Type.Array(Type.Object({ symbol, unit: text(12), ...ladder }, closed), { minItems: 1, maxItems: 5 }),
    target: Type.Union([Type.Object({ series: id }, closed), Type.Object({ system: formula }, closed)]),
    input: Type.Optional(InputSignal),
    output: text(60, 1),
    horizon,
    misfitPercent: Type.Number({ exclusiveMinimum: 0, maximum: 50 }),
  },
  closed,
);
export type CurvePart = Static<typeof CurvePart>;

const diagram = {
  system: { ...symbol, description: 'A system in signal equations; letters without a value stay letters.' },
};

/** Transfer functions between signals of a diagram, exact, with letters or numbers. */
export const DiagramPart = Type.Object(
  {
    ...heading,
    ...diagram,
    kind: Type.Literal('diagram'),
    asked: Type.Array(Type.Object({ id, from: symbol, to: symbol, points }, closed), { minItems: 1, maxItems: 6 }),
    tolerancePercent,
    marking,
  },
  closed,
);
export type DiagramPart = Static<typeof DiagramPart>;

export const ReductionPart = Type.Object(
  {
    ...heading,
    ...diagram,
    kind: Type.Literal('reduction'),
    points,
    from: symbol,
    to: symbol,
    typed: Type.Enum(['no', 'atOnce', 'atHandIn'], {
      description: 'Whether the student types what a step gives, and when it is checked.',
    }),
  },
  closed,
);
export type ReductionPart = Static<typeof ReductionPart>;

/** The gains of loops, of forward paths, or both, in any order. */
export const PathsPart = Type.Object(
  {
    ...heading,
    ...diagram,
    kind: Type.Literal('paths'),
    points,
    from: symbol,
    to: symbol,
    list: Type.Enum(['loops', 'forward']),
  },
  closed,
);
export type PathsPart = Static<typeof PathsPart>;

/** State matrices of a system, accepted up to a change of state variables. */
export const StatesPart = Type.Object(
  { ...heading, kind: Type.Literal('states'), points, expected: formula, tolerancePercent },
  closed,
);
export type StatesPart = Static<typeof StatesPart>;

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

/** All gains with which a loop is stable, in ranges. */
export const RangePart = Type.Object(
  { ...heading, kind: Type.Literal('range'), points, of: formula, tolerancePercent, marking },
  closed,
);
export type RangePart = Static<typeof RangePart>;

export const Part = Type.Union([
  TransferFunctionPart,
  NumberPart,
  GainsPart,
  ChoicePart,
  TrendPart,
  CurvePart,
  DiagramPart,
  ReductionPart,
  PathsPart,
  StatesPart,
  PointsPart,
  BodePart,
  RangePart,
]);
export type Part = Static<typeof Part>;
