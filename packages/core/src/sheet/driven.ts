import { Problem } from '../expression/problem.js';
import { isProper } from '../rational/fraction.js';
import { degree } from '../rational/polynomial.js';
import type { Input } from '../response/input.js';
import { limitedLoop } from '../response/limitedLoop.js';
import type { Motion } from '../response/motion.js';
import { freeMotion, respond } from '../response/respond.js';
import { Superposition } from '../response/superposition.js';
import { freeMotionOfStates, type StateSpace } from '../system/stateSpace.js';
import { delayed, highestDegree, inSeries, type Transfer, withoutDeadTime } from '../system/transfer.js';
import type { LimitedSystem } from './plant.js';
import type { Sheet, SheetData, SheetDrive } from './sheet.js';
import { readSignal, type Signal, signalAt, transformsOf } from './signal.js';

/** What a drive may speak of. */
export interface Around extends Pick<Sheet, 'data' | 'initial'> {
  /** The numbers of the sheet by name. */
  readonly numbers: ReadonlyMap<string, number>;
}

/** A system, with its states where it has some of its own. */
export interface Driven {
  readonly transfer: Transfer;
  readonly states?: StateSpace;
  readonly limited?: LimitedSystem;
}

type Over<Key extends string> = Extract<SheetData, Readonly<Record<Key, unknown>>>;
export const isOverTime = (data: SheetData): data is Over<'times'> => 'times' in data;
export const isOverFrequency = (data: SheetData): data is Over<'omegas'> => 'omegas' in data;

/**
 * The motion of a system under a drive, from the initial values of the sheet where they are not all 0.
 * @param until in seconds; how far a function without a transform is followed
 * @throws Problem as `respond` and `readSignal`, and where a table is not there.
 */
export function drivenMotion(
  { transfer, states, limited }: Driven,
  drive: SheetDrive,
  around: Around,
  until: number,
): Motion {
  if (limited) return limitedMotion(limited, drive, around, until);
  const free = around.initial.some((value) => value !== 0) ? freely(transfer, states, around.initial) : undefined;
  if (drive.kind === 'none') return free ?? respond(transfer, { kind: 'step', amplitude: 0 });
  if (drive.kind !== 'typed' && drive.kind !== 'sine') return respond(transfer, inputOf(drive, around), free);
  const signal = signalOf(drive, around);
  if (!signal.pieces) return respond(transfer, samplesOf(signal, until), free);
  if (highestDegree(transfer.numerator) > highestDegree(transfer.denominator)) {
    throw new Problem('improper', 'More zeros than poles: the response would start with an impulse.');
  }
  const parts = transformsOf(signal).map(({ at, transform }) => ({
    ...{ factor: 1, from: at },
    motion: respond(inSeries(transfer, delayed(transform)), { kind: 'impulse' }),
  }));
  return new Superposition(free ? [...parts, { motion: free, factor: 1, from: 0 }] : parts);
}

function limitedMotion({ loop, signal }: LimitedSystem, drive: SheetDrive, around: Around, until: number): Motion {
  if (around.initial.some((value) => value !== 0)) {
    throw new Problem('notPossible', 'A loop with limits starts from rest here.');
  }
  const reference = ((): Input => {
    if (drive.kind === 'none') return { kind: 'step', amplitude: 0 };
    if (drive.kind === 'typed' || drive.kind === 'sine') return samplesOf(signalOf(drive, around), until);
    return inputOf(drive, around);
  })();
  return limitedLoop({ ...loop, reference, horizon: until })[signal];
}

function signalOf(drive: Extract<SheetDrive, { kind: 'typed' | 'sine' }>, { numbers }: Around): Signal {
  if (drive.kind === 'typed') return readSignal(drive.text, numbers);
  const { size, omega, at } = drive;
  return readSignal(`(${size})*sin(${omega}*(t - ${at}))*step(t - ${at})`);
}

function inputOf(drive: Exclude<SheetDrive, { kind: 'typed' | 'sine' | 'none' }>, { data }: Around): Input {
  switch (drive.kind) {
    case 'step':
      return { kind: 'levels', from: drive.from, to: drive.to, at: drive.at };
    case 'data': {
      const series = data.find(({ name }) => name === drive.name);
      if (!series || !isOverTime(series)) throw new Problem('query', `There is no table “${drive.name}” over time.`);
      return { kind: 'samples', times: series.times, values: series.values };
    }
    default:
      return { kind: drive.kind, amplitude: drive.size, at: drive.at };
  }
}

