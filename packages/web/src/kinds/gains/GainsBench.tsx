import { betweenLevels, formatNumber, isPid, must, type Settings, withUnit } from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import type { Work, WorkAction } from '../../loop/action';
import { compensatorLatex, controllerLatex } from '../../loop/controllerText';
import type { Knob } from '../../loop/knob';
import { inView, Ladder } from '../../loop/Ladder';
import type { GainsOf, LoopResponse, LoopResponses } from '../../loop/loopResponse';
import { leadsAndLagsOf } from '../../loop/ratios';
import { TrailTable } from '../../loop/TrailTable';
import { useBenchKeys } from '../../loop/useBenchKeys';
import { useProbing } from '../../loop/useProbing';
import { additionsTo, without } from '../../plane/handles';
import { AxesMenu } from '../../plot/AxesMenu';
import type { PlotCurve, Reading } from '../../plot/curves';
import { EffortPlot } from '../../plot/EffortPlot';
import { frameAxes, frameWith } from '../../plot/frame';
import { limitsOf, nailsOnPlot, startsWithStep } from '../../plot/limits';
import { measureMarks } from '../../plot/measureMarks';
import { PolePlane } from '../../plot/PolePlane';
import { ResponsePlot } from '../../plot/ResponsePlot';
import { Formula } from '../../shared/Formula';
import { curvesShown, responsesOf, type StopResponse } from './curvesShown';
import { DesignPanes, isDesign } from './DesignPanes';
import { knobsOfGains } from './knobs';
import { PlotTools, type Shown } from './PlotTools';
import { StartOffers, useStartOffers } from './StartOffers';
import { useFrames } from './useFrames';

/** Measures of a loop are of its own step already. */
const asMeasured = { from: 0, to: 1, at: 0 };

/** How long gains must stand still to become a stop on the trail, in milliseconds. */
const stopAfter = 900;

/** Plots, ladder and trail of a gains part. */
export function GainsBench({
  part,
  work,
  dispatch,
  responses,
  response,
  keys,
}: {
  part: GainsOf;
  work: Work;
  dispatch: (action: WorkAction) => void;
  responses: LoopResponses;
  response: LoopResponse;
  keys: boolean;
}) {
  const answer = work.answers[part.id];
  const settings = useMemo(() => (answer?.kind === 'gains' ? answer.gains : {}), [answer]);
  const knobs = useKnobs(part, settings);
  const trail = useMemo(() => work.trails[part.id] ?? [], [work.trails, part.id]);
  const holding = response.verdict.items.filter((item) => item.met).length;
  const [shown, setShown] = useState<Shown>({ signal: 'y', measures: false, ghosts: true, family: '' });
  const probing = useProbing();
  const starts = useStartOffers(part, responses);
  const frames = useFrames(part, responses, response, trail[0]?.gains ?? settings);

  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'stop', part: part.id, holding }), stopAfter);
    return () => clearTimeout(timer);
  }, [answer, part.id, holding, dispatch]);

  const stops = responsesOf(trail, responses);
  const earlier = stops.filter((stop) => stop.response !== response);
  const first = earlier[0]?.response;
  const curves = curvesShown({
    ...{ shown, earlier, response, responses, settings, starts: starts.curves },
    isKnob: knobs.some(({ name }) => name === shown.family),
    isStep: startsWithStep(part.input),
  });
  const fit = () => frames.fit(curves, shown.signal === 'y', first);
  useBenchKeys(keys, part.id, knobs, work, dispatch, {
    f: fit,
    r: () => probing.onAdd(frames.frame.tMax / 4),
    m: () => setShown((old) => ({ ...old, measures: !old.measures })),
    g: () => setShown((old) => ({ ...old, ghosts: !old.ghosts })),
  });
  const setAll = (next: Settings) => dispatch({ do: 'setAll', part: part.id, settings: next });
  // The large s-plane shows the closed-loop poles already.
  const showsPoles = part.views.includes('plane') && !part.views.includes('locus') && !response.loop.hasDeadTime;
  const plots = (
    <Plots {...{ part, responses, response, knobs, shown, setShown, frames, probing, curves, first, fit }} />
  );

  return (
    <div className="flex min-w-0 flex-col gap-3.5">
      {isDesign(part) ? (
        <div className="grid content-start gap-x-5 gap-y-3.5 @min-[620px]:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] @min-[620px]:grid-rows-[auto_1fr]">
          <DesignPanes
            {...{ part, settings, responses, response, first }}
            held={work.held?.[part.id]}
            onSettings={setAll}
          />
          <div className="flex min-w-0 flex-col gap-3.5 @min-[620px]:col-start-2 @min-[620px]:row-start-1">{plots}</div>
        </div>
      ) : (
        <div className={inView}>{plots}</div>
      )}
      <Ladder
        part={part.id}
        knobs={knobs}
        settings={settings}
        chosen={work.chosen}
        dispatch={dispatch}
        onRemove={(name) => setAll(without(settings, name))}
      />
      <ControllerLine
        {...{ part, response, settings, knobs, starts }}
        held={work.held?.[part.id] ?? {}}
        onHold={(pair) => dispatch({ do: 'holdRatio', part: part.id, pair })}
        onSettings={setAll}
      />
      {starts.open && (
        <StartOffers
          part={part}
          shown={starts}
          onTake={(taken) => {
            starts.setOpen(false);
            setAll({ ...settings, ...taken });
          }}
        />
      )}
      <div className={`grid gap-4 ${showsPoles ? '@min-[620px]:grid-cols-[1fr_200px]' : ''}`}>
        <TrailTable
          part={part.id}
          knobs={knobs}
          rows={stops.map((stop) => trailRow(stop, response))}
          dispatch={dispatch}
        />
        {showsPoles && (
          <PolePlane
            title="Closed-loop poles"
            poles={response.poles}
            zeros={response.zeros}
            hidden={response.hidden}
            before={first?.poles ?? []}
            reach={frames.reach}
            listed
            className="h-[112px]"
          />
        )}
      </div>
    </div>
  );
}

