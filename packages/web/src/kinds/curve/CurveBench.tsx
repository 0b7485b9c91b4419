import { formatNumber, must, parseFormula, Problem, type Samples, toLatex } from '@nailset/core';
import { useEffect, useMemo } from 'react';
import type { Work, WorkAction } from '../../loop/action';
import { inView, Ladder } from '../../loop/Ladder';
import { TrailTable } from '../../loop/TrailTable';
import { useBenchKeys } from '../../loop/useBenchKeys';
import { useProbing } from '../../loop/useProbing';
import type { PlotCurve } from '../../plot/curves';
import { frameFor } from '../../plot/frame';
import { ResponsePlot } from '../../plot/ResponsePlot';
import { curveFrom } from '../../plot/samples';
import { useFrame } from '../../plot/useFrame';
import { Formula } from '../../shared/Formula';
import type { CurveOfPart, CurveResponse, curveResponses } from './curveResponse';
import { knobsOfCurve } from './knobs';

const stopAfter = 900;

/** A model whose parameters are set until it follows a given curve. */
export function CurveBench({
  part,
  reference,
  work,
  dispatch,
  responses,
  response,
  keys,
}: {
  part: CurveOfPart;
  reference: Samples;
  work: Work;
  dispatch: (action: WorkAction) => void;
  responses: ReturnType<typeof curveResponses>;
  response: CurveResponse;
  keys: boolean;
}) {
  const answer = must(work.answers[part.id]);
  const settings = answer.kind === 'curve' ? answer.knobs : {};
  const knobs = useMemo(() => knobsOfCurve(part), [part]);
  const trail = useMemo(() => work.trails[part.id] ?? [], [work.trails, part.id]);
  const target = useMemo(() => curveFrom(part.target), [part.target]);
  const input = useMemo(() => curveFrom(reference), [reference]);
  const probing = useProbing();
  const [frame, setFrame] = useFrame(part.horizon, () => frameFor(part.horizon, [target]));
  const [item] = response.verdict.items;
  const met = must(item).met;

  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'stop', part: part.id, holding: met ? 1 : 0 }), stopAfter);
    return () => clearTimeout(timer);
  }, [answer, part.id, met, dispatch]);

  const stops = trail.flatMap((stop, index) => {
    const response = responses(stop.gains);
    return response instanceof Problem ? [] : [{ stop, index, response }];
  });
  const earlier = stops.filter(({ response: shown }) => shown !== response);
  const curves: PlotCurve[] = [
    { id: 'given', curve: target, look: 'given', label: part.target.label },
    ...earlier
      .filter(({ stop }) => stop.pinned)
      .map(({ stop, index, response }) => ({
        id: `pin-${index}`,
        curve: response.curve,
        look: 'second' as const,
        label: stop.name ?? `stop ${index + 1}`,
      })),
    ...earlier
      .slice(-2)
      .map(({ index, response }) => ({ id: `ghost-${index}`, curve: response.curve, look: 'ghost' as const })),
    { id: 'now', curve: response.curve, look: 'now', label: 'model' },
  ];
  const fit = () =>
    setFrame(
      frameFor(
        part.horizon,
        curves.map(({ curve }) => curve),
      ),
    );
  useBenchKeys(keys, part.id, knobs, work, dispatch, { f: fit, r: () => probing.onAdd(frame.tMax / 4) });
  return (
    <div className="flex min-w-0 flex-col gap-4">
      <div className={inView}>
        <ResponsePlot
          title={part.output}
          frame={frame}
          curves={curves}
          reference={input}
          referenceName="input"
          probing={probing}
          onFit={fit}
          summary={`${part.output}: the given curve and the model. ${response.verdict.words}`}
          className="h-[clamp(190px,44vh,420px)] @max-[620px]:h-[30vh]"
        />
      </div>
      <Ladder part={part.id} knobs={knobs} settings={settings} chosen={work.chosen} dispatch={dispatch} />
      <Formula latex={`\\displaystyle G(s)=${toLatex(parseFormula(part.model))}`} className="text-ink" />
      <TrailTable
        part={part.id}
        knobs={knobs}
        rows={stops.map(({ stop, index, response: shown }) => ({
          stop,
          index,
          current: shown === response,
          held: `${formatNumber(must(shown.verdict.items[0]).measured ?? Infinity)} %`,
        }))}
        dispatch={dispatch}
      />
    </div>
  );
}
