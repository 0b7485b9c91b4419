import { closeShare } from '../../checking/close.js';
import { namedNumbers } from '../../checking/namedNumbers.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatNumber } from '../../checking/words.js';
import type { Settings } from '../../exercise/answer.js';
import type { Series } from '../../exercise/given.js';
import { motionOf } from '../../exercise/inputs.js';
import type { Samples } from '../../exercise/seen.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { decimalFrom, refuseOutside } from '../../loop/controller.js';
import type { Motion } from '../../response/motion.js';
import { constantTransfer } from '../../system/transferAlgebra.js';
import type { Checking } from '../kind.js';
import type { CurvePart } from './part.js';
import { targetOf } from './target.js';

/** The model's response with a student's settings. @throws Problem for a setting that is no number, or a model that cannot be worked out. */
export function curveMotion(
  part: Pick<CurvePart, 'model' | 'knobs' | 'input'>,
  scope: Scope,
  settings: Settings,
  series: readonly Series[],
): Motion {
  const names = new Map(scope.names);
  for (const { symbol } of part.knobs) names.set(symbol, constantTransfer(decimalFrom(settings[symbol], symbol)));
  return motionOf(systemFrom(part.model, { ...scope, names }), part.input, series);
}

/**
 * Root mean square distance between a motion and a curve over its time up to the horizon, in per cent of the curve's
 * range. Method: trapezoidal rule over the curve's own times.
 */
export function misfitPercent(
  motion: Motion,
  { times, values }: Pick<Samples, 'times' | 'values'>,
  horizon: number,
): number {
  let [low, high, sum, span] = [Infinity, -Infinity, 0, 0];
  let before: number | undefined;
  times.forEach((time, k) => {
    if (time > horizon * (1 + 1e-9)) return;
    low = Math.min(low, must(values[k]));
    high = Math.max(high, must(values[k]));
    const off = (motion.at(time) - must(values[k])) ** 2;
    if (before !== undefined) {
      const step = time - must(times[k - 1]);
      sum += ((off + before) / 2) * step;
      span += step;
    }
    before = off;
  });
  const range = high - low || Math.max(Math.abs(high), 1e-12);
  return (100 * Math.sqrt(sum / (span || 1))) / range;
}

/** Whether a misfit counts, in words. */
export function curveVerdict(part: Pick<CurvePart, 'id' | 'points' | 'misfitPercent'>, measured: number) {
  const { misfitPercent: limit, points: outOf } = part;
  const finite = Number.isFinite(measured);
  const met = finite && measured <= limit * (1 + 1e-6);
  const close = finite && Math.abs(measured - limit) <= closeShare * limit;
  const start = `Misfit ${formatNumber(measured)} %, limit ${formatNumber(limit)} %`;
  const words = met ? `${start}: the model follows.` : `${start}: ${formatNumber(measured - limit)} points too much.`;
  const item = {
    ...{ id: part.id, label: 'Misfit', unit: '%', measured: finite ? measured : null, limit },
    ...{ relation: 'atMost' as const, met, close, points: met ? outOf : 0, outOf, words },
  };
  return verdictOf([item], words);
}

export const checking: Checking<'curve'> = {
  fromText(part, text) {
    const names = part.knobs.map(({ symbol }) => symbol);
    return { kind: 'curve', knobs: namedNumbers(names, text) };
  },
  read(part, { scope, series }, answer) {
    curveMotion(part, scope, answer.knobs, series);
    refuseOutside(
      part.knobs.map(({ symbol: name, low, high }) => ({ name, low, high })),
      answer.knobs,
    );
  },
  check(part, { scope, series }, answer) {
    const motion = curveMotion(part, scope, answer.knobs, series);
    return curveVerdict(part, misfitPercent(motion, targetOf(part, scope, series), part.horizon));
  },
  solution: () => null,
};

/** Refuses knobs that carry the name of something given. @throws Problem `exercise`. */
export function refuseTakenNames(part: CurvePart, scope: Scope): void {
  const taken = part.knobs.find(({ symbol }) => scope.names.has(symbol));
  if (taken) throw new Problem('exercise', `${taken.symbol} is given already; take another name for the student’s.`);
}
