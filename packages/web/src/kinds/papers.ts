import type { Kind, Paper, SeenOf } from '@nailset/core';
import type { ComponentType } from 'react';
import { BodePaper } from './bode/BodePaper';
import { ChoicePaper } from './choice/ChoicePaper';
import { CurvePaper } from './curve/CurvePaper';
import { DiagramPaper } from './diagram/DiagramPaper';
import { GainsPaper } from './gains/GainsPaper';
import { NumberPaper } from './number/NumberPaper';
import { PathsPaper } from './paths/PathsPaper';
import { PointsPaper } from './points/PointsPaper';
import { RangePaper } from './range/RangePaper';
import { ReductionPaper } from './reduction/ReductionPaper';
import { StatesPaper } from './states/StatesPaper';
import { TransferFunctionPaper } from './transferFunction/TransferFunctionPaper';
import { TrendPaper } from './trend/TrendPaper';

interface Printed<K extends Kind> {
  readonly part: SeenOf<K>;
  /** Measured series of the exercise, which inputs may be. */
  readonly series: Paper['series'];
}

/** What stands on paper in the place of a bench: what is needed for the answer, and room for it. */
const papers: { [K in Kind]: ComponentType<Printed<K>> } = {
  bode: BodePaper,
  choice: ChoicePaper,
  curve: CurvePaper,
  diagram: DiagramPaper,
  gains: GainsPaper,
  number: NumberPaper,
  paths: PathsPaper,
  points: PointsPaper,
  range: RangePaper,
  reduction: ReductionPaper,
  states: StatesPaper,
  transferFunction: TransferFunctionPaper,
  trend: TrendPaper,
};

/** What a part is on paper; part and kind are the same, which the compiler cannot follow. */
export const paperOf = ({ kind }: { readonly kind: Kind }) => papers[kind] as unknown as ComponentType<Printed<Kind>>;
