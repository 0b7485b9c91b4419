import { type DrawValues, Problem, type Series, type Settings, withUnit } from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import { DesignPanes, isDesign } from '../kinds/gains/DesignPanes';
import { familyOverGain, familyOverParameter } from '../kinds/gains/PlotTools';
import { knobsOf } from '../kinds/students';
import { type GainsOf, type LoopResponse, loopResponses, tryResponse } from '../loop/loopResponse';
import type { PlotCurve } from '../plot/curves';
import { frameAbout } from '../plot/frame';
import { limitsOf, nailsOnPlot } from '../plot/limits';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import { Button } from '../shared/Button';
import { type RunMember, beginOf, membersOver } from './run';

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
  const [own, setOwn] = useState(start);
  const [over, setOver] = useState(knobs[0]!.name);
  const [at, setAt] = useState<number>();
  const [playing, setPlaying] = useState(false);
  const [family, setFamily] = useState(false);

  const members = useMemo(
    () => membersOver(over, knobs, own, responses, values),
    [over, knobs, own, responses, values],
  );
  const last = members.length - 1;
  const begin = useMemo(() => beginOf(members, own[over] ?? values[over]), [members, own, over, values]);
  const place = Math.min(at ?? begin, last);
  useEffect(() => {
    if (!playing || !revealed) return undefined;
    const timer = setInterval(
      () => setAt((old = begin) => (old >= last ? 0 : old + 1)),
      members.length > 10 ? beat : 5 * beat,
    );
    return () => clearInterval(timer);
  }, [playing, revealed, begin, last, members.length]);

  const first = useMemo(() => orNone(tryResponse(responses, start)), [responses, start]);
  const member = members[place];
  const now = revealed && member ? orNone(member.found()) : undefined;
  const shown = now ?? first;
  const frame = useMemo(() => frameAbout(part.horizon, responses.reference, responses.model.height), [part, responses]);
  const limits = shown
    ? limitsOf(
        nailsOnPlot(part),
        shown.verdict.items,
        shown.measures,
        shown.riseFrom,
        frame.tMax,
        responses.model.height,
      )
    : [];
  const isGain = knobs.some(({ name }) => name === over);
  const familyOf = () =>
    isGain ? familyOverGain(over, own, responses, 'y') : familyOverParameter(over, own, responses, 'y');
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
      summary={`${part.output}${now ? `, ${member!.label}` : ''}.`}
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
            responses={member!.responses}
            place="lectern"
            settings={now.settings}
            response={now}
            onSettings={(next) => {
              setPlaying(false);
              setOwn(next);
              setAt(undefined);
            }}
          />
          <div className="min-w-0 @min-[620px]:col-start-2 @min-[620px]:row-start-1">
            {response}
            <Told now={now} label={member!.label} />
          </div>
        </div>
      ) : (
        response
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[13px]">
        <label>
          Over{' '}
          <select
            aria-label="Runs over"
            className="bg-transparent text-petrol"
            value={over}
            onChange={(event) => {
              setOver(event.target.value);
              setAt(undefined);
            }}
          >
            {[...knobs.map(({ name }) => name), ...part.families.map(({ parameter }) => parameter)].map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <Button look="quiet" disabled={!revealed} aria-label="Step back" onClick={() => setAt(Math.max(0, place - 1))}>
          ‹
        </Button>
        <Button disabled={!revealed} onClick={() => setPlaying(!playing)}>
          {playing ? 'Pause' : 'Play'}
        </Button>
        <Button look="quiet" disabled={!revealed} aria-label="Step on" onClick={() => setAt(Math.min(last, place + 1))}>
          ›
        </Button>
        <input
          type="range"
          aria-label={`Place in the range of ${over}`}
          aria-valuetext={member?.label}
          className="min-w-24 flex-1 accent-petrol"
          disabled={!revealed}
          min={0}
          max={last}
          value={place}
          onChange={(event) => setAt(Number(event.target.value))}
        />
        <button
          type="button"
          className={`link ${family ? 'font-medium text-ink decoration-ink' : ''}`}
          aria-pressed={family}
          disabled={!revealed}
          onClick={() => setFamily(!family)}
        >
          Family
        </button>
      </div>
      {now && !isBeside && (
        <>
          <Told now={now} label={member!.label} />
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
    ...(now?.curves.y ? [{ id: 'now', curve: now.curves.y, look: 'now' as const, label: member!.label }] : []),
  ];
}

const orNone = (found: LoopResponse | Problem): LoopResponse | undefined =>
  found instanceof Problem ? undefined : found;
