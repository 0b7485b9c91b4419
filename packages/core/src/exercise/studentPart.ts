import Type, { type Static } from 'typebox';
import { closed } from './given.js';
import {
  BodePart,
  ChoicePart,
  CurvePart,
  DiagramPart,
  FrequencyTable,
  GainsPart,
  PathsPart,
  PointsPart,
  RangePart,
  ReductionPart,
  StatesPart,
  TrendPart,
} from './parts.js';
import { plotKinds } from './names.js';

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

const heading = {
  id: Type.String(),
  title: Type.String(),
  prompt: Type.String(),
  points: Type.Number(),
  attempts: Type.Integer(),
  figure: Type.Optional(StudentFigure),
};
const numbers = Type.Array(Type.Number());

/** A small plot to be recognised: lines and marks, and nothing of the system behind them. */
export const ShownPlot = Type.Object(
  {
    kind: Type.Enum([...plotKinds]),
    lines: Type.Array(Type.Object({ x: numbers, y: numbers }, closed), {
      description: 'Time and output; real and imaginary parts; rad/s and decibels, then rad/s and degrees.',
    }),
    marks: Type.Array(Type.Object({ what: Type.Enum(['pole', 'zero']), x: Type.Number(), y: Type.Number() }, closed)),
  },
  closed,
);
export type ShownPlot = Static<typeof ShownPlot>;

const optionProperties = { id: Type.String(), text: Type.String(), plot: Type.Optional(ShownPlot) };
const labelled = Type.Array(Type.Object({ id: Type.String(), label: Type.String() }, closed));

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

const equations = Type.String({ description: 'The diagram as signal equations.' });

/** A diagram that the words of an exercise show. */
export const ShownDiagram = Type.Object(
  { name: Type.String(), equations, from: Type.String(), to: Type.String() },
  closed,
);
export type ShownDiagram = Static<typeof ShownDiagram>;

/** A part as its student may see it: nothing that is expected, what is given with the student's own numbers. */
export const StudentPart = Type.Union([
  Type.Object({ ...heading, kind: Type.Literal('transferFunction'), tolerancePercent: Type.Number() }, closed),
  Type.Object(
    {
      ...heading,
      kind: Type.Literal('number'),
      unit: Type.String(),
      tolerancePercent: Type.Number(),
      toleranceAbsolute: Type.Optional(Type.Number()),
      quantity: Type.Optional(Type.String({ description: 'Whose definition is shown.' })),
    },
    closed,
  ),
  Type.Object({ ...GainsPart.properties, ...heading, families: Type.Array(Family) }, closed),
  Type.Object(
    {
      ...heading,
      kind: Type.Literal('choice'),
      several: ChoicePart.properties.several,
      options: Type.Array(Type.Object(optionProperties, closed)),
    },
    closed,
  ),
  Type.Object({ ...heading, kind: TrendPart.properties.kind, changes: labelled, rows: labelled }, closed),
  Type.Object(
    {
      ...heading,
      kind: Type.Literal('curve'),
      model: CurvePart.properties.model,
      knobs: CurvePart.properties.knobs,
      known: Type.Record(Type.String(), Type.String(), { description: 'What the other names of the model stand for.' }),
      input: CurvePart.properties.input,
      target: Samples,
      output: Type.String(),
      horizon: Type.Number(),
      misfitPercent: Type.Number(),
    },
    closed,
  ),
  Type.Object(
    {
      ...heading,
      kind: BodePart.properties.kind,
      terms: BodePart.properties.terms,
      misfitDb: BodePart.properties.misfitDb,
      misfitDegrees: BodePart.properties.misfitDegrees,
      refine: BodePart.properties.refine,
      target: FrequencyTable,
    },
    closed,
  ),
  Type.Object({ ...DiagramPart.properties, ...heading, equations }, closed),
  Type.Object({ ...ReductionPart.properties, ...heading, equations }, closed),
  Type.Object({ ...PathsPart.properties, ...heading, equations }, closed),
  Type.Object({ ...heading, kind: RangePart.properties.kind, tolerancePercent: Type.Number() }, closed),
  Type.Object({ ...heading, kind: StatesPart.properties.kind, tolerancePercent: Type.Number() }, closed),
  Type.Object(
    {
      ...heading,
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
  ),
]);
export type StudentPart = Static<typeof StudentPart>;
