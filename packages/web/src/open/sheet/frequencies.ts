import { magnitudeAndPhase, orProblem, plotFrequencies, Problem, type Transfer } from '@nailset/core';
import type { BodeCurve } from '../../frequency/BodeAxes';
import type { Drawn } from './drawn';

const known = new WeakMap<Transfer, Map<string, BodeCurve | null>>();

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

/** Level and phase over a span; null for a system that has none. */
export function levelsOf(transfer: Transfer, [from, to]: readonly [number, number], points = 240): BodeCurve | null {
  const key = `${from} ${to} ${points}`;
  const curves = known.get(transfer) ?? new Map<string, BodeCurve | null>();
  known.set(transfer, curves);
  const before = curves.get(key);
  if (before !== undefined) return before;
  const omegas = Float64Array.from({ length: points }, (_, k) => from * (to / from) ** (k / (points - 1)));
  const curve = orProblem(() => ({ omegas, ...magnitudeAndPhase(transfer, omegas) }));
  const shown = curve instanceof Problem ? null : curve;
  if (curves.size > 6) curves.clear();
  curves.set(key, shown);
  return shown;
}
