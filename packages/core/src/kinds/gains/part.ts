import type { Static } from 'typebox';
import * as Type from 'typebox';
import { Settings } from '../../exercise/answer.js';
import { closed, finite, formula, id, InputSignal, text } from '../../exercise/given.js';
import { heading, horizon, ladder, marking, points } from '../../exercise/heading.js';
import { compensatorNames, partViews, pidGainNames, signalNames } from '../../exercise/names.js';
import { seenHeading } from '../../exercise/seen.js';
import { quantityNames } from '../../quantity/names.js';

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

/** Whether a nail is about the output after a step of the reference, which the second-order rules and the drawn curve show. */
export const isStepOfOutput = (nail: Nail): nail is MeasureNail =>
  'quantity' in nail && (nail.signal ?? 'y') === 'y' && (nail.input ?? 'r') === 'r';

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

const FamilyMember = Type.Object(
  { value: Type.String(), plant: GainsPart.properties.plant, sensor: GainsPart.properties.sensor },
  closed,
);

/** The loop at other values of one parameter that it depends on. */
export const Family = Type.Object(
  {
    parameter: Type.String(),
    members: Type.Array(FamilyMember),
    sweep: Type.Array(FamilyMember, { description: 'In even steps of its logarithm, where poles are drawn over it.' }),
  },
  closed,
);
export type Family = Static<typeof Family>;

/** The answer to it. */
export const GainsAnswer = Type.Object({ kind: Type.Literal('gains'), gains: Settings }, closed);
export type GainsAnswer = Static<typeof GainsAnswer>;

/** What its student sees. */
export const SeenGains = Type.Object({ ...GainsPart.properties, ...seenHeading, families: Type.Array(Family) }, closed);
export type SeenGains = Static<typeof SeenGains>;
