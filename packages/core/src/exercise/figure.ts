import { orElse } from '../expression/problem.js';
import type { Scope } from '../formula/evaluate.js';
import { systemFrom } from '../formula/evaluate.js';
import { curveOf } from '../response/curve.js';
import { inputAt, partsOf } from '../response/input.js';
import { measuresOfTransfer } from '../response/measures.js';
import type { InputSignal, Series } from './given.js';
import type { Figure } from './heading.js';
import { inputFrom, motionOf, unitStep } from './inputs.js';
import { betweenLevels } from './levelMeasures.js';
import type { FigureMeasures, Samples } from './seen.js';

/** Finer than a line on a screen, as a share of the curve's range. */
const fine = 1e-3;

/** The curves of a figure with one student's numbers, all of them. @throws Problem when a system cannot be worked out. */
export function figureCurves(
  figure: Figure,
  scope: Scope,
  series: readonly Series[],
): (Samples & { later: boolean })[] {
  return figure.curves.map(({ label, system, series: id, afterwards }) => {
    const measured = series.find((entry) => entry.id === id);
    if (measured) return { label, times: measured.times, values: measured.values, later: afterwards };
    const transfer = systemFrom(system ?? '', scope);
    return { ...sampled(label, motionOf(transfer, figure.input, series), figure.horizon), later: afterwards };
  });
}

/** Measures of a figure's curves: null for data, for what never comes to rest, and where the input is no step. */
export function figureMeasures({ input = unitStep, curves }: Figure, scope: Scope): FigureMeasures {
  return curves.map(({ system, series }) => {
    if (input.kind !== 'levels' || system === undefined || series !== undefined) return null;
    return orElse(null, () => betweenLevels(measuresOfTransfer(systemFrom(system, scope)), input));
  });
}

/** A motion as points for drawing, six significant digits. */
export function sampled(
  label: string,
  motion: Parameters<typeof curveOf>[0],
  horizon: number,
  { tolerance = fine, digits = 6 } = {},
): Samples {
  let range = 0;
  for (let k = 0; k <= 50; k++) range = Math.max(range, Math.abs(motion.at((horizon * k) / 50)));
  const { times, values } = curveOf(motion, horizon, tolerance * (range || 1));
  const short = (value: number): number => Number(value.toPrecision(digits));
  return { label, times: Array.from(times, short), values: Array.from(values, short) };
}

/** The input as a line to draw beside the responses; an impulse has none. */
export function inputLine(signal: InputSignal | undefined, series: readonly Series[], horizon: number): Samples {
  if (signal?.kind === 'initial' || signal?.kind === 'impulse') return { label: 'input', times: [], values: [] };
  const { level, parts } = partsOf(inputFrom(signal ?? unitStep, series));
  const times = new Set([0, horizon]);
  for (const { at } of parts) if (at > 0 && at < horizon) times.add(at);
  if (parts.some(({ power }) => power === 2)) for (let k = 1; k < 60; k++) times.add((horizon * k) / 60);
  const line: Samples = { label: 'input', times: [], values: [] };
  for (const time of [...times].sort((a, b) => a - b)) {
    const [before, after] = [level + inputAt(parts, time, false), level + inputAt(parts, time, true)];
    if (before !== after && time > 0) {
      line.times.push(time);
      line.values.push(before);
    }
    line.times.push(time);
    line.values.push(after);
  }
  return line;
}
