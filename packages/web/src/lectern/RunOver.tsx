import { type DrawValues, must, Problem, type Series, type Settings, withUnit } from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import { DesignPanes, isDesign } from '../kinds/gains/DesignPanes';
import { familyOverGain, familyOverParameter } from '../kinds/gains/PlotTools';
import { knobsOf } from '../kinds/students';
import type { Knob } from '../loop/knob';
import { type GainsOf, type LoopResponse, type LoopResponses, loopResponses, tryResponse } from '../loop/loopResponse';
import type { PlotCurve } from '../plot/curves';
import { frameAbout } from '../plot/frame';
import { limitsOf, nailsOnPlot } from '../plot/limits';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import { Button } from '../shared/Button';
import { beginOf, membersOver, type RunMember } from './run';

/** Between two members of a long run, in milliseconds. */
const beat = 220;

/**
 * The response of a loop while one of its settings, or a parameter of its plant, runs over its range: played, paused, and
 * stepped, with the s-plane or the frequency response beside it where the part has them, on which settings are dragged.
 * Until the reveal only the curve that is known already is drawn.
 */
export function RunOver({
  part,
  series,
  values,
  revealed,
  settings,
}: {
  part: GainsOf;
  series: readonly Series[];
  /** Of the exercise's parameters. */
  values: DrawValues;
  revealed: boolean;
  /** From a bench; otherwise it begins where a student does. */
  settings?: Settings | undefined;
}) {
  const responses = useMemo(() => loopResponses(part, { names: new Map() }, series), [part, series]);
  const knobs = useMemo(
    () => knobsOf(part).filter(({ name, optional }) => !settings || !optional || settings[name] !== undefined),
    [part, settings],
  );
  const start = useMemo<Settings>(
    () => ({
      ...Object.fromEntries(knobs.filter(({ optional }) => !optional).map((knob) => [knob.name, String(knob.start)])),
      ...settings,
    }),
    [knobs, settings],
  );
  const run = useRun({ knobs, responses, values, start, revealed });
  const { over, member, family } = run;

  const first = useMemo(() => orNone(tryResponse(responses, start)), [responses, start]);
  const now = revealed && member ? orNone(member.response()) : undefined;
  const shown = now ?? first;
  const frame = useMemo(() => frameAbout(part.horizon, responses.reference, responses.model.height), [part, responses]);
  const limits = shown
    ? limitsOf(nailsOnPlot(part), shown.verdict.items, shown.measures, shown.riseFrom, frame.tMax, {
        height: responses.model.height,
      })
    : [];
  const isGain = knobs.some(({ name }) => name === over);
  const familyOf = () =>
    isGain ? familyOverGain(over, run.own, responses, 'y') : familyOverParameter(over, run.own, responses, 'y');
  // While one parameter runs, what the others would do is not about the loop that is shown.
  const alone = useMemo<GainsOf>(() => ({ ...part, families: [] }), [part]);
  const isBeside = isDesign(part) && now !== undefined;
  const response = (
    <ResponsePlot
      title={part.output}
      frame={frame}
      curves={curvesOf(first, now, member, family && revealed ? familyOf() : [])}
      limits={limits}
      reference={responses.reference}
      summary={`${part.output}${now ? `, ${must(member).label}` : ''}.`}
      className={isBeside ? 'h-[170px]' : 'h-[225px]'}
    />
  );
  return (
    <div className="grid content-start gap-2">
      {isBeside ? (
        <div className="grid content-start gap-x-5 gap-y-2 @min-[620px]:grid-cols-2 @min-[620px]:grid-rows-[auto_1fr]">
          <DesignPanes
            part={isGain ? part : alone}
            first={first}
            responses={must(member).responses}
            place="lectern"
            settings={now.settings}
            response={now}
            onSettings={run.takeOver}
          />
          <div className="min-w-0 @min-[620px]:col-start-2 @min-[620px]:row-start-1">
            {response}
            <Told now={now} label={must(member).label} />
          </div>
        </div>
      ) : (
        response
      )}
      <RunBar
        run={run}
        names={[...knobs.map(({ name }) => name), ...part.families.map(({ parameter }) => parameter)]}
        disabled={!revealed}
      />
      {now && !isBeside && (
        <>
          <Told now={now} label={must(member).label} />
          {now.poles.length > 0 && (
            <PolePlane
              title="Closed-loop poles"
              poles={now.poles}
              zeros={now.zeros}
              hidden={now.hidden}
              reach={reachOf(first?.poles ?? now.poles) * 1.5}
              className="h-[84px]"
            />
          )}
        </>
      )}
    </div>
  );
}

