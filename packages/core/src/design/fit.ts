import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Matrix, QrDecomposition, solve } from 'ml-matrix';
import { orElse, Problem } from '../expression/problem.js';
import { frequencyFunction } from '../frequency/bode.js';
import { wrapped } from '../frequency/delayedSum.js';
import { rationalFromNumber } from '../rational/number.js';
import { polynomialOf } from '../rational/polynomial.js';
import { respond } from '../response/respond.js';
import { delayed, type Transfer } from '../system/transfer.js';
import { type Reading, type Structure, type StructureName, structures } from './structures.js';

/** A measured response to a step of the given height at t = 0, from rest; times in seconds, rising. */
export interface StepData {
  readonly times: readonly number[];
  readonly values: readonly number[];
  readonly amplitude?: number;
}

/** A measured frequency response; rad/s, rising; phases may be left out. */
export interface FrequencyData {
  readonly omegas: readonly number[];
  readonly magnitudesDb: readonly number[];
  readonly phasesDegrees?: readonly number[];
}

/** A fitted model: its parameters by name, what they stand for, and how far it stays from the data. */
export interface Fit {
  readonly parameters: Readonly<Record<string, number>>;
  readonly transfer: Transfer;
  /** Root mean square and largest distance: in units of the output, or in decibels. */
  readonly misfit: { readonly rms: number; readonly largest: number };
}

const fewest = 5;
const most = 5000;

/** What a person reads off a step response from left to right. @throws Problem `query` for data that cannot be read. */
export function readStep({ times, values, amplitude = 1 }: StepData): Reading {
  checkSeries(times, values);
  const last = values.slice(-Math.max(1, Math.floor(values.length / 20)));
  const final = last.reduce((sum, value) => sum + value, 0) / last.length;
  const size = Math.abs(final) || 1e-12;
  const firstBeyond = (share: number): number => {
    const k = values.findIndex((value) => Math.sign(final) * value >= share * size);
    if (k <= 0) return times[Math.max(0, k)]!;
    const part = (share * size - Math.abs(values[k - 1]!)) / (Math.abs(values[k]!) - Math.abs(values[k - 1]!) || 1);
    return times[k - 1]! + Math.min(1, Math.max(0, part)) * (times[k]! - times[k - 1]!);
  };
  const deadTime = Math.max(0, firstBeyond(0.02));
  const timeConstant = Math.max(firstBeyond(1 - Math.exp(-1)) - deadTime, 1e-6 * (times[times.length - 1]! || 1));
  let peak = 0;
  values.forEach((value, k) => (peak = value * Math.sign(final) > values[peak]! * Math.sign(final) ? k : peak));
  const overshoot = Math.abs(values[peak]!) / size - 1;
  const log = Math.log(Math.max(overshoot, 1e-6));
  const dampingRatio = overshoot > 0.005 ? -log / Math.hypot(Math.PI, log) : 1;
  const naturalFrequency =
    overshoot > 0.005
      ? Math.PI / (Math.max(times[peak]! - deadTime, 1e-9) * Math.sqrt(1 - dampingRatio ** 2))
      : 2.15 / timeConstant;
  return { gain: final / amplitude, deadTime, timeConstant, dampingRatio, naturalFrequency };
}

