import { Problem } from '../expression/problem.js';
import { FactoredFrequency, plotFrequencies } from '../frequency/bode.js';
import { marginsOf } from '../frequency/margins.js';
import { sensitivityPeak } from '../frequency/peaks.js';
import { isLoopStable } from '../frequency/stability.js';
import { lowestTerms } from '../rational/fraction.js';
import { type Rational, rationalFromNumber } from '../rational/number.js';
import { type ControllerForm, controllerOf, type Gain, type Gains } from '../system/controller.js';
import type { Root } from '../system/roots.js';
import { systemOf } from '../system/system.js';
import { asDelayedFraction, delayed, inSeries, type Transfer } from '../system/transfer.js';

/** What is wanted of a tuned start. */
export interface TuningWishes {
  /** Frequency in rad/s at which the loop gain passes 1: higher is faster. The highest that is robust enough when left out. */
  readonly crossover?: number;
  /** Largest sensitivity peak Ms: 1.2 is calm, 1.6 usual, 2 bold. */
  readonly sensitivityPeak?: number;
}

/** Gains and what they achieve. */
export interface TunedStart {
  readonly gains: Readonly<Record<Gain, number>>;
  readonly crossover: number;
  /** Ms of the loop with these gains. */
  readonly sensitivityPeak: number;
  /** Smallest phase margin of the loop with these gains. */
  readonly phaseMarginDegrees: number;
  /** Whether the wanted Ms is kept, and the wanted crossover is where the loop gain passes 1 for the last time. */
  readonly reached: boolean;
  /** What could not be had, in words; null when everything was. */
  readonly missed: string | null;
}

const usualPeak = 1.6;
const gridPoints = 400;

/**
 * Gains for a plant with or without dead time that pass |L| = 1 at the wanted frequency with the smallest phase margin
 * that keeps the sensitivity peak. For PID the integral time is four times the derivative time.
 * @throws Problem `notPossible` when no gains of this form give a stable loop.
 */
export function tunedStart(plant: Transfer, form: ControllerForm, wishes: TuningWishes = {}): TunedStart {
  const { fraction, deadTime } = asDelayedFraction(plant, 'A tuned start');
  const response = new FactoredFrequency(systemOf(lowestTerms(fraction)), deadTime);
  const allowed = wishes.sensitivityPeak ?? usualPeak;
  if (!(allowed > 1)) throw new Problem('query', 'The sensitivity peak is more than 1.');
  if (wishes.crossover !== undefined && !(wishes.crossover > 0)) {
    throw new Problem('query', 'The crossover frequency is more than 0.');
  }
  const wanted = { plant, of: response, form, allowed };
  const grid = frequencyGrid(response, wishes.crossover);
  const crossovers = wishes.crossover === undefined ? candidateCrossovers(response, form) : [wishes.crossover];
  let best: Candidate | null = null;
  for (const crossover of crossovers) {
    const start = atCrossover(wanted, crossover, grid);
    if (!start) continue;
    const better =
      !best ||
      start.peak <= allowed > (best.peak <= allowed) ||
      (start.peak <= allowed && best.peak <= allowed ? start.crossover > best.crossover : start.peak < best.peak);
    if (better) best = start;
  }
  if (!best) {
    throw new Problem(
      'notPossible',
      `No ${form} gains give a stable loop here; try another form or a lower crossover.`,
    );
  }
  const { gains, crossover, peak } = kept(best, { ...wanted, grid, free: wishes.crossover === undefined });
  const { phaseMargins } = marginsOf(loopWith(gains, plant));
  const last = phaseMargins[phaseMargins.length - 1];
  const missed = [
    ...(peak <= allowed * exactly
      ? []
      : [
          wishes.crossover === undefined
            ? `None of the ${form} gains that were tried keeps the sensitivity peak at ${short(allowed)}; with these it is ${short(peak)}.`
            : `With ${form} gains at ${short(crossover)} rad/s the sensitivity peak is ${short(peak)}, above ${short(allowed)}.`,
        ]),
    ...(wishes.crossover === undefined || !last || last.omega <= crossover * exactly
      ? []
      : [`The loop gain passes 1 once more, at ${short(last.omega)} rad/s.`]),
  ];
  return {
    gains,
    crossover,
    sensitivityPeak: peak,
    phaseMarginDegrees: Math.min(...phaseMargins.map(({ degrees }) => Math.abs(degrees))),
    reached: missed.length === 0,
    missed: missed.join(' ') || null,
  };
}