/** From y, y′, … or, for states, from those. What is missing is 0, what is too much is left. */
function freely(transfer: Transfer, states: StateSpace | undefined, initial: readonly number[]): Motion {
  const padded = (count: number) => Array.from({ length: count }, (_, k) => initial[k] ?? 0);
  if (states) {
    return respond(delayed(freeMotionOfStates(states, padded(states.a.length))), { kind: 'impulse' });
  }
  const fraction = withoutDeadTime(transfer, 'A start from initial values');
  if (!isProper(fraction)) throw new Problem('improper', 'A system with more zeros than poles has no initial values.');
  return freeMotion(fraction, padded(degree(fraction.denominator)));
}

const fewest = 400;
const mostPoints = 5000;

/** A function followed by straight lines; where it jumps, the jump is found to a billionth of the time shown. */
function samplesOf(signal: Signal, until: number): Input {
  const at = (time: number): number => {
    const value = signalAt(signal, time);
    if (!Number.isFinite(value)) throw new Problem('notANumber', `This has no value at t = ${time}.`);
    return value;
  };
  const points = Array.from({ length: fewest + 1 }, (_, k) => ({
    time: (k * until) / fewest,
    value: at((k * until) / fewest),
  }));
  const range = Math.max(...points.map(({ value }) => value)) - Math.min(...points.map(({ value }) => value));
  const all = points.flatMap((right, k) => {
    const left = points[k - 1];
    return left && Math.abs(right.value - left.value) > 0.1 * range
      ? [...closeIn(left, right, at, until), right]
      : [right];
  });
  if (all.length > mostPoints) {
    throw new Problem('work', 'This function jumps too often to be followed over the time that is shown.');
  }
  return { kind: 'samples', times: all.map(({ time }) => time), values: all.map(({ value }) => value) };
}

interface Point {
  readonly time: number;
  readonly value: number;
}

/** The two sides of the steepest place between two points, and the way to it. */
function closeIn(from: Point, to: Point, at: (time: number) => number, until: number): Point[] {
  let [low, high] = [from, to];
  const points: Point[] = [];
  while (high.time - low.time > 1e-9 * until) {
    const time = (low.time + high.time) / 2;
    const middle = { time, value: at(time) };
    points.push(middle);
    if (Math.abs(middle.value - low.value) > Math.abs(high.value - middle.value)) high = middle;
    else low = middle;
  }
  return points.sort((a, b) => a.time - b.time);
}

/** A drive as a line to be drawn; empty for an impulse, and where nothing drives. */
export function driveLine(drive: SheetDrive, around: Around, until: number): Point[] {
  if (drive.kind === 'none' || drive.kind === 'impulse') return [];
  if (drive.kind === 'data') {
    const series = around.data.find(({ name }) => name === drive.name);
    return series && isOverTime(series) ? series.times.map((time, k) => ({ time, value: series.values[k]! })) : [];
  }
  if (drive.kind === 'typed' || drive.kind === 'sine') {
    const { kind: _, times, values } = samplesOf(signalOf(drive, around), until) as Extract<Input, { kind: 'samples' }>;
    return times.map((time, k) => ({ time, value: values[k]! }));
  }
  const { at } = drive;
  if (drive.kind === 'step') {
    const points = at > 0 ? [0, at, at, until] : [0, 0, until];
    return points.map((time, k) => ({ time, value: k > points.length - 3 ? drive.to : drive.from }));
  }
  const power = drive.kind === 'ramp' ? 1 : 2;
  const times = [0, ...Array.from({ length: 61 }, (_, k) => at + (k * Math.max(0, until - at)) / 60)];
  return times.map((time) => ({ time, value: (drive.size * Math.max(0, time - at) ** power) / power }));
}

/** Several inputs of one system together: each driven by its own, the initial values counted once. */
export function togetherMotion(
  parts: readonly Transfer[],
  states: StateSpace | undefined,
  drives: readonly SheetDrive[],
  around: Around,
  until: number,
): Motion {
  return new Superposition(
    parts.map((transfer, k) => ({
      motion: partMotion(transfer, k, states, drives, around, until),
      factor: 1,
      from: 0,
    })),
  );
}

/** What one of several inputs gives alone; an input without a drive of its own rests. */
export const partMotion = (
  transfer: Transfer,
  k: number,
  states: StateSpace | undefined,
  drives: readonly SheetDrive[],
  around: Around,
  until: number,
): Motion =>
  drivenMotion(
    { transfer, ...(states ? { states } : {}) },
    drives[k] ?? { kind: 'none' },
    k === 0 ? around : { ...around, initial: [] },
    until,
  );