/** What a person reads off a Bode plot from left to right. @throws Problem `query`. */
export function readFrequency({ omegas, magnitudesDb, phasesDegrees }: FrequencyData): Reading {
  checkSeries(omegas, magnitudesDb);
  if (!(omegas[0]! > 0)) throw new Problem('query', 'Frequencies must be more than 0.');
  const size = 10 ** (magnitudesDb[0]! / 20);
  const phases = phasesDegrees && unwrappedDegrees(phasesDegrees);
  const negative = phases ? Math.abs(((Math.round(phases[0]! / 180) % 2) + 2) % 2) === 1 : false;
  const below = magnitudesDb.findIndex((db) => db <= magnitudesDb[0]! - 3.0103);
  const corner = omegas[below < 0 ? omegas.length - 1 : below]!;
  const top = magnitudesDb.indexOf(Math.max(...magnitudesDb));
  const ratio = 10 ** ((magnitudesDb[top]! - magnitudesDb[0]!) / 20);
  const resonant = ratio > 1.05;
  const timeConstant = 1 / corner;
  const end = omegas.length - 1;
  const excess = phases
    ? -((phases[end]! - (negative ? -180 : 0)) * Math.PI) / 180 - Math.atan(omegas[end]! * timeConstant)
    : 0;
  return {
    gain: negative ? -size : size,
    timeConstant,
    deadTime: Math.max(0, excess / omegas[end]!),
    dampingRatio: resonant ? Math.min(0.7, 1 / (2 * ratio)) : 1,
    naturalFrequency: resonant ? omegas[top]! : corner * 1.5,
  };
}

/** A model of the structure for a measured step response: start by reading, then least squares. @throws Problem `query`, `notPossible`. */
export function fitStep({ times, values, amplitude = 1 }: StepData, name: StructureName): Fit {
  checkSeries(times, values);
  const [time, size] = [times[times.length - 1]!, largestOf(values)];
  const inUnit = fitStepInUnit(
    { times: times.map((t) => t / time), values: values.map((y) => y / size), amplitude: 1 },
    name,
  );
  const { rms, largest } = inUnit.misfit;
  return {
    ...inUnits(inUnit, structures[name], time, size / amplitude),
    misfit: { rms: rms * size, largest: largest * size },
  };
}

const largestOf = (values: readonly number[]): number => values.reduce((m, y) => Math.max(m, Math.abs(y)), 0) || 1;

/** A model that was fitted in other units of time and gain. */
function inUnits({ parameters, misfit }: Fit, structure: Structure, time: number, gain: number): Fit {
  const values = structure.parameters.map((name, k) => {
    const [ofTime, ofGain] = structure.units[k]!;
    return parameters[name]! * time ** ofTime * gain ** ofGain;
  });
  return {
    parameters: Object.fromEntries(structure.parameters.map((name, k) => [name, values[k]!])),
    transfer: structure.transfer(values),
    misfit,
  };
}

/** The same with a last time, a largest value and a step of 1, so that nothing depends on the scale of the data. */
function fitStepInUnit(data: StepData, name: StructureName): Fit {
  const structure = structures[name];
  const { times, values, amplitude = 1 } = data;
  const reading = name === 'integratorDeadTime' ? readRamp(data) : readStep(data);
  const model = (parameters: readonly number[]): ((k: number) => number) => {
    const motion = respond(structure.transfer(parameters), { kind: 'step', amplitude });
    return (k) => motion.at(times[k]!);
  };
  return leastSquares(structure, structure.start(reading), values, model, values.length);
}

/** A model of the structure for a measured frequency response. @throws Problem `query`, `notPossible`. */
export function fitFrequency(data: FrequencyData, name: StructureName): Fit {
  const { omegas, magnitudesDb } = data;
  checkSeries(omegas, magnitudesDb);
  if (!(omegas[0]! > 0)) throw new Problem('query', 'Frequencies must be more than 0.');
  const rate = Math.sqrt(omegas[0]! * omegas[omegas.length - 1]!);
  const level = magnitudesDb[0]!;
  const inUnit = {
    ...data,
    omegas: omegas.map((omega) => omega / rate),
    magnitudesDb: magnitudesDb.map((db) => db - level),
  };
  return inUnits(fitFrequencyInUnit(inUnit, name), structures[name], 1 / rate, 10 ** (level / 20));
}