/** The gains that a part asks for, optional ones once they are there. The same list while only their values change. */
function useKnobs(part: GainsOf, settings: Settings): readonly Knob[] {
  const present = Object.keys(settings).join();
  return useMemo(
    () => knobsOfGains(part).filter(({ name, optional }) => !optional || present.split(',').includes(name)),
    [part, present],
  );
}

const trailRow = ({ stop, index, response }: StopResponse, present: LoopResponse) => ({
  ...{ stop, index, current: response === present, measures: response.measures },
  held: `${response.verdict.items.filter((item) => item.met).length} of ${response.verdict.items.length}`,
});

/** The response, with the control effort below where the part shows it. */
function Plots({
  part,
  responses,
  response,
  knobs,
  shown,
  setShown,
  frames,
  probing,
  curves,
  first,
  fit,
}: {
  part: GainsOf;
  responses: LoopResponses;
  response: LoopResponse;
  knobs: readonly Knob[];
  shown: Shown;
  setShown: (shown: Shown) => void;
  frames: ReturnType<typeof useFrames>;
  probing: ReturnType<typeof useProbing>;
  curves: readonly PlotCurve[];
  first: LoopResponse | undefined;
  fit: () => void;
}) {
  const { measures, verdict, riseFrom } = response;
  const { frame } = frames;
  const families = useMemo(
    () => [...knobs.map(({ name }) => name), ...part.families.map(({ parameter }) => parameter)],
    [knobs, part.families],
  );
  const isStep = startsWithStep(part.input);
  const isOutput = shown.signal === 'y';
  const limits = isOutput
    ? limitsOf(nailsOnPlot(part), verdict.items, measures, riseFrom, frame.tMax, { height: responses.model.height })
    : [];
  const { marks, band } =
    shown.measures && isOutput && isStep
      ? measureMarks(betweenLevels(measures, asMeasured), must(response.curves.y), frame.tMax)
      : { marks: [], band: undefined };
  const design = isDesign(part);
  const effort = part.views.includes('effort');
  return (
    <>
      <ResponsePlot
        title={isOutput ? part.output : 'Error, reference minus measured'}
        frame={frame}
        curves={curves}
        limits={limits}
        {...(isOutput ? { reference: responses.reference } : {})}
        readings={isOutput && isStep && !shown.measures ? peakOf(response) : []}
        marks={marks}
        band={band}
        probing={probing}
        onFit={fit}
        onView={frames.view}
        onBack={frames.back}
        summary={summaryOf(part, response)}
        tools={
          <>
            <PlotTools shown={shown} onChange={setShown} families={families} folded={design} />
            <AxesMenu
              axes={frameAxes(frame, 's')}
              reads
              onChange={(axis, ends) => frames.view(frameWith(frame, axis, ends))}
            />
          </>
        }
        className={
          design
            ? 'h-[clamp(190px,28vh,300px)]'
            : effort
              ? 'h-[clamp(180px,34vh,340px)] @max-[620px]:h-[26vh]'
              : 'h-[clamp(190px,42vh,400px)] @max-[620px]:h-[30vh]'
        }
      />
      {effort && (
        <EffortPlot
          title={part.effort ?? 'Control effort'}
          frame={frames.effort}
          curve={response.curves.u}
          first={first?.curves.u}
          onFit={() => frames.fitEffort(first)}
          className="h-[88px]"
        />
      )}
    </>
  );
}