/** A wish is kept up to rounding. */
const exactly = 1 + 1e-6;
const short = (value: number): string => String(Number(value.toPrecision(3)));

const loopWith = (gains: Record<Gain, number>, plant: Transfer): Transfer =>
  inSeries(delayed(controllerOf(exact(gains))), plant);

/**
 * The candidate with its true Ms. Where that lies above the limit, because the grid missed the peak, the same is looked
 * for with a limit as much lower, and with a crossover a little lower where none was asked for.
 */
function kept(
  one: Candidate,
  { plant, of, form, allowed, grid, free }: Wanted & { readonly grid: Grid; readonly free: boolean },
): Candidate {
  const judged = (candidate: Candidate): Candidate => {
    return { ...candidate, peak: sensitivityPeak(loopWith(candidate.gains, plant)).magnitude };
  };
  let best = judged(one);
  if (one.peak > allowed) return best;
  let limit = allowed;
  for (let round = 0; round < 8 && best.peak > allowed * exactly; round++) {
    limit *= allowed / best.peak;
    const crossover = best.crossover * (free && round > 0 ? 0.98 : 1);
    const next = atCrossover({ plant, of, form, allowed: limit }, crossover, grid);
    if (!next) break;
    best = judged(next);
  }
  return best;
}

/** What gains are looked for. */
interface Wanted {
  readonly plant: Transfer;
  readonly of: FactoredFrequency;
  readonly form: ControllerForm;
  /** Largest Ms. */
  readonly allowed: number;
}

interface Candidate {
  readonly gains: Record<Gain, number>;
  readonly crossover: number;
  readonly margin: number;
  readonly peak: number;
}

function exact(gains: Record<Gain, number>): Gains {
  return Object.fromEntries(
    Object.entries(gains).map(([gain, value]): [string, Rational] => [gain, rationalFromNumber(value)]),
  );
}

interface Grid {
  readonly omegas: Float64Array;
  readonly re: Float64Array;
  readonly im: Float64Array;
}

function frequencyGrid(response: FactoredFrequency, crossover?: number): Grid {
  const grid = plotFrequencies(cornersOf(response), gridPoints);
  const ends = [grid[0]!, grid[grid.length - 1]!];
  if (crossover !== undefined) ends.push(crossover / 100, crossover * 100);
  if (response.deadTime > 0) ends.push(0.01 / response.deadTime, 20 / response.deadTime);
  const [low, high] = [Math.log(Math.min(...ends)), Math.log(Math.max(...ends))];
  const even = Array.from({ length: gridPoints }, (_, k) => Math.exp(low + ((high - low) * k) / (gridPoints - 1)));
  const omegas = Float64Array.from([...grid, ...even]).sort();
  const values = Array.from(omegas, (omega) => response.value(omega));
  return { omegas, re: Float64Array.from(values, ({ re }) => re), im: Float64Array.from(values, ({ im }) => im) };
}

/** What sets the frequencies of a plant: its corners and its dead time; for integrators alone, where its gain is 1. */
function cornersOf({ system, deadTime }: FactoredFrequency): { zeros: readonly Root[]; poles: readonly Root[] } {
  const { zeros, poles, gain } = system;
  const count = (roots: readonly Root[]): number => roots.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  const hasCorner = [...zeros, ...poles].some(({ re, im }) => re !== 0 || im !== 0);
  const excess = count(poles) - count(zeros);
  const corners = deadTime > 0 ? [1 / deadTime] : !hasCorner && excess > 0 ? [Math.abs(gain) ** (1 / excess)] : [];
  return { zeros: [...zeros, ...corners.map((rate) => ({ re: -rate, im: 0, multiplicity: 1 }))], poles };
}

