import { sampled } from '../../exercise/figure.js';
import type { PlotKind } from '../../exercise/names.js';
import { must } from '../../expression/must.js';
import { Problem } from '../../expression/problem.js';
import { type Scope, systemFrom } from '../../formula/evaluate.js';
import { magnitudeAndPhase, plotFrequencies } from '../../frequency/bode.js';
import { branchesOf } from '../../locus/branches.js';
import { specialPoints } from '../../locus/specialPoints.js';
import { lowestTerms } from '../../rational/fraction.js';
import { rationalToNumber } from '../../rational/number.js';
import { respond } from '../../response/respond.js';
import type { Root } from '../../system/roots.js';
import { type System, systemOf } from '../../system/system.js';
import { type Transfer, withDeadTime } from '../../system/transfer.js';
import type { ChoicePart } from './part.js';
import type { ShownPlot } from './part.js';

type Plot = NonNullable<ChoicePart['options'][number]['plot']>;

const short = (value: number): number => Number(value.toPrecision(4));
const frequencies = 120;
const branchPoints = 80;

/** As long as it takes the slowest pole to settle, or the fastest unstable one to grow. */
function horizonOf({ poles }: System, deadTime: number): number {
  const unstable = poles.filter(({ re }) => re > 0).map(({ re }) => re);
  if (unstable.length > 0) return deadTime + 3 / Math.max(...unstable);
  const rates = poles.map(({ re, im }) => (re < 0 ? -re : Math.hypot(re, im) / 6)).filter((rate) => rate > 0);
  return deadTime + 6 / Math.min(...rates, rates.length > 0 ? Infinity : 1);
}

/** @throws Problem for a system without finitely many poles. */
function systemWithDelay(transfer: Transfer) {
  const plain = withDeadTime(transfer);
  if (!plain) throw new Problem('deadTime', 'Dead time inside a loop cannot be shown as a plot here.');
  const fraction = lowestTerms(plain.fraction);
  return { fraction, system: systemOf(fraction), deadTime: rationalToNumber(plain.deadTime) };
}

const marksOf = ({ poles, zeros }: System): ShownPlot['marks'] => {
  const all = (roots: readonly Root[], what: 'pole' | 'zero') =>
    roots.map(({ re, im }) => ({ what, x: short(re), y: short(im) }));
  return [...all(poles, 'pole'), ...all(zeros, 'zero')];
};

function linesOf(kind: PlotKind, transfer: Transfer, horizon: number): ShownPlot['lines'] {
  const { fraction, system } = systemWithDelay(transfer);
  if (kind === 'poles') return [];
  if (kind === 'step') {
    const { times, values } = sampled('', respond(transfer), horizon);
    return [{ x: times.map(short), y: values.map(short) }];
  }
  if (kind === 'locus') {
    const reach = 3 * (Math.max(0, ...[...system.poles, ...system.zeros].map(({ re, im }) => Math.hypot(re, im))) || 1);
    const window = { left: -reach, right: reach, bottom: -reach, top: reach };
    return branchesOf(fraction, specialPoints(fraction), window).map(({ re, im }) => {
      const every = Math.max(1, Math.floor(re.length / branchPoints));
      const kept = Array.from(re.keys()).filter(
        (k) => (k % every === 0 || k === re.length - 1) && Math.hypot(must(re[k]), must(im[k])) < 2 * reach,
      );
      return { x: kept.map((k) => short(must(re[k]))), y: kept.map((k) => short(must(im[k]))) };
    });
  }
  const omegas = plotFrequencies(system, frequencies);
  const { magnitudesDb, phasesDegrees } = magnitudeAndPhase(transfer, omegas);
  const kept = Array.from(omegas.keys()).filter((k) => Number.isFinite(must(magnitudesDb[k])));
  const x = kept.map((k) => short(must(omegas[k])));
  if (kind === 'bode') {
    return [
      { x, y: kept.map((k) => short(must(magnitudesDb[k]))) },
      { x, y: kept.map((k) => short(must(phasesDegrees[k]))) },
    ];
  }
  const at = (k: number, part: (angle: number) => number): number =>
    short(10 ** (must(magnitudesDb[k]) / 20) * part((must(phasesDegrees[k]) * Math.PI) / 180));
  return [{ x: kept.map((k) => at(k, Math.cos)), y: kept.map((k) => at(k, Math.sin)) }];
}

/**
 * The plots of a part's options, with one student's numbers; step responses share one time.
 * @throws Problem for a system that cannot be drawn.
 */
export function shownPlots(plots: readonly (Plot | undefined)[], scope: Scope): (ShownPlot | undefined)[] {
  const transfers = plots.map((plot) => plot && systemFrom(plot.system, scope));
  const horizons = transfers.flatMap((transfer, k) => {
    if (!transfer || must(plots[k]).kind !== 'step') return [];
    const { system, deadTime } = systemWithDelay(transfer);
    return [horizonOf(system, deadTime)];
  });
  const horizon = Math.min(Math.max(...horizons, 0), 6 * Math.min(...horizons, Infinity));
  return plots.map((plot, k) => {
    if (!plot) return undefined;
    const transfer = must(transfers[k]);
    const isPlane = plot.kind === 'poles' || plot.kind === 'locus';
    return {
      kind: plot.kind,
      lines: linesOf(plot.kind, transfer, horizon),
      marks: isPlane ? marksOf(systemWithDelay(transfer).system) : [],
    };
  });
}
