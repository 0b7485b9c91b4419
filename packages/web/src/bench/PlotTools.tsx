import { Problem, type Settings, type SignalName } from '@nailset/core';
import type { PlotCurve } from '../plot/curves';
import type { Knob } from './knobs';
import { type LoopResponses, tryResponse } from './loopResponse';

/** What the plot shows beside the present curve. */
export interface Shown {
  readonly signal: Extract<SignalName, 'y' | 'e'>;
  readonly measures: boolean;
  readonly ghosts: boolean;
  /** The gain whose family is drawn; empty for none. */
  readonly family: string;
}

/** Which signal, the measures' marks, earlier curves, and a family over one gain. */
export function PlotTools({
  shown,
  onChange,
  knobs,
}: {
  shown: Shown;
  onChange: (shown: Shown) => void;
  knobs: readonly Knob[];
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
  return (
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
      ·{toggle('measures', 'Measures')}·{toggle('ghosts', 'Ghosts')}·
      <select
        aria-label="Family over a gain"
        className="bg-transparent text-petrol"
        value={shown.family}
        onChange={(event) => onChange({ ...shown, family: event.target.value })}
      >
        <option value="">no family</option>
        {knobs.map(({ name }) => (
          <option key={name} value={name}>
            family over {name}
          </option>
        ))}
      </select>
      ·
    </>
  );
}

const factors = [0.5, 0.75, 1.33, 2];

/** The response with one gain at a half, three quarters, four thirds and double its value. */
export function familyCurves(
  knob: string,
  settings: Settings,
  responses: LoopResponses,
  signal: SignalName,
): PlotCurve[] {
  return factors.flatMap((factor): PlotCurve[] => {
    const value = Number((Number(settings[knob]) * factor).toPrecision(3));
    const found = tryResponse(responses, { ...settings, [knob]: String(value) });
    const curve = found instanceof Problem ? null : found.curves[signal];
    return curve ? [{ id: `family-${factor}`, curve, look: 'family', label: `${knob} ${value}` }] : [];
  });
}
