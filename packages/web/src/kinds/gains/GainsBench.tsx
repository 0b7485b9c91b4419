import { knobsOfGains } from './knobs';
import { Problem, type Settings, formatNumber, isPid, withUnit } from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import { EffortPlot } from '../../plot/EffortPlot';
import { PolePlane, reachOf } from '../../plot/PolePlane';
import { ResponsePlot } from '../../plot/ResponsePlot';
import type { PlotCurve, Reading } from '../../plot/curves';
import { frameAbout, frameFor } from '../../plot/frame';
import { limitsOf, nailsOnPlot, startsWithStep } from '../../plot/limits';
import { measureMarks } from '../../plot/measureMarks';
import { useFrame } from '../../plot/useFrame';
import { Formula } from '../../shared/Formula';
import { additionsTo, without } from '../../plane/handles';
import { leadsAndLagsOf } from '../../loop/ratios';
import { compensatorLatex, controllerLatex } from '../../loop/controllerText';
import { Ladder } from '../../loop/Ladder';
import { type GainsOf, type LoopResponse, type LoopResponses, tryResponse } from '../../loop/loopResponse';
import { PlotTools, type Shown, familyOverGain, familyOverParameter } from './PlotTools';
import { DesignPanes, isDesign } from './DesignPanes';
import { TrailTable } from '../../loop/TrailTable';
import { StartOffers, useStartOffers } from './StartOffers';
import { useBenchKeys } from '../../loop/useBenchKeys';
import { useProbing } from '../../loop/useProbing';
import type { Work, WorkAction } from '../../loop/action';

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
  part: GainsOf;
  work: Work;
  dispatch: (action: WorkAction) => void;
  responses: LoopResponses;
  response: LoopResponse;
  keys: boolean;
}) {
  const answer = work.answers[part.id]!;
  const settings = useMemo(() => (answer.kind === 'gains' ? answer.gains : {}), [answer]);
  // The same list for as long as the same settings are there, whatever their values.
  const present = Object.keys(settings).join();
  const knobs = useMemo(
    () => knobsOfGains(part).filter(({ name, optional }) => !optional || present.split(',').includes(name)),
    [part, present],
  );
  const families = useMemo(
    () => [...knobs.map(({ name }) => name), ...part.families.map(({ parameter }) => parameter)],
    [knobs, part.families],
  );
  const trail = useMemo(() => work.trails[part.id] ?? [], [work.trails, part.id]);
  const { measures, curves, verdict, riseFrom, poles, hidden, zeros } = response;
  const { height } = responses.model;
  const holding = verdict.items.filter((item) => item.met).length;
  const [shown, setShown] = useState<Shown>({ signal: 'y', measures: false, ghosts: true, family: '' });
  const probing = useProbing();
  const starts = useStartOffers(part, responses);
  const curve = curves[shown.signal] ?? curves.y!;
  const isStep = startsWithStep(part.input);

  const [frame, setFrame] = useFrame(part.horizon, () => frameAbout(part.horizon, responses.reference, height));
  const [effortFrame, setEffortFrame] = useFrame(part.horizon, () =>
    frameFor(part.horizon, [], effortLevels(responses, curves.u)),
  );
  // Held from where the work began, so that there is room to see the poles move.
  const [reach, setReach] = useState(() => {
    const start = tryResponse(responses, trail[0]?.gains ?? settings);
    const from = start instanceof Problem ? response : start;
    return Math.max(1.5 * reachOf(from.poles), reachOf(poles));
  });

  useEffect(() => {
    const timer = setTimeout(() => dispatch({ do: 'stop', part: part.id, holding }), stopAfter);
    return () => clearTimeout(timer);
  }, [answer, part.id, holding, dispatch]);

  const stops = trail
    .map((stop, index) => ({ stop, index, found: tryResponse(responses, stop.gains) }))
    .flatMap(({ stop, index, found }) => (found instanceof Problem ? [] : [{ stop, index, found }]));
  const earlier = stops.filter(({ found }) => found !== response);
  const first = earlier[0]?.found;
  const of = (found: LoopResponse) => found.curves[shown.signal] ?? found.curves.y!;
  const pinned = earlier.filter(({ stop }) => stop.pinned);
  const ghosts = shown.ghosts ? earlier.slice(1).filter(({ stop }) => !stop.pinned) : [];
  const overGain = knobs.some(({ name }) => name === shown.family);
  const family = overGain
    ? familyOverGain(shown.family, settings, responses, shown.signal)
    : familyOverParameter(shown.family, settings, responses, shown.signal);
  const drawn: PlotCurve[] = [
    ...ghosts
      .slice(-ghostsShown)
      .map(({ found, index }) => ({ id: `ghost-${index}`, curve: of(found), look: 'ghost' as const })),
    ...family,
    ...(first && family.length === 0
      ? [{ id: 'first', curve: of(first), look: 'first' as const, label: isStep ? endLabel('first', first) : 'first' }]
      : []),
    ...pinned.map(({ stop, found, index }) => ({
      id: `pin-${index}`,
      curve: of(found),
      look: 'second' as const,
      label: stop.name ?? `stop ${index + 1}`,
    })),
    ...(shown.signal === 'y' ? starts.curves : []),
    { id: 'now', curve, look: 'now', label: isStep ? endLabel('now', response) : 'now' },
  ];
  const isOutput = shown.signal === 'y';
  const fitEffort = () =>
    curves.u && setEffortFrame(frameFor(part.horizon, [curves.u, ...(first?.curves.u ? [first.curves.u] : [])]));
  const fit = () => {
    const all = drawn.map((each) => each.curve);
    setFrame(frameFor(part.horizon, all, isOutput ? [0, height] : [0]));
    fitEffort();
    setReach(reachOf(poles));
  };
  useBenchKeys(keys, part.id, knobs, work, dispatch, {
    f: fit,
    r: () => probing.onAdd(frame.tMax / 4),
    m: () => setShown((old) => ({ ...old, measures: !old.measures })),
    g: () => setShown((old) => ({ ...old, ghosts: !old.ghosts })),
  });
  const limits = isOutput ? limitsOf(nailsOnPlot(part), verdict.items, measures, riseFrom, frame.tMax, height) : [];
  const { marks, band } =
    shown.measures && isOutput && isStep ? measureMarks(measures, curve, frame.tMax) : { marks: [], band: undefined };

  const setAll = (next: Settings) => dispatch({ do: 'setAll', part: part.id, settings: next });
  const mayGo = (name: string) => knobs.some((knob) => knob.name === name && knob.optional);
  const design = isDesign(part);
  // The large s-plane shows the closed-loop poles already.
  const showsPoles = part.views.includes('plane') && !part.views.includes('locus') && !response.loop.hasDeadTime;
  const plots = (
    <>
      <ResponsePlot
        title={isOutput ? part.output : 'Error, reference minus measured'}
        frame={frame}
        curves={drawn}
        limits={limits}
        {...(isOutput ? { reference: responses.reference } : {})}
        readings={isOutput && isStep && !shown.measures ? peakOf(response) : []}
        marks={marks}
        band={band}
        probing={probing}
        onFit={fit}
        summary={summaryOf(part, response)}
        tools={<PlotTools shown={shown} onChange={setShown} families={families} folded={design} />}
        className={
          design
            ? 'h-[clamp(190px,28vh,300px)]'
            : part.views.includes('effort')
              ? 'h-[clamp(200px,34vh,340px)]'
              : 'h-[clamp(220px,42vh,400px)]'
        }
      />
      {part.views.includes('effort') && (
        <EffortPlot
          title={part.effort ?? 'Control effort'}
          frame={effortFrame}
          curve={curves.u}
          first={first?.curves.u}
          onFit={fitEffort}
          className="h-[88px]"
        />
      )}
    </>
  );

  return (
    <div className="flex min-w-0 flex-col gap-3.5">
      {design ? (
        <div className="grid content-start gap-x-5 gap-y-3.5 @min-[620px]:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] @min-[620px]:grid-rows-[auto_1fr]">
          <DesignPanes
            {...{ part, settings, responses, response, first }}
            held={work.held?.[part.id]}
            onSettings={setAll}
          />
          <div className="flex min-w-0 flex-col gap-3.5 @min-[620px]:col-start-2 @min-[620px]:row-start-1">{plots}</div>
        </div>
      ) : (
        plots
      )}
      <Ladder
        part={part.id}
        knobs={knobs}
        settings={settings}
        chosen={work.chosen}
        dispatch={dispatch}
        onRemove={(name) => setAll(without(settings, name))}
      />
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1 text-note text-slate">
        <ControllerForms response={response} part={part} />
        {leadsAndLagsOf(settings).map(({ pair, words }) => (
          <LeadOrLag
            key={pair}
            words={words}
            held={work.held?.[part.id]?.[pair] !== undefined}
            onHold={() => dispatch({ do: 'holdRatio', part: part.id, pair })}
            {...(mayGo(`z${pair}`) && mayGo(`p${pair}`)
              ? { onRemove: () => setAll(without(without(settings, `z${pair}`), `p${pair}`)) }
              : {})}
          />
        ))}
        {additionsTo(part, settings).map(({ label, settings: added }) => (
          <button key={label} type="button" className="link" onClick={() => setAll({ ...settings, ...added })}>
            Add {label}
          </button>
        ))}
        {part.tunedStart && isPid(part.controller) && (
          <button
            type="button"
            className="link"
            aria-expanded={starts.open}
            onClick={() => starts.setOpen(!starts.open)}
          >
            Ways to start
          </button>
        )}
      </p>
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
          rows={stops.map(({ stop, index, found }) => ({
            stop,
            index,
            current: found === response,
            measures: found.measures,
            held: `${found.verdict.items.filter((item) => item.met).length} of ${found.verdict.items.length}`,
          }))}
          dispatch={dispatch}
        />
        {showsPoles && (
          <PolePlane
            title="Closed-loop poles"
            poles={poles}
            zeros={zeros}
            hidden={hidden}
            before={first?.poles ?? []}
            reach={reach}
            listed
            className="h-[112px]"
          />
        )}
      </div>
    </div>
  );
}

