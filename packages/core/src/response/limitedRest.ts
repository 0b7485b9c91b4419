import { Matrix, solve } from 'ml-matrix';
import { rationalFromNumber, rationalToNumber } from '../rational/number.js';
import {
  add,
  coefficient,
  isHurwitz,
  multiply,
  one,
  type Polynomial,
  polynomialOf,
  s,
} from '../rational/polynomial.js';
import { controllerOf } from '../system/controller.js';
import { roots } from '../system/roots.js';
import { constantMotion, JoinedMotion } from './joined.js';
import type { LimitedModel } from './limitedModel.js';
import type { LinearMode, LinearRun } from './linearRun.js';
import type { Motion } from './motion.js';
import { PiecewiseMotion, valueOf } from './piecewise.js';
import { freeMotion } from './respond.js';
import { Superposition } from './superposition.js';
import { monotonePieces, rangeOf } from './walk.js';

/** The motion of an output that comes to rest, and where. */
type Rest = (output: number) => { readonly motion: Motion; readonly finalValue: number };

const mostSwitches = 300;
const mostPieces = 20_000;
/** Times the expected size: a signal beyond runs away. */
const runaway = 1e9;
/** What may still move when a run with dead time counts as at rest, as a share of the largest value. */
const restingShare = 1e-6;
/** A demand that leaves a limit by less does not leave it. */
const slack = 1e-9;

/**
 * Follows a run whose inputs are steps at t = 0 until it is certain how it goes on: free of the limits for good, where
 * every signal is a sum of the loop's own modes; or at a limit for good, where the plant moves by its own. From there on
 * the motion is exact, however slow its modes. With dead time, a free loop is followed until it rests. Null for a loop
 * that does neither, as one that swings between its limits.
 * @param forcing the values of the forcing signals after t = 0
 */
export function restOfRun(run: LinearRun, model: LimitedModel, forcing: readonly number[]): Rest | null {
  const { limits } = model.controller;
  const modes = [model.mode(null), ...(limits ? [model.mode(limits.high), model.mode(limits.low)] : [])];
  const ends = limits ? [0, limits.high, limits.low] : [0];
  let entered = -1;
  let tried = false;
  for (let pieces = 0; pieces < mostPieces; pieces++) {
    const { mode, time, since, switches, state } = run;
    if (switches > mostSwitches || run.largestShare > runaway) return null;
    if (switches !== entered) [entered, tried] = [switches, false];
    // At a limit the plant feels nothing else once the limit has been there for the dead time.
    const isAlone = mode > 0 && time >= since + model.deadTime;
    if (!tried && (isAlone || (mode === 0 && model.deadTime === 0))) {
      tried = true;
      const tail = new Tail(model, modes[mode]!, mode === 0 ? null : ends[mode]!, state, forcing);
      if (tail.staysWithin(limits)) return (output) => tail.after(run, output, time);
    }
    if (mode === 0 && model.deadTime > 0 && pieces % 64 === 63) {
      const rest = restOfDelayed(run, model, forcing, since);
      if (rest) return rest;
    }
    run.advance();
  }
  return null;
}

/** How a run goes on from a state with constant forcing and in one mode for good. */
class Tail {
  private readonly motions = new Map<number, { motion: Motion; finalValue: number }>();

  constructor(
    private readonly model: LimitedModel,
    private readonly mode: LinearMode,
    /** The effort; null while it is free. */
    private readonly effort: number | null,
    private readonly state: Float64Array,
    private readonly forcing: readonly number[],
  ) {}