/** Up to where the plant's own phase is as low as the form can usually make up for, or ten times the fastest corner. */
function candidateCrossovers(response: FactoredFrequency, form: ControllerForm): number[] {
  const grid = plotFrequencies(cornersOf(response), 30 * 30);
  const [low, high] = [grid[0]!, grid[grid.length - 1]! / 3];
  const all = Array.from({ length: 40 }, (_, k) => low * (high / low) ** (k / 39));
  const lowest = ((form === 'P' || form === 'PI' ? -135 : -170) * Math.PI) / 180;
  const usable = all.filter((omega) => response.phase(omega) >= lowest);
  return usable.length > 0 ? usable : all;
}

/** The smallest phase margin from 15 to 85 degrees that keeps the peak; otherwise the one with the lowest peak. */
function atCrossover({ plant, of, form, allowed }: Wanted, crossover: number, grid: Grid): Candidate | null {
  const candidate = (margin: number): Candidate | null => {
    const gains = gainsAt(of, form, crossover, margin);
    if (!gains || !Object.values(gains).every(Number.isFinite)) return null;
    return { gains, crossover, margin, peak: peakOnGrid(gains, grid) };
  };
  const stable = (one: Candidate | null): boolean => one !== null && isLoopStable(loopWith(one.gains, plant));
  let best: Candidate | null = null;
  let refused = 15;
  for (let margin = 15; margin <= 85; margin += 5) {
    const one = candidate(margin);
    if (!one || (best && one.peak >= best.peak) || !stable(one)) {
      if (!best) refused = margin;
      continue;
    }
    best = one;
    if (one.peak <= allowed) break;
    refused = margin;
  }
  if (!best || best.peak > allowed) return best;
  let [low, high] = [refused, best.margin];
  for (let round = 0; round < 20; round++) {
    const one = candidate((low + high) / 2);
    if (one && one.peak <= allowed && stable(one)) {
      best = one;
      high = one.margin;
    } else low = (low + high) / 2;
  }
  return best;
}

/** Largest turn of a controller from its proportional term: beyond, that would be next to nothing. */
const mostTurn = (80 * Math.PI) / 180;

/** Gains with L(jω) = e^{j(margin − 180°)}; null when one would be negative, or Kp next to nothing beside the others. */
function gainsAt(
  response: FactoredFrequency,
  form: ControllerForm,
  omega: number,
  margin: number,
): Record<Gain, number> | null {
  const size = Math.exp(-response.logMagnitude(omega));
  const angle = (margin * Math.PI) / 180 - Math.PI - response.phase(omega);
  const turn = Math.atan2(Math.sin(angle), Math.cos(angle));
  if (form !== 'P' && Math.abs(turn) > mostTurn) return null;
  const re = size * Math.cos(angle);
  const im = size * Math.sin(angle);
  switch (form) {
    case 'P':
      return { Kp: size, Ki: 0, Kd: 0 };
    case 'PI':
      return im <= 0 ? { Kp: re, Ki: -im * omega, Kd: 0 } : null;
    case 'PD':
      // A plant that lags by less needs no derivative.
      return im >= 0 ? { Kp: re, Ki: 0, Kd: im / omega } : { Kp: size, Ki: 0, Kd: 0 };
    case 'PID': {
      const rise = im / re;
      const times = 2 * (rise + Math.sqrt(rise * rise + 1));
      return { Kp: re, Ki: (re * omega) / times, Kd: (re * times) / (4 * omega) };
    }
  }
}

/** Largest |1/(1 + L)| on the grid. */
function peakOnGrid({ Kp, Ki, Kd }: Record<Gain, number>, { omegas, re, im }: Grid): number {
  let least = Infinity;
  for (let k = 0; k < omegas.length; k++) {
    const turn = Kd * omegas[k]! - Ki / omegas[k]!;
    const x = 1 + Kp * re[k]! - turn * im[k]!;
    const y = Kp * im[k]! + turn * re[k]!;
    least = Math.min(least, x * x + y * y);
  }
  return 1 / Math.sqrt(least);
}