/** Where a run is, what it is over, and what the one in front of the room does to it. */
function useRun({
  knobs,
  responses,
  values,
  start,
  revealed,
}: {
  knobs: readonly Knob[];
  responses: LoopResponses;
  values: DrawValues;
  start: Settings;
  revealed: boolean;
}) {
  const [gains, setGains] = useState(start);
  const [over, setOver] = useState(must(knobs[0]).name);
  const [at, setAt] = useState<number>();
  const [playing, setPlaying] = useState(false);
  const [family, setFamily] = useState(false);

  const members = useMemo(
    () => membersOver(over, knobs, gains, responses, values),
    [over, knobs, gains, responses, values],
  );
  const last = members.length - 1;
  const begin = useMemo(() => beginOf(members, gains[over] ?? values[over]), [members, gains, over, values]);
  const place = Math.min(at ?? begin, last);
  useEffect(() => {
    if (!playing || !revealed) return undefined;
    const timer = setInterval(
      () => setAt((old = begin) => (old >= last ? 0 : old + 1)),
      members.length > 10 ? beat : 5 * beat,
    );
    return () => clearInterval(timer);
  }, [playing, revealed, begin, last, members.length]);

  return {
    ...{ own: gains, over, place, last, member: members[place], playing, family },
    ...{ setAt, setPlaying, setFamily },
    runOver: (name: string) => {
      setOver(name);
      setAt(undefined);
    },
    /** Goes on from settings that were dragged. */
    takeOver: (next: Settings) => {
      setPlaying(false);
      setGains(next);
      setAt(undefined);
    },
  };
}

/** What the run is over, back, play, on, its place, and the family. */
function RunBar({
  run,
  names,
  disabled,
}: {
  run: ReturnType<typeof useRun>;
  names: readonly string[];
  disabled: boolean;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
      <label>
        Over{' '}
        <select
          aria-label="Runs over"
          className="bg-transparent text-petrol"
          value={run.over}
          onChange={(event) => run.runOver(event.target.value)}
        >
          {names.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <Button
        look="quiet"
        disabled={disabled}
        aria-label="Step back"
        onClick={() => run.setAt(Math.max(0, run.place - 1))}
      >
        ‹
      </Button>
      <Button disabled={disabled} onClick={() => run.setPlaying(!run.playing)}>
        {run.playing ? 'Pause' : 'Play'}
      </Button>
      <Button
        look="quiet"
        disabled={disabled}
        aria-label="Step on"
        onClick={() => run.setAt(Math.min(run.last, run.place + 1))}
      >
        ›
      </Button>
      <input
        type="range"
        aria-label={`Place in the range of ${run.over}`}
        aria-valuetext={run.member?.label}
        className="min-w-24 flex-1 accent-petrol"
        disabled={disabled}
        min={0}
        max={run.last}
        value={run.place}
        onChange={(event) => run.setAt(Number(event.target.value))}
      />
      <button
        type="button"
        className={`link ${run.family ? 'font-medium text-ink decoration-ink' : ''}`}
        aria-pressed={run.family}
        disabled={disabled}
        onClick={() => run.setFamily(!run.family)}
      >
        Family
      </button>
    </div>
  );
}

function Told({ now: { measures, verdict }, label }: { now: LoopResponse; label: string }) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-5 text-[14px]" aria-live="polite">
      <b className="font-medium">{label}</b>
      <span>
        overshoot {measures.overshootPercent === null ? 'none: unstable' : withUnit(measures.overshootPercent, '%')}
      </span>
      {measures.settlingTime !== null && <span>settles in {withUnit(measures.settlingTime, 's')}</span>}
      <span>{verdict.words}</span>
    </p>
  );
}

/** Where the run began, a family where one is wanted, and the member that the run is at. */
function curvesOf(
  first: LoopResponse | undefined,
  now: LoopResponse | undefined,
  member: RunMember | undefined,
  family: readonly PlotCurve[],
): PlotCurve[] {
  return [
    ...(first?.curves.y && family.length === 0
      ? [{ id: 'first', curve: first.curves.y, look: now ? ('first' as const) : ('now' as const), label: 'start' }]
      : []),
    ...family.filter(({ label }) => label !== member?.label),
    ...(now?.curves.y ? [{ id: 'now', curve: now.curves.y, look: 'now' as const, label: must(member).label }] : []),
  ];
}

const orNone = (response: LoopResponse | Problem): LoopResponse | undefined =>
  response instanceof Problem ? undefined : response;