  /** Whether the mode stays: the demand within the limits, or beyond the one at which the effort is. */
  staysWithin(limits: { readonly low: number; readonly high: number } | undefined): boolean {
    if (!limits) return isHurwitz(this.characteristic);
    const { effort, model } = this;
    const size = Math.max(Math.abs(limits.low), Math.abs(limits.high));
    if (effort === null) {
      if (!isHurwitz(this.characteristic)) return false;
      const { motion, finalValue } = this.of(demandSignal);
      if (finalValue > limits.high + slack * size || finalValue < limits.low - slack * size) return false;
      const { low, high } = rangeOf(motion, slack * size);
      return high <= limits.high + slack * size && low >= limits.low - slack * size;
    }
    if (!isHurwitz(model.plant.denominator)) return false;
    const sign = effort === limits.high ? 1 : -1;
    const demand = this.demandAtLimit();
    const slowest = Math.max(...this.ratesAtLimit().map((rate) => 1 / rate));
    const until = 40 * slowest;
    const inside = (value: number): boolean => sign * (value - effort) < -slack * size;
    for (const piece of monotonePieces(demand, slack * size, (time) => time > until)) {
      if (inside(piece.fromValue) || inside(piece.toValue)) return false;
    }
    const [early, late] = [demand.at(until), demand.at(2 * until)];
    return sign * (late - early) >= -slack * size;
  }

  /** What the run did until a time, and this from there on. */
  after(run: LinearRun, output: number, from: number): { motion: Motion; finalValue: number } {
    const { motion, finalValue } = this.of(output);
    if (from === 0) return { motion, finalValue };
    return { motion: new JoinedMotion(run.outputs[output]!, from, motion), finalValue };
  }

  private of(output: number): { motion: Motion; finalValue: number } {
    const known = this.motions.get(output);
    if (known) return known;
    const rest = this.effort === null ? this.free(output) : this.atLimit(output);
    this.motions.set(output, rest);
    return rest;
  }

  private free(output: number): { motion: Motion; finalValue: number } {
    const { a, c, d } = this.mode;
    const size = a.length;
    const push = this.push();
    const rest = size === 0 ? [] : solve(new Matrix(copied(a)), Matrix.columnVector(push.map((f) => -f))).to1DArray();
    const finalValue = dot(c[output]!, rest) + dot(d[output]!, this.forcing);
    return this.aroundRest(
      finalValue,
      derivativesOf(a, push, c[output]!, d[output]!, this.forcing, this.state, size),
      this.characteristic,
    );
  }

  private atLimit(output: number): { motion: Motion; finalValue: number } {
    if (output === effortSignal) return { motion: constantMotion(this.effort!), finalValue: this.effort! };
    const { denominator, numerator } = this.model.plant;
    const n = denominator.integers.length - 1;
    const gain = rationalToNumber(coefficient(numerator, 0)) / rationalToNumber(coefficient(denominator, 0));
    const pushed = this.push();
    const { a, c, d } = this.mode;
    const [, , , step] = this.forcing;
    const output0 = gain * (this.effort! + step!);
    const finalValue = c[output]![0]! * output0 + dot(d[output]!, this.forcing);
    return this.aroundRest(
      finalValue,
      derivativesOf(a, pushed, c[output]!, d[output]!, this.forcing, this.state, n),
      denominator,
    );
  }

  private aroundRest(finalValue: number, values: readonly number[], denominator: Polynomial) {
    const off = values.map((value, k) => (k === 0 ? value - finalValue : value));
    const motion = freeMotion({ numerator: one, denominator }, off);
    return { motion: new Superposition([{ motion, factor: 1, from: 0 }], finalValue), finalValue };
  }

  /** The demand while the effort stays at its limit; with an integrator it may grow without end. */
  private demandAtLimit(): Motion {
    const { tracking, controller, plant } = this.model;
    const { Ki, Kd, filterTime = 0 } = controller;
    const first = (rate: number): Polynomial => polynomialOf([rationalFromNumber(1), rationalFromNumber(rate)]);
    let denominator = multiply(plant.denominator, s);
    if (Ki !== 0) denominator = multiply(denominator, tracking > 0 ? first(tracking) : s);
    if (Kd !== 0) denominator = multiply(denominator, first(1 / filterTime));
    const { a, c, d } = this.mode;
    const values = derivativesOf(
      ...([a, this.push(), c[demandSignal]!, d[demandSignal]!, this.forcing, this.state, a.length + 1] as const),
    );
    return freeMotion({ numerator: one, denominator }, values);
  }