/** The controller in s, what can be held together, added and taken away, and ways to start. */
function ControllerLine({
  part,
  response,
  settings,
  knobs,
  starts,
  held,
  onHold,
  onSettings,
}: {
  part: GainsOf;
  response: LoopResponse;
  settings: Settings;
  knobs: readonly Knob[];
  starts: ReturnType<typeof useStartOffers>;
  /** Ratios that are held, by pair. */
  held: Readonly<Record<string, unknown>>;
  onHold: (pair: string) => void;
  onSettings: (settings: Settings) => void;
}) {
  const mayGo = (name: string) => knobs.some((knob) => knob.name === name && knob.optional);
  return (
    <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1 text-note text-slate">
      <ControllerForms response={response} part={part} />
      {leadsAndLagsOf(settings).map(({ pair, words }) => (
        <LeadOrLag
          key={pair}
          words={words}
          held={held[pair] !== undefined}
          onHold={() => onHold(pair)}
          {...(mayGo(`z${pair}`) && mayGo(`p${pair}`)
            ? { onRemove: () => onSettings(without(without(settings, `z${pair}`), `p${pair}`)) }
            : {})}
        />
      ))}
      {additionsTo(part, settings).map(({ label, settings: added }) => (
        <button key={label} type="button" className="link" onClick={() => onSettings({ ...settings, ...added })}>
          Add {label}
        </button>
      ))}
      {part.tunedStart && isPid(part.controller) && (
        <button type="button" className="link" aria-expanded={starts.open} onClick={() => starts.setOpen(!starts.open)}>
          Ways to start
        </button>
      )}
    </p>
  );
}

/** A lead or lag with its ratio, which can be held, so that zero and pole move as one. */
function LeadOrLag({
  words,
  held,
  onHold,
  onRemove,
}: {
  words: string;
  held: boolean;
  onHold: () => void;
  onRemove?: () => void;
}) {
  return (
    <span className="flex gap-2">
      {words}
      <button
        type="button"
        aria-pressed={held}
        title="Move both together"
        className={`link ${held ? 'font-medium text-ink decoration-ink' : ''}`}
        onClick={onHold}
      >
        Hold ratio
      </button>
      {onRemove && (
        <button type="button" aria-label={`Remove ${words.split(' =')[0]}`} className="link" onClick={onRemove}>
          ×
        </button>
      )}
    </span>
  );
}

/** The controller in s: a PID in the form asked for and in the other one, a compensator in factors. */
function ControllerForms({ response, part: { controller } }: { response: LoopResponse; part: GainsOf }) {
  const latex = isPid(controller) ? pidLatex(response, controller.form) : compensatorLatex(response.loop);
  return <Formula latex={`C(s)=${latex}`} className="text-[15px] text-ink" />;
}

function pidLatex({ loop }: LoopResponse, pidForm: 'parallel' | 'ideal' | 'series'): string {
  const forms = [pidForm, pidForm === 'parallel' ? 'ideal' : 'parallel'] as const;
  const written = forms.map((form) => controllerLatex(loop, form, pidForm)).filter((latex) => latex !== null);
  return written.filter((text, k) => written.indexOf(text) === k).join('\\;=\\;');
}

function peakOf({ measures: { peakTime, peakValue } }: LoopResponse): Reading[] {
  if (peakTime === null || peakValue === null) return [];
  return [{ time: peakTime, value: peakValue, words: `peak ${formatNumber(peakValue)} at ${withUnit(peakTime, 's')}` }];
}

function summaryOf(part: GainsOf, { measures, verdict }: LoopResponse): string {
  if (!measures.stable) return `${part.output}: the response grows without end. ${verdict.words}`;
  const rise = measures.riseTime === null ? '' : ` rise time ${withUnit(measures.riseTime, 's')},`;
  return `${part.output} after a step: final value ${formatNumber(must(measures.finalValue))},${rise} overshoot ${withUnit(
    measures.overshootPercent ?? 0,
    '%',
  )}, settles after ${withUnit(measures.settlingTime ?? 0, 's')}. ${verdict.words}`;
}
