import { type Curve, formatNumber, numberIn, Problem, type Settings, type SignalName } from '@nailset/core';
import { Popover } from 'radix-ui';
import { memo } from 'react';
import { type LoopResponses, tryResponse } from '../../loop/loopResponse';
import type { PlotCurve } from '../../plot/curves';

/** What the plot shows beside the present curve. */
export interface Shown {
  readonly signal: Extract<SignalName, 'y' | 'e'>;
  readonly measures: boolean;
  readonly ghosts: boolean;
  /** The gain, or the parameter of the plant, whose family is drawn; empty for none. */
  readonly family: string;
}

/** Which signal, the measures' marks, earlier curves, and a family over one gain or parameter. */
export const PlotTools = memo(function PlotTools({
  shown,
  onChange,
  families,
  folded,
}: {
  shown: Shown;
  onChange: (shown: Shown) => void;
  /** What a family can be drawn over. */
  families: readonly string[];
  /** Behind one word, where the plot is too narrow for all. */
  folded: boolean;
}) {
  const toggle = (name: 'measures' | 'ghosts', words: string) => (
    <button
      type="button"
      aria-pressed={shown[name]}
      className={`link ${shown[name] ? 'font-medium text-ink decoration-ink' : ''}`}
      onClick={() => onChange({ ...shown, [name]: !shown[name] })}
    >
      {words}
    </button>
  );
  const all = (
    <>
      <select
        aria-label="Signal shown"
        className="bg-transparent text-petrol"
        value={shown.signal}
        onChange={(event) => onChange({ ...shown, signal: event.target.value as Shown['signal'] })}
      >
        <option value="y">output</option>
        <option value="e">error</option>
      </select>
      {toggle('measures', 'Measures')}
      {toggle('ghosts', 'Ghosts')}
      <select
        aria-label="Family over a gain or parameter"
        className="bg-transparent text-petrol"
        value={shown.family}
        onChange={(event) => onChange({ ...shown, family: event.target.value })}
      >
        <option value="">one curve</option>
        {families.map((name) => (
          <option key={name} value={name}>
            family over {name}
          </option>
        ))}
      </select>
    </>
  );
  if (!folded) return all;
  return (
    <Popover.Root>
      <Popover.Trigger className="link">Show</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          className="z-30 grid justify-items-start gap-2 rounded-[3px] border border-rule bg-paper px-4 py-3 text-[13px]"
        >
          {all}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

const factors = [0.5, 0.75, 1.33, 2];

/** The response with one gain at a half, three quarters, four thirds and double its value. */
export function familyOverGain(
  name: string,
  settings: Settings,
  responses: LoopResponses,
  signal: SignalName,
): PlotCurve[] {
  return factors.flatMap((factor) => {
    const value = Number((numberIn(settings[name]) * factor).toPrecision(3));
    return member(`${name} ${value}`, curveAt(responses, { ...settings, [name]: String(value) }, signal));
  });
}

/** The response with the same gains at the other values of a parameter. */
export function familyOverParameter(
  name: string,
  settings: Settings,
  responses: LoopResponses,
  signal: SignalName,
): PlotCurve[] {
  return responses
    .others(name)
    .flatMap(({ value, responses: other }) =>
      member(`${name} ${formatNumber(value)}`, curveAt(other, settings, signal)),
    );
}

function curveAt(responses: LoopResponses, settings: Settings, signal: SignalName): Curve | null {
  const response = tryResponse(responses, settings);
  return response instanceof Problem ? null : response.curves[signal];
}

const member = (label: string, curve: Curve | null): PlotCurve[] =>
  curve ? [{ id: `family-${label}`, curve, look: 'family', label }] : [];
