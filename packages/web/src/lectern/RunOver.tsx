import { Problem, type Series, type Settings, formatNumber, withUnit } from '@nailset/core';
import { useEffect, useMemo, useState } from 'react';
import { knobsOf } from '../bench/knobs';
import { type GainsOf, loopResponses, tryResponse } from '../bench/loopResponse';
import type { PlotCurve } from '../plot/curves';
import { frameFor } from '../plot/frame';
import { limitsOf } from '../plot/limits';
import { PolePlane, reachOf } from '../plot/PolePlane';
import { ResponsePlot } from '../plot/ResponsePlot';
import { Button } from '../shared/Button';
import { stepsOver } from './votes';

const count = 41;
const beat = 220;

/**
 * The response of a loop while one of its settings, or a parameter of its plant, runs over its range: played, paused, and
 * stepped. Until the reveal only the curve that is known already is drawn.
 */
export function RunOver({
  part,
  series,
  revealed,
  settings,
}: {
  part: GainsOf;
  series: readonly Series[];
  revealed: boolean;
  /** From a bench; otherwise it begins where a student does. */
  settings?: Settings | undefined;
}) {
  const responses = useMemo(() => loopResponses(part, { names: new Map() }, series), [part, series]);
  const knobs = useMemo(
    () => knobsOf(part).filter(({ name, optional }) => !settings || !optional || settings[name] !== undefined),
    [part, settings],
  );
  const parameters = part.families.map(({ parameter }) => parameter);
  const [over, setOver] = useState(knobs[0]!.name);
  const [at, setAt] = useState<number>();
  const [playing, setPlaying] = useState(false);
  const start = useMemo(
    () => ({
      ...Object.fromEntries(knobs.filter(({ optional }) => !optional).map((knob) => [knob.name, String(knob.start)])),
      ...settings,
    }),
    [knobs, settings],
  );

  const members = useMemo(() => {
    const knob = knobs.find(({ name }) => name === over);
    if (!knob)
      return responses
        .others(over)
        .map(({ label, responses: other }) => ({ label, value: NaN, found: tryResponse(other, start) }));
    const low = knob.low ?? Math.min(0, knob.start);
    const high = Math.min(knob.high ?? Infinity, knob.start + 12 * knob.coarse);
    return stepsOver({ low, high, count }).map((value) => ({
      label: `${over} ${formatNumber(Number(value))}`,
      value: Number(value),
      found: tryResponse(responses, { ...start, [over]: value }),
    }));
  }, [knobs, over, responses, start]);
  const last = members.length - 1;
  // It begins where the student begins.
  const begin = useMemo(() => {
    const value = Number((start as Settings)[over]);
    const off = members.map(({ value: at }) => Math.abs(at - value));
    return Number.isFinite(value) ? Math.max(0, off.indexOf(Math.min(...off))) : 0;
  }, [members, over, start]);
  const place = Math.min(at ?? begin, last);
  useEffect(() => {
    if (!playing || !revealed) return undefined;
    const timer = setInterval(
      () => setAt((old = begin) => (old >= last ? 0 : old + 1)),
      members.length > 10 ? beat : 5 * beat,
    );
    return () => clearInterval(timer);
  }, [playing, revealed, begin, last, members.length]);

  const first = tryResponse(responses, start);
  const member = members[place];
  const now = revealed && member && !(member.found instanceof Problem) ? member.found : undefined;
  const frame = frameFor(part.horizon, [], [0, 1.6 * responses.model.height]);
  const known = first instanceof Problem ? undefined : first;
  const curves: PlotCurve[] = [
    ...(known?.curves.y
      ? [{ id: 'first', curve: known.curves.y, look: now ? ('first' as const) : ('now' as const), label: 'start' }]
      : []),
    ...(now?.curves.y ? [{ id: 'now', curve: now.curves.y, look: 'now' as const, label: member!.label }] : []),
  ];
  const shown = now ?? known;
  const limits = shown
    ? limitsOf(part.nails, shown.verdict.items, shown.measures, shown.riseFrom, frame.tMax, responses.model.height)
    : [];
  return (
    <div className="grid content-start gap-2">
      <ResponsePlot
        title={part.output}
        frame={frame}
        curves={curves}
        limits={limits}
        reference={responses.reference}
        summary={`${part.output}${now ? `, ${member!.label}` : ''}.`}
        className="h-[250px]"
      />
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
            {[...knobs.map(({ name }) => name), ...parameters].map((name) => (
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
          className="min-w-24 flex-1 accent-petrol"
          disabled={!revealed}
          min={0}
          max={last}
          value={place}
          onChange={(event) => setAt(Number(event.target.value))}
        />
      </div>
      {now && (
        <p className="flex flex-wrap items-baseline gap-x-5 text-[15px]" aria-live="polite">
          <b className="font-medium">{member!.label}</b>
          <span>
            overshoot{' '}
            {now.measures.overshootPercent === null ? 'none: unstable' : withUnit(now.measures.overshootPercent, '%')}
          </span>
          {now.measures.settlingTime !== null && <span>settles in {withUnit(now.measures.settlingTime, 's')}</span>}
          <span>{now.verdict.words}</span>
        </p>
      )}
      {now && now.poles.length > 0 && (
        <PolePlane
          title="Closed-loop poles"
          poles={now.poles}
          zeros={now.zeros}
          reach={reachOf(known?.poles ?? now.poles) * 1.5}
          className="h-[96px]"
        />
      )}
    </div>
  );
}
