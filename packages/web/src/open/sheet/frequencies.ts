import {
  type FrequencyFunction,
  frequencyFunction,
  magnitudeAndPhase,
  orProblem,
  plotFrequencies,
  Problem,
  type Transfer,
} from '@nailset/core';
import type { BodeCurve } from '../../frequency/BodeAxes';
import { readAt, type ReadSystem } from '../../frequency/readings';
import type { Drawn } from './drawn';

interface Known {
  /** Null where there is none. */
  readonly exactly: FrequencyFunction | null;
  readonly curves: Map<string, BodeCurve | null>;
}

const known = new WeakMap<Transfer, Known>();

function knownOf(transfer: Transfer): Known {
  const before = known.get(transfer);
  if (before) return before;
  const exactly = orProblem(() => frequencyFunction(transfer));
  const now = { exactly: exactly instanceof Problem ? null : exactly, curves: new Map<string, BodeCurve | null>() };
  known.set(transfer, now);
  return now;
}

const rootless = { zeros: [], poles: [] };

/** Frequencies in rad/s over which all of the systems do something. */
export function spanOf(drawn: readonly Drawn[]): readonly [from: number, to: number] {
  const spans = drawn.flatMap(({ facts: { system } }) => {
    if (!system) return [];
    const omegas = plotFrequencies(system, 2);
    return [[omegas[0] ?? 0.1, omegas.at(-1) ?? 10] as const];
  });
  if (spans.length === 0) return [0.1, 100];
  return [Math.min(...spans.map(([from]) => from)), Math.max(...spans.map(([, to]) => to))];
}

/** Level and phase over a span, with more points where a lightly damped pair bends them; null for a system that has none. */
export function levelsOf(
  { transfer, facts: { system } }: Pick<Drawn, 'transfer' | 'facts'>,
  span: readonly [number, number],
  points = 240,
): BodeCurve | null {
  const key = `${span.join(' ')} ${points}`;
  const { exactly, curves } = knownOf(transfer);
  const before = curves.get(key);
  if (before !== undefined || !exactly) return before ?? null;
  const omegas = plotFrequencies(system ?? rootless, points, span);
  const curve = orProblem(() => ({ omegas, ...magnitudeAndPhase(transfer, omegas, exactly) }));
  const shown = curve instanceof Problem ? null : curve;
  if (curves.size > 6) curves.clear();
  curves.set(key, shown);
  return shown;
}

/** What a system has at any frequency, exactly. */
export const readingOf = ({ label, transfer }: Drawn): ReadSystem => ({
  label,
  at: (omega) => {
    const { exactly } = knownOf(transfer);
    const read = exactly && orProblem(() => readAt(exactly, omega));
    return read instanceof Problem ? undefined : (read ?? undefined);
  },
});