function fitFrequencyInUnit(data: FrequencyData, name: StructureName): Fit {
  const structure = structures[name];
  const { omegas } = data;
  const targets = frequencyTargets(data);
  const model = (parameters: readonly number[]): ((k: number) => number) => {
    const response = frequencyFunction(structure.transfer(parameters));
    return (k) => {
      const omega = omegas[k % omegas.length]!;
      if (k < omegas.length) return decibels * response.logMagnitude(omega);
      // Phases count modulo a full turn.
      return targets[k]! + phaseWeight * wrapped(response.phase(omega) - targets[k]! / phaseWeight);
    };
  };
  const reading = readFrequency(data);
  const integrates = name === 'integratorDeadTime';
  const start = integrates
    ? [10 ** (data.magnitudesDb[0]! / 20) * omegas[0]!, reading.deadTime]
    : structure.start(reading);
  return leastSquares(structure, start, targets, model, omegas.length);
}

const decibels = 20 / Math.LN10;
/** One radian of phase counts as much as a neper of magnitude. */
const phaseWeight = decibels;

function frequencyTargets({ omegas, magnitudesDb, phasesDegrees }: FrequencyData): number[] {
  checkSeries(omegas, magnitudesDb);
  if (!phasesDegrees) return [...magnitudesDb];
  checkSeries(omegas, phasesDegrees);
  return [...magnitudesDb, ...phasesDegrees.map((degrees) => (phaseWeight * degrees * Math.PI) / 180)];
}

function leastSquares(
  structure: Structure,
  start: number[],
  targets: readonly number[],
  model: (parameters: readonly number[]) => (k: number) => number,
  judged: number,
): Fit {
  const safe = (parameters: number[]): ((k: number) => number) =>
    orElse(
      () => 1e30,
      () => model(parameters.map((value, k) => Math.max(value, structure.least[k]!))),
    );
  const solution = levenbergMarquardt({ x: targets.map((_, k) => k), y: [...targets] }, safe, {
    initialValues: start,
    gradientDifference: start.map((value) => 1e-6 * Math.max(Math.abs(value), 1e-3)),
    centralDifference: true,
    minValues: [...structure.least],
    maxValues: structure.least.map(() => 1e12),
    damping: 1e-2,
    maxIterations: 100,
    errorTolerance: 1e-20,
    improvementThreshold: 1e-9,
  });
  const values = solution.parameterValues;
  if (values.some((value) => !Number.isFinite(value))) {
    throw new Problem('notPossible', 'No model of this structure follows the data; try another structure.');
  }
  const fitted = model(values);
  let [sum, largest] = [0, 0];
  for (let k = 0; k < judged; k++) {
    const off = Math.abs(fitted(k) - targets[k]!);
    sum += off * off;
    largest = Math.max(largest, off);
  }
  return {
    parameters: Object.fromEntries(structure.parameters.map((name, k) => [name, values[k]!])),
    transfer: structure.transfer(values),
    misfit: { rms: Math.sqrt(sum / judged), largest },
  };
}

/**
 * A fraction of given degrees for a measured frequency response with phases. Method: Levy's linear equations, weighted
 * anew with the denominator found before (Sanathanan and Koerner 1963).
 * @throws Problem `query` for degrees that the data cannot settle.
 */