/** Room for the effort: its limits, or several times what it takes where the work begins. */
function effortLevels({ model }: LoopResponses, start: LoopResponse['curves']['u']): number[] {
  if (model.limits) return [model.limits.low, model.limits.high, 0];
  const values = start ? Array.from(start.values) : [1];
  return [0, 5 * Math.max(0, ...values), 5 * Math.min(0, ...values)];
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

function pidLatex({ loop }: LoopResponse, own: 'parallel' | 'ideal' | 'series'): string {
  const forms = [own, own === 'parallel' ? 'ideal' : 'parallel'] as const;
  const written = forms.map((form) => controllerLatex(loop, form, own)).filter((latex) => latex !== null);
  return written.filter((text, k) => written.indexOf(text) === k).join('\\;=\\;');
}

function peakOf({ measures: { peakTime, peakValue } }: LoopResponse): Reading[] {
  if (peakTime === null || peakValue === null) return [];
  return [{ time: peakTime, value: peakValue, words: `peak ${formatNumber(peakValue)} at ${withUnit(peakTime, 's')}` }];
}

const endLabel = (name: string, { measures }: LoopResponse): string =>
  measures.finalValue === null ? `${name}, unstable` : `${name}, ${measures.finalValue.toFixed(2)}`;

function summaryOf(part: GainsOf, { measures, verdict }: LoopResponse): string {
  if (!measures.stable) return `${part.output}: the response grows without end. ${verdict.words}`;
  const rise = measures.riseTime === null ? '' : ` rise time ${withUnit(measures.riseTime, 's')},`;
  return `${part.output} after a step: final value ${formatNumber(measures.finalValue!)},${rise} overshoot ${withUnit(
    measures.overshootPercent ?? 0,
    '%',
  )}, settles after ${withUnit(measures.settlingTime ?? 0, 's')}. ${verdict.words}`;
}