  private ratesAtLimit(): number[] {
    const { tracking, controller, plant } = this.model;
    const { Kd, filterTime = 0 } = controller;
    return [
      ...roots(plant.denominator).map(({ re }) => -re),
      ...(tracking > 0 ? [tracking] : []),
      ...(Kd !== 0 ? [1 / filterTime] : []),
    ];
  }

  /** b·w, with what the effort of one dead time ago is by now. */
  private push(): number[] {
    const forcing = [...this.forcing];
    if (this.model.deadTime > 0) forcing[2] = this.effort!;
    return this.mode.b.map((row) => dot(row, forcing));
  }

  private get characteristic(): Polynomial {
    const { plant, controller } = this.model;
    const { Kp, Ki, Kd, filterTime = 0 } = controller;
    const gains = { Kp: rationalFromNumber(Kp), Ki: rationalFromNumber(Ki), Kd: rationalFromNumber(Kd) };
    const { numerator, denominator } = controllerOf(gains, rationalFromNumber(Kd === 0 ? 0 : filterTime));
    return add(multiply(denominator, plant.denominator), multiply(numerator, plant.numerator));
  }
}

const [effortSignal, demandSignal] = [1, 2];

/** An output and its derivatives by time, `count` of them, for x′ = a·x + push. */
function derivativesOf(
  a: readonly (readonly number[])[],
  push: readonly number[],
  c: readonly number[],
  d: readonly number[],
  forcing: readonly number[],
  state: ArrayLike<number>,
  count: number,
): number[] {
  const values = [dot(c, state) + dot(d, forcing)];
  let slope = a.map((row, i) => dot(row, state) + push[i]!);
  while (values.length < count) {
    values.push(dot(c, slope));
    slope = a.map((row) => dot(row, slope));
  }
  return values;
}

/** A free loop with dead time that has moved by next to nothing for half of its time. */
function restOfDelayed(run: LinearRun, model: LimitedModel, forcing: readonly number[], since: number): Rest | null {
  const until = run.time;
  const finals = finalValues(model, forcing);
  const from = Math.max(since, until / 2);
  if (!(until > since + 4 * model.deadTime)) return null;
  const offs = run.outputs.map((pieces, k) => {
    let [largest, off] = [Math.abs(finals[k]!), 0];
    for (const piece of pieces) {
      const start = piece.powers[0]!;
      largest = Math.max(largest, Math.abs(start));
      if (piece.from >= from)
        off = Math.max(off, Math.abs(start - finals[k]!), Math.abs(valueOf(piece, piece.to) - finals[k]!));
    }
    return off <= restingShare * largest ? 2 * off + 1e-9 * largest : null;
  });
  if (offs.some((off) => off === null)) return null;
  return (output) => ({
    motion: new PiecewiseMotion(run.source(output), 0, until, offs[output]!),
    finalValue: finals[output]!,
  });
}

/** Where output, effort, demand and error of the free loop rest. */
function finalValues({ plant, controller }: LimitedModel, forcing: readonly number[]): number[] {
  const [r, , , step] = forcing as [number, number, number, number];
  const { Kp, Ki, proportionalWeight = 1 } = controller;
  const [above, below] = [plant.numerator, plant.denominator].map((p) => rationalToNumber(coefficient(p, 0))) as [
    number,
    number,
  ];
  // u = Kp·(w·r − y) without an integral part, u = anything that holds y = r with one.
  const output = Ki !== 0 ? r : (above * (Kp * proportionalWeight * r + step)) / (below + above * Kp);
  const effort = Ki !== 0 ? (below * r) / above - step : Kp * (proportionalWeight * r - output);
  return [output, effort, effort, r - output];
}

const copied = (a: readonly (readonly number[])[]): number[][] => a.map((row) => [...row]);

function dot(row: ArrayLike<number>, column: ArrayLike<number>): number {
  let sum = 0;
  for (let k = 0; k < row.length; k++) sum += row[k]! * column[k]!;
  return sum;
}
