import {
  attempt,
  type Curve,
  curveOf,
  formatNumber,
  inputLine,
  type InputSignal,
  motionOf,
  Problem,
  type Sheet,
  type Transfer,
} from '@nailset/core';
import { useMemo } from 'react';
import { useProbing } from '../loop/useProbing';
import type { PlotCurve } from '../plot/curves';
import { frameFor } from '../plot/frame';
import { ResponsePlot } from '../plot/ResponsePlot';
import type { Drawn } from './drawn';
import type { PaneProps } from './panes';
import { useHeld } from './useHeld';

type Driven = Pick<Sheet, 'input' | 'size' | 'at'>;

/** What drives the systems. */
const signalOf = ({ input, size, at }: Driven): InputSignal =>
  input === 'step' ? { kind: 'levels', from: 0, to: size, at } : { kind: input, amplitude: size, at };

/** Curves that were worked out before, by system, input and time. */
const known = new WeakMap<Transfer, Map<string, Curve | null>>();

/** The response of a system; null for one that has none to this input, as of a derivative to a step. */
export function responseOf(transfer: Transfer, driven: Driven, until: number): Curve | null {
  const key = `${driven.input} ${driven.size} ${driven.at} ${until}`;
  const curves = known.get(transfer) ?? new Map<string, Curve | null>();
  known.set(transfer, curves);
  const found = curves.get(key);
  if (found !== undefined) return found;
  const curve = attempt(() => {
    const motion = motionOf(transfer, signalOf(driven), []);
    const rough = curveOf(motion, until, 0.01);
    const size = Math.max(...rough.values.map(Math.abs));
    return curveOf(motion, until, 0.002 * (size > 0 && size < 1e5 ? size : 1));
  });
  const shown = curve instanceof Problem ? null : curve;
  if (curves.size > 6) curves.clear();
  curves.set(key, shown);
  return shown;
}

/** Responses of every system to one input, with the input. */
export function ResponsePane({
  drawn,
  chosen,
  kept,
  fits,
  className,
  driven,
  until,
}: PaneProps & { driven: Driven; until: number }) {
  const probing = useProbing();
  const curvesOf = (systems: readonly Drawn[], ghost: boolean): PlotCurve[] =>
    systems.flatMap(({ id, label, transfer, stroke }): PlotCurve[] => {
      const curve = responseOf(transfer, driven, until);
      if (!curve) return [];
      if (ghost) return [{ id: `kept ${id}`, curve, look: 'ghost', name: `${label}, kept` }];
      const look = id === chosen?.id ? 'now' : 'held';
      return [{ id, curve, look, stroke: id === chosen?.id ? bold(stroke) : stroke, label }];
    });
  const curves = [...curvesOf(kept, true), ...curvesOf(drawn, false)];
  const { input, size, at } = driven;
  const reference = useMemo((): Curve => {
    const { times, values } = inputLine(signalOf({ input, size, at }), [], until);
    return { times: Float64Array.from(times), values: Float64Array.from(values) };
  }, [input, size, at, until]);
  const make = () =>
    frameFor(
      until,
      curves.map(({ curve }) => curve),
      input === 'step' ? [0, size] : [0],
    );
  const [frame, , fit] = useHeld(curves.length > 0, `${fits} ${input} ${size} ${at}`, make);
  // Another time is another plot; so is another input.
  const shown = frame.tMax === until ? frame : { ...frame, tMax: until };
  const ends = curves
    .filter(({ label }) => label)
    .map(({ label, curve }) => `${label} ${formatNumber(curve.values.at(-1) ?? NaN)}`);
  const words = `${size === 1 ? 'a unit' : 'a'} ${input}${size === 1 ? '' : ` of ${formatNumber(size)}`}`;
  const silent = drawn.length - curves.filter(({ label }) => label).length;
  return (
    <ResponsePlot
      title={`Response to ${words}`}
      frame={shown}
      curves={curves}
      reference={reference}
      referenceName="input"
      probing={probing}
      onFit={fit}
      tools={silent > 0 && <span>{silent === 1 ? 'one has' : `${silent} have`} no such response</span>}
      summary={`Responses to ${words} after ${formatNumber(until)} s: ${ends.join(', ') || 'none'}.`}
      className={className}
    />
  );
}

const made = new WeakMap<Drawn['stroke'], Drawn['stroke']>();

/** The same stroke, wider: the one that is chosen. */
function bold(stroke: Drawn['stroke']): Drawn['stroke'] {
  const wide = made.get(stroke) ?? { ...stroke, width: 2.8, text: `${stroke.text} font-semibold` };
  made.set(stroke, wide);
  return wide;
}
