import type { Static } from 'typebox';
import * as Type from 'typebox';
import { BodeAnswer, BodePart, SeenBode } from '../kinds/bode/part.js';
import { ChoiceAnswer, ChoicePart, SeenChoice } from '../kinds/choice/part.js';
import { CurveAnswer, CurvePart, SeenCurve } from '../kinds/curve/part.js';
import { DiagramAnswer, DiagramPart, SeenDiagram } from '../kinds/diagram/part.js';
import { GainsAnswer, GainsPart, SeenGains } from '../kinds/gains/part.js';
import { NumberAnswer, NumberPart, SeenNumber } from '../kinds/number/part.js';
import { PathsAnswer, PathsPart, SeenPaths } from '../kinds/paths/part.js';
import { PointsAnswer, PointsPart, SeenPoints } from '../kinds/points/part.js';
import { RangeAnswer, RangePart, SeenRange } from '../kinds/range/part.js';
import { ReductionAnswer, ReductionPart, SeenReduction } from '../kinds/reduction/part.js';
import { SeenStates, StatesAnswer, StatesPart } from '../kinds/states/part.js';
import { SeenTransferFunction, TransferFunctionAnswer, TransferFunctionPart } from '../kinds/transferFunction/part.js';
import { SeenTrend, TrendAnswer, TrendPart } from '../kinds/trend/part.js';

/** For each kind of answer what an exercise asks, what is answered and what its student sees. */
export const kindSchemas = {
  transferFunction: { part: TransferFunctionPart, answer: TransferFunctionAnswer, seen: SeenTransferFunction },
  number: { part: NumberPart, answer: NumberAnswer, seen: SeenNumber },
  gains: { part: GainsPart, answer: GainsAnswer, seen: SeenGains },
  choice: { part: ChoicePart, answer: ChoiceAnswer, seen: SeenChoice },
  trend: { part: TrendPart, answer: TrendAnswer, seen: SeenTrend },
  curve: { part: CurvePart, answer: CurveAnswer, seen: SeenCurve },
  diagram: { part: DiagramPart, answer: DiagramAnswer, seen: SeenDiagram },
  reduction: { part: ReductionPart, answer: ReductionAnswer, seen: SeenReduction },
  paths: { part: PathsPart, answer: PathsAnswer, seen: SeenPaths },
  states: { part: StatesPart, answer: StatesAnswer, seen: SeenStates },
  points: { part: PointsPart, answer: PointsAnswer, seen: SeenPoints },
  bode: { part: BodePart, answer: BodeAnswer, seen: SeenBode },
  range: { part: RangePart, answer: RangeAnswer, seen: SeenRange },
};

type Schemas = typeof kindSchemas;
export type Kind = keyof Schemas;
export type PartOf<K extends Kind> = Static<Schemas[K]['part']>;
export type AnswerOf<K extends Kind> = Static<Schemas[K]['answer']>;
export type SeenOf<K extends Kind> = Static<Schemas[K]['seen']>;

const each = Object.values(kindSchemas);

export const Part = Type.Unsafe<Part>(Type.Union(each.map(({ part }) => part)));
export type Part = { [K in Kind]: PartOf<K> }[Kind];

/** What students hand in. */
export const Answer = Type.Unsafe<Answer>(Type.Union(each.map(({ answer }) => answer)));
export type Answer = { [K in Kind]: AnswerOf<K> }[Kind];

/** A part as its student may see it: nothing that is expected, what is given with the student's own numbers. */
export const StudentPart = Type.Unsafe<StudentPart>(Type.Union(each.map(({ seen }) => seen)));
export type StudentPart = { [K in Kind]: SeenOf<K> }[Kind];