export function fitFraction(data: FrequencyData, numeratorDegree: number, order: number): Fit {
  const { omegas, magnitudesDb, phasesDegrees } = data;
  if (!phasesDegrees) throw new Problem('query', 'A fraction of given degrees needs the phases as well.');
  checkSeries(omegas, magnitudesDb);
  checkSeries(omegas, phasesDegrees);
  const unknowns = numeratorDegree + 1 + order;
  if (
    !(order >= 1 && order <= 10 && numeratorDegree >= 0 && numeratorDegree <= order) ||
    2 * omegas.length < unknowns
  ) {
    throw new Problem('query', 'The order goes from 1 to 10, the numerator to the order, with enough points for both.');
  }
  const scale = Math.sqrt(omegas[0]! * omegas[omegas.length - 1]!);
  let weights = omegas.map(() => 1);
  let solution: number[] = [];
  for (let round = 0; round < 30; round++) {
    const rows: number[][] = [];
    const right: number[] = [];
    omegas.forEach((omega, i) => {
      const size = 10 ** (magnitudesDb[i]! / 20);
      const angle = (phasesDegrees[i]! * Math.PI) / 180;
      const [re, im] = [size * Math.cos(angle), size * Math.sin(angle)];
      const weight = weights[i]! / size;
      const [above, below] = [powersOnAxis(omega / scale, numeratorDegree), powersOnAxis(omega / scale, order)];
      // N(jω) − L·(D(jω) − 1) = L, D(0) = 1.
      const terms = [
        ...above,
        ...below.slice(1).map(([x, y]): [number, number] => [-(re * x - im * y), -(re * y + im * x)]),
      ];
      rows.push(
        terms.map(([x]) => x * weight),
        terms.map(([, y]) => y * weight),
      );
      right.push(re * weight, im * weight);
    });
    solution = leastNorm(new Matrix(rows), Matrix.columnVector(right));
    weights = omegas.map((omega) => {
      let [x, y] = [1, 0];
      powersOnAxis(omega / scale, order).forEach(([a, b], k) => {
        if (k > 0) [x, y] = [x + a * solution[numeratorDegree + k]!, y + b * solution[numeratorDegree + k]!];
      });
      return 1 / Math.hypot(x, y);
    });
  }
  const numerator = solution.slice(0, numeratorDegree + 1).map((c, k) => c / scale ** k);
  const denominator = [1, ...solution.slice(numeratorDegree + 1).map((c, k) => c / scale ** (k + 1))];
  const transfer = delayed({
    numerator: polynomialOf(numerator.map(rationalFromNumber).reverse()),
    denominator: polynomialOf(denominator.map(rationalFromNumber).reverse()),
  });
  const response = frequencyFunction(transfer);
  const off = omegas.map((omega, i) => Math.abs(decibels * response.logMagnitude(omega) - magnitudesDb[i]!));
  return {
    parameters: {},
    transfer,
    misfit: { rms: Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / off.length), largest: Math.max(...off) },
  };
}

/** The least-squares solution; by singular values only where the columns depend on each other. */
function leastNorm(rows: Matrix, right: Matrix): number[] {
  const qr = new QrDecomposition(rows);
  return (qr.isFullRank() ? qr.solve(right) : solve(rows, right, true)).to1DArray();
}

/** (jω)^k for k from 0 to the degree. */
function powersOnAxis(omega: number, degree: number): [number, number][] {
  const turns = [1, 0, -1, 0];
  return Array.from({ length: degree + 1 }, (_, k) => [turns[k % 4]! * omega ** k, turns[(k + 3) % 4]! * omega ** k]);
}

/** Slope and delay of a response that ends up rising evenly. */
function readRamp({ times, values, amplitude = 1 }: StepData): Reading {
  checkSeries(times, values);
  const half = Math.floor(times.length / 2);
  const [t0, t1] = [times[half]!, times[times.length - 1]!];
  const slope = (values[values.length - 1]! - values[half]!) / (t1 - t0);
  const deadTime = slope === 0 ? 0 : Math.max(0, t1 - values[values.length - 1]! / slope);
  return { gain: slope / amplitude, deadTime, timeConstant: 1, dampingRatio: 1, naturalFrequency: 1 };
}

/** Phases made continuous, unless they go beyond half a turn and so are meant as they are. */
function unwrappedDegrees(phases: readonly number[]): readonly number[] {
  if (phases.some((phase) => Math.abs(phase) > 180)) return phases;
  let shift = 0;
  return phases.map((phase, k) => {
    if (k > 0) shift -= 360 * Math.round((phase - phases[k - 1]!) / 360);
    return phase + shift;
  });
}

function checkSeries(x: readonly number[], y: readonly number[]): void {
  if (x.length !== y.length || x.length < fewest || x.length > most) {
    throw new Problem('query', `Measured data need ${fewest} to ${most} points, as many of one as of the other.`);
  }
  if ([...x, ...y].some((value) => !Number.isFinite(value)) || x.some((value, k) => k > 0 && !(value > x[k - 1]!))) {
    throw new Problem('query', 'Measured data are finite numbers, times or frequencies rising.');
  }
}
