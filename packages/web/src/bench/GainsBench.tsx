import { type GainsPart, Problem, type Trail, formatNumber, gainsOfForm, withUnit } from '@nailset/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import type { PlotCurve, Reading } from '../plot/curves';
import { frameFor } from '../plot/frame';
import { limitsOf } from '../plot/limits';
import { GainLadder, ladderKey } from './GainLadder';
import type { LoopResponse, loopResponses } from './loopResponse';
import { tryResponse } from './loopResponse';
import type { Work, WorkAction } from './work';

/** How long gains must stand still to become a stop on the trail. */
const stopAfter = 900;
const ghostsShown = 3;

/** Plots, ladder and trail of a gains part. */
export function GainsBench({
  part,
  work,
  dispatch,
  responses,
  response,
  keys,
}: {
  part: GainsPart;
  work: Work;
  dispatch: (action: WorkAction) => void;
  responses: ReturnType<typeof loopResponses>;
  response: LoopResponse;
  keys: boolean;
}) {
  const answer = work.answers[part.id]!;
  const gains = answer.kind === 'gains' ? answer.gains : { Kp: '0' };
  const trail = useMemo(() => work.trails[part.id] ?? [], [work.trails, part.id]);
  const { loop, measures, curve, verdict, riseFrom } = response;
  const holding = verdict.items.filter((item) => item.met).length;

  const [frame, setFrame] = useState(() => frameFor(part.horizon, [], [0, 1.5]));
  // Held from where the work began, so that there is room to see the poles move.
  const [reach, setReach] = useState(() => {
    const start = tryResponse(responses, trail[0]?.gains ?? gains);
    const from = start instanceof Problem ? response : start;
    return Math.max(3 * reachOf(from.loop.closed.poles), reachOf(response.loop.closed.poles));
  });
  const fit = () => {
    setFrame(frameFor(part.horizon, [curve], [0, 1]));
    setReach(reachOf(response.loop.closed.poles));
  };

  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'stop', part: part.id, holding }), stopAfter);
    return () => clearTimeout(timer);
  }, [answer, part.id, holding, dispatch]);

  const latest = useRef({ work, fit });
  useEffect(() => {
    latest.current = { work, fit };
  });
  useEffect(() => {
    if (!keys) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing =
        target.matches('input[type=text], input:not([type]), textarea, select') && !target.closest('[data-gain]');
      if (typing || event.ctrlKey || event.metaKey || event.altKey || target.closest('[role=dialog]')) return;
      const inGain = target.matches('input');
      if (!inGain && (event.key === 'f' || event.key === 'F')) return latest.current.fit();
      if (inGain && /^[0-9]$/.test(event.key)) return;
      const action = ladderKey(event, part, latest.current.work);
      if (!action) return;
      event.preventDefault();
      dispatch(action);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [keys, part, dispatch]);

  const earlier = trail
    .map((stop) => tryResponse(responses, stop.gains))
    .filter((found): found is LoopResponse => !(found instanceof Problem) && found !== response);
  const first = earlier[0];
  const curves: PlotCurve[] = [
    ...earlier
      .slice(1)
      .slice(-ghostsShown)
      .map((ghost, k) => ({ id: `ghost-${k}`, curve: ghost.curve, look: 'ghost' as const })),
    ...(first ? [{ id: 'first', curve: first.curve, look: 'first' as const, label: endLabel('first', first) }] : []),
    { id: 'now', curve, look: 'now', label: endLabel('now', response) },
  ];
  const limits = limitsOf(part.nails, verdict.items, measures, riseFrom, frame.tMax);

  return (
    <div className="flex min-w-0 flex-col gap-4">
      <ResponsePlot
        title={`${part.output}, after a unit step of the reference`}
        frame={frame}
        curves={curves}
        limits={limits}
        reference={1}
        readings={peakOf(response)}
        onFit={fit}
        summary={summaryOf(part, response)}
        className="h-[clamp(220px,44vh,420px)]"
      />
      <GainLadder part={part} gains={gains} chosen={work.chosen} dispatch={dispatch} />
      <div className="grid gap-4 @min-[620px]:grid-cols-[1fr_200px]">
        <TrailTable part={part} trail={trail} responses={responses} current={response} dispatch={dispatch} />
        <PolePlane
          title="Closed-loop poles"
          poles={loop.closed.poles}
          zeros={loop.closed.zeros}
          before={first?.loop.closed.poles ?? []}
          reach={reach}
          listed
          className="h-[112px]"
        />
      </div>
    </div>
  );
}

