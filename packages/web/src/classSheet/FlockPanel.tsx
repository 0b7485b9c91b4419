import {
  type ClassSheet,
  type Curve,
  inputLine,
  type Kind,
  noMeasures,
  type Part,
  type PartOf,
  type VerdictItem,
} from '@nailset/core';
import { useMemo, useState } from 'react';
import { Loading } from '../page/states';
import type { PlotCurve } from '../plot/curves';
import { type Frame, frameFor } from '../plot/frame';
import { type Limit, limitsOf, nailsOnPlot } from '../plot/limits';
import { ResponsePlot } from '../plot/ResponsePlot';
import { curveFrom } from '../plot/samples';
import { notWorkedOut } from '../shared/useWorker';
import { firstNameOf, type PartAnswer } from './summary';
import { type Flock, useFlock } from './useFlock';

/** Everyone's responses over each other with the limits; the chosen one in front. */
export function FlockPanel({ part, answers, sheet, ...rest }: FlockProps & { part: Part }) {
  const flock = useFlock(part, sheet, answers);
  if (!flock) return <Loading what="Drawing everyone’s responses" />;
  if (flock === 'broken') return <p className="text-brick">{notWorkedOut}</p>;
  return <FlockPlot flock={flock} {...{ answers, sheet }} {...rest} />;
}

interface FlockProps {
  answers: readonly PartAnswer[];
  sheet: ClassSheet;
  chosen: string | undefined;
  onChoose: (submissionId: string) => void;
}

/** The curves of a class once they are worked out. */
export function FlockPlot({
  flock: { part, horizon, curves },
  answers,
  sheet,
  chosen,
  onChoose,
}: FlockProps & {
  flock: Flock;
}) {
  const { levels, reference, limits } = useMemo(() => groundOf(part, sheet), [part, sheet]);
  const fitted = useMemo(() => frameOf(levels, horizon, curves), [levels, horizon, curves]);
  const all = () => {
    const every = curves.map(({ curve }) => curve);
    return frameFor(horizon, every, levels);
  };
  const [frame, setFrame] = useState<Frame>(fitted);
  const met = useMemo(
    () => new Set(answers.filter(({ met }) => met).map(({ submissionId }) => submissionId)),
    [answers],
  );
  const nameOf = (submissionId: string): string =>
    answers.find((answer) => answer.submissionId === submissionId)?.name ?? '';
  const shown: PlotCurve[] = curves
    .map(({ submissionId: id, curve }): PlotCurve => {
      const name = nameOf(id);
      if (id === chosen) return { id, curve, name, look: 'second', label: firstNameOf(name) };
      return { id, curve, name, look: met.has(id) ? 'held' : 'missed' };
    })
    // The chosen curve is drawn last, over the others; curves that miss lie below those that hold.
    .sort((a, b) => depth(a) - depth(b));
  const holding = curves.filter(({ submissionId }) => met.has(submissionId)).length;
  return (
    <ResponsePlot
      title={`Everyone · ${curves.length} responses, ${holding} hold every nail`}
      frame={frame}
      curves={shown}
      limits={limits(frame)}
      {...(reference ? { reference } : {})}
      onFit={() => setFrame(all())}
      tools={
        <button
          type="button"
          className="link"
          title="Fit most of the class: a few wild responses leave the frame"
          onClick={() => setFrame(fitted)}
        >
          Most
        </button>
      }
      onPick={onChoose}
      summary={`Step responses of ${curves.length} students to ${part.title}; ${holding} hold every nail.`}
      className="h-[300px]"
    />
  );
}

/** What stands behind the curves of a class, by kind. */
interface Ground {
  /** Values that the axes hold. */
  readonly levels: readonly number[];
  readonly reference?: Curve;
  readonly limits: (frame: Frame) => Limit[];
}

const bare: Ground = { levels: [0], limits: () => [] };

const grounds: { readonly [K in Kind]?: (part: PartOf<K>, sheet: ClassSheet) => Ground } = {
  gains: (part, { series }) => ({
    levels: [0, 1],
    reference: curveFrom(inputLine(part.input, series, part.horizon)),
    limits: (frame) => classLimits(part, frame),
  }),
};

function groundOf(part: Part, sheet: ClassSheet): Ground {
  const ground = grounds[part.kind] as unknown as ((part: Part, sheet: ClassSheet) => Ground) | undefined;
  return ground?.(part, sheet) ?? bare;
}

const depth = ({ look }: PlotCurve): number => ['missed', 'held', 'second'].indexOf(look);

/** A frame for the bulk of the class: one wild response does not shrink all others. */
function frameOf(levels: readonly number[], horizon: number, curves: Flock['curves']): Frame {
  const peaks = curves
    .map(({ curve }) => ({ curve, peak: Math.max(...curve.values.map(Math.abs)) }))
    .sort((a, b) => a.peak - b.peak);
  const bulk = peaks.slice(0, Math.ceil(0.95 * peaks.length)).map(({ curve }) => curve);
  return frameFor(horizon, bulk, levels);
}

/** The limits as they stand for a response that rests at 1. */
function classLimits(part: PartOf<'gains'>, frame: Frame): Limit[] {
  const items = part.nails.map((nail): VerdictItem => {
    const blank = { label: '', unit: '', measured: null, close: false, points: 0, outOf: 0, words: '' };
    return { ...blank, id: nail.id, limit: null, relation: 'atMost', met: true };
  });
  const height = part.input?.kind === 'levels' ? part.input.to - part.input.from : 1;
  const atRest = { ...noMeasures, stable: true, finalValue: height };
  return limitsOf(nailsOnPlot(part), items, atRest, 0, frame.tMax, { height }).filter((limit) => limit.ground);
}