function peakOf({ measures: { peakTime, peakValue } }: LoopResponse): Reading[] {
  if (peakTime === null || peakValue === null) return [];
  return [{ time: peakTime, value: peakValue, words: `peak ${formatNumber(peakValue)} at ${withUnit(peakTime, 's')}` }];
}

const endLabel = (name: string, { measures }: LoopResponse): string =>
  measures.finalValue === null ? `${name}, unstable` : `${name}, ${measures.finalValue.toFixed(2)}`;

function summaryOf(part: GainsPart, { measures, verdict }: LoopResponse): string {
  if (!measures.stable) return `${part.output}: the response grows without end. ${verdict.words}`;
  const rise = measures.riseTime === null ? '' : ` rise time ${withUnit(measures.riseTime, 's')},`;
  return `${part.output} after a unit step: final value ${formatNumber(measures.finalValue!)},${rise} overshoot ${withUnit(
    measures.overshootPercent ?? 0,
    '%',
  )}, settles after ${withUnit(measures.settlingTime ?? 0, 's')}. ${verdict.words}`;
}

/** The stops made so far, the newest last; a click takes the gains back. */
function TrailTable({
  part,
  trail,
  responses,
  current,
  dispatch,
}: {
  part: GainsPart;
  trail: Trail;
  responses: ReturnType<typeof loopResponses>;
  current: LoopResponse;
  dispatch: (action: WorkAction) => void;
}) {
  const open = gainsOfForm[part.form];
  const rows = trail
    .map((stop, index) => ({ stop, index, found: tryResponse(responses, stop.gains) }))
    .flatMap(({ stop, index, found }) => (found instanceof Problem ? [] : [{ stop, index, found }]));
  const shown = rows.length > 4 ? [rows[0]!, ...rows.slice(-3)] : rows;
  if (shown.length === 0)
    return <p className="text-note text-slate">The trail of your stops appears here as you nudge.</p>;
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full text-right text-[13px] whitespace-nowrap">
        <thead className="text-[11px] text-slate">
          <tr className="border-b border-rule">
            <th className="py-1 text-left font-normal">Trail</th>
            {open.map((gain) => (
              <th key={gain} className="px-2 font-normal">
                {gain}
              </th>
            ))}
            <th className="px-2 font-normal">rise</th>
            <th className="px-2 font-normal">overshoot</th>
            <th className="px-2 font-normal">settling</th>
            <th className="px-2 font-normal">nails</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ stop, index, found: { measures, verdict }, found }) => (
            <tr key={index} className={`border-b border-grid ${found === current ? 'bg-wash' : ''}`}>
              <td className="py-0.5 text-left">
                {found === current ? (
                  <span>{index + 1} now</span>
                ) : (
                  <button
                    type="button"
                    className="link"
                    onClick={() => dispatch({ do: 'restore', part: part.id, index })}
                  >
                    {index + 1} {index === 0 ? 'first' : 'back'}
                    <span className="sr-only">: take the gains of this stop</span>
                  </button>
                )}
              </td>
              {open.map((gain) => (
                <td key={gain} className="px-2">
                  {stop.gains[gain]}
                </td>
              ))}
              <td className="px-2">{measures.riseTime === null ? '–' : withUnit(measures.riseTime, 's')}</td>
              <td className="px-2">
                {measures.overshootPercent === null ? '–' : withUnit(measures.overshootPercent, '%')}
              </td>
              <td className="px-2">{measures.settlingTime === null ? '–' : withUnit(measures.settlingTime, 's')}</td>
              <td className="px-2 whitespace-nowrap">
                {verdict.items.filter((item) => item.met).length} of {verdict.items.length}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
