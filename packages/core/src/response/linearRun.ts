import { Problem } from '../expression/problem.js';
import { radau, stages, type Step, stepMatrices } from './collocation.js';
import { pieceAt, type PieceSource, type PolynomialPiece, valueOf } from './piecewise.js';
import { spendStep } from './work.js';

/** x′ = a·x + b·w, outputs = c·x + d·w: n states, q forcing signals, p outputs. */
export interface LinearMode {
  readonly a: readonly (readonly number[])[];
  readonly b: readonly (readonly number[])[];
  readonly c: readonly (readonly number[])[];
  readonly d: readonly (readonly number[])[];
}

/** The boundary at which a run changes its mode: `output` leaves [low, high]; modes are inside, above, below. */
export interface Switching {
  readonly output: number;
  readonly low: number;
  readonly high: number;
}

/** What a run works out: its modes, what drives them, and how closely. */
export interface RunOptions {
  /** One mode; or three, for inside, above and below the limits of `switching`. */
  readonly modes: readonly LinearMode[];
  readonly switching?: Switching;
  readonly initial: readonly number[];
  /** Writes the forcing signals at a time, `after` or just before it; may look at the run's earlier outputs. */
  readonly forcing: (time: number, after: boolean, into: Float64Array, run: LinearRun) => void;
  readonly forcingCount: number;
  /** Times, rising and above 0, at which a forcing signal or one of its slopes may jump. */
  readonly breaks: readonly number[];
  /** How long after a change of mode the forcing signals may have a kink of their own. */
  readonly echoes?: readonly number[];
  /** Longest step; it must not exceed the shortest dead time. */
  readonly longest: number;
  /** Largest error of a step in an output, relative to the largest value of it so far. */
  readonly tolerance: number;
  /** How large each output will be, roughly: while it is much smaller, a millionth of this is what counts. */
  readonly sizes: readonly number[];
}

const mostPieces = 30_000;

/**
 * A linear system with delayed or limited signals, worked out piece by piece as far as it is asked for. Time is counted
 * in a unit in which the longest step is near 1.
 * Method: Radau collocation with seven points (stiffly accurate, order 13), steps halved until the highest terms of
 * every output vanish; a change of mode is located on the step's own polynomial and ends the step.
 */
export class LinearRun {
  /** Pieces of each output, all with the same times. */
  readonly outputs: PolynomialPiece[][];
  private done = 0;
  private current: Float64Array;
  private modeNow = 0;
  private entered = 0;
  private changes = 0;
  private length: number;
  private upcoming = 0;
  /** The span between two breaks that is being crossed, and the share of it that is done. */
  private target = 0;
  private from = 0;
  private span = 0;
  private share = 1;
  /** The largest value of each output so far, or a millionth of what is expected. */
  private readonly scales: Float64Array;
  private readonly breaks: number[];
  private readonly steps = new Map<string, Step>();
  private readonly force: Float64Array[];

  constructor(private readonly options: RunOptions) {
    this.outputs = options.modes[0]!.c.map(() => []);
    this.scales = Float64Array.from(options.sizes, (size) => 1e-6 * size || Number.MIN_VALUE);
    this.current = Float64Array.from(options.initial);
    this.length = options.longest;
    this.breaks = [...options.breaks];
    this.force = Array.from({ length: stages + 1 }, () => new Float64Array(options.forcingCount));
    if (options.switching) this.modeNow = this.modeAt(this.startOutputs());
  }

  /** Up to where it is worked out. */
  get time(): number {
    return this.done;
  }

  /** The states there. */
  get state(): Float64Array {
    return this.current;
  }

  /** The mode it is in, since when, and how often it has changed. */
  get mode(): number {
    return this.modeNow;
  }

  get since(): number {
    return this.entered;
  }

  get switches(): number {
    return this.changes;
  }

  /** The first output's largest value so far, as a share of what was expected. */
  get largestShare(): number {
    return this.scales[0]! / (this.options.sizes[0]! || 1);
  }

  /** The pieces of one output, for a motion. */
  source(output: number): PieceSource {
    return { pieces: this.outputs[output]!, reach: (time) => this.reach(time) };
  }

  /** Value of an output at a time that was already worked out; of two pieces that meet there, the one asked for. */
  value(output: number, time: number, after: boolean): number {
    const pieces = this.outputs[output]!;
    let index = pieceAt(pieces, time + (after ? 1e-12 : -1e-12) * Math.max(1, Math.abs(time)));
    const { from } = pieces[index]!;
    if (!after && index > 0 && from > time) index -= 1;
    return valueOf(pieces[index]!, time);
  }

  reach(time: number): void {
    while (this.done <= time) {
      if (this.outputs[0]!.length >= mostPieces) {
        throw new Problem('numberSize', `This response needs more than ${mostPieces} pieces; look at a shorter time.`);
      }
      this.advance();
    }
  }

  /** Works out one more piece. */
  advance(): void {
    const { breaks } = this;
    const { longest, tolerance, switching } = this.options;
    while (this.upcoming < breaks.length && breaks[this.upcoming]! <= this.done * (1 + 1e-13)) this.upcoming += 1;
    const target = breaks[this.upcoming] ?? Infinity;
    if (target !== this.target || this.share >= 1) {
      this.target = target;
      this.from = this.done;
      this.span = target === Infinity ? longest : target - this.done;
      this.share = 0;
    }
    for (;;) {
      spendStep();
      // Steps are binary shares of the span, so that few lengths occur and their matrices are used again.
      let pieces = 2 ** Math.max(0, Math.ceil(Math.log2(this.span / this.length) - 1e-9));
      while (!Number.isInteger(this.share * pieces)) pieces *= 2;
      const length = this.span / pieces;
      const nextShare = this.share + 1 / pieces;
      const to = nextShare === 1 && target !== Infinity ? target : this.from + this.span * nextShare;
      const { states, outputs, error } = this.attempt(length, to);
      const small = error <= tolerance;
      if (!small && length > 1e-9 * Math.max(longest, this.done)) {
        this.length = length / 2;
        continue;
      }
      const event = switching ? this.firstChange(outputs[switching.output]!) : null;
      this.accept(length, to, event?.at ?? 1, states, outputs);
      this.share = event ? 1 : nextShare;
      if (event) this.change(event.mode);
      if (error < tolerance / 512) this.length = Math.min(longest, 2 * length);
      return;
    }
  }

  private change(mode: number): void {
    this.modeNow = mode;
    this.entered = this.done;
    this.changes += 1;
    for (const echo of this.options.echoes ?? []) {
      const at = this.done + echo;
      const place = this.breaks.findIndex((time) => time > at);
      this.breaks.splice(place < 0 ? this.breaks.length : place, 0, at);
    }
  }

  /** States at 0 and the nodes, outputs as polynomials of the share of the step, and the worst relative error. */
  private attempt(length: number, to: number): { states: Float64Array[]; outputs: Float64Array[]; error: number } {
    const { forcing, modes } = this.options;
    const { b, c, d } = modes[this.modeNow]!;
    const { nodes, toPowers, toTail } = radau();
    const n = this.current.length;
    forcing(this.done, true, this.force[0]!, this);
    for (let i = 0; i < stages; i++) {
      const last = i === stages - 1;
      forcing(last ? to : this.done + length * nodes[i]!, !last, this.force[i + 1]!, this);
    }
    const { start, force } = this.step(length);
    const push = new Float64Array(stages * n);
    for (let i = 0; i < stages; i++) {
      for (let p = 0; p < n; p++) push[i * n + p] = dot(b[p]!, this.force[i + 1]!);
    }
    const states = [this.current];
    for (let i = 0; i < stages; i++) {
      const state = new Float64Array(n);
      for (let p = 0; p < n; p++) {
        const row = i * n + p;
        let value = 0;
        for (let q = 0; q < n; q++) value += start[row * n + q]! * this.current[q]!;
        for (let q = 0; q < stages * n; q++) value += force[row * stages * n + q]! * push[q]!;
        state[p] = value;
      }
      states.push(state);
    }
    let error = 0;
    const outputs = c.map((row, k) => {
      const values = states.map((state, i) => dot(row, state) + dot(d[k]!, this.force[i]!));
      const tail = toTail.map((weights) => dot(weights, values));
      error = Math.max(error, (Math.abs(tail[1]!) + Math.abs(tail[0]!) / 16) / this.scales[k]!);
      return Float64Array.from(toPowers, (weights) => dot(weights, values));
    });
    return { states, outputs, error };
  }

  private step(length: number): Step {
    const key = `${this.modeNow} ${length.toPrecision(12)}`;
    let step = this.steps.get(key);
    if (!step) {
      step = stepMatrices(this.options.modes[this.modeNow]!.a, length);
      this.steps.set(key, step);
    }
    return step;
  }

  private accept(length: number, to: number, share: number, states: Float64Array[], outputs: Float64Array[]): void {
    const end = share === 1 ? to : this.done + share * length;
    outputs.forEach((powers, k) => {
      let factor = 1;
      const scaled = powers.map((value) => {
        const result = value * factor;
        factor *= share;
        return result;
      });
      this.outputs[k]!.push({ from: this.done, to: end, powers: scaled });
      let last = 0;
      for (const value of scaled) last += value;
      this.scales[k] = Math.max(this.scales[k]!, Math.abs(scaled[0]!), Math.abs(last));
    });
    this.current = share === 1 ? states[stages]! : interpolated(states, share);
    this.done = end;
  }

  private startOutputs(): number[] {
    const { forcing, modes } = this.options;
    const { c, d } = modes[0]!;
    forcing(0, true, this.force[0]!, this);
    return c.map((row, k) => dot(row, this.current) + dot(d[k]!, this.force[0]!));
  }

  private modeAt(outputs: readonly number[]): number {
    const { output, low, high } = this.options.switching!;
    return outputs[output]! > high ? 1 : outputs[output]! < low ? 2 : 0;
  }

  /** Where in the step the limited signal first leaves its mode. */
  private firstChange(powers: Float64Array): { at: number; mode: number } | null {
    const { output, low, high } = this.options.switching!;
    const value = (x: number): number => {
      let sum = 0;
      for (let k = powers.length - 1; k >= 0; k--) sum = sum * x + powers[k]!;
      return sum;
    };
    const slack = 1e-12 * Math.max(Math.abs(low), Math.abs(high), this.scales[output]!);
    const modeOf = (v: number): number => {
      if (this.modeNow === 0) return v > high + slack ? 1 : v < low - slack ? 2 : 0;
      if (this.modeNow === 1) return v < high - slack ? (v < low ? 2 : 0) : 1;
      return v > low + slack ? (v > high ? 1 : 0) : 2;
    };
    const samples = 24;
    for (let k = 1; k <= samples; k++) {
      if (modeOf(value(k / samples)) === this.modeNow) continue;
      let [inside, outside] = [(k - 1) / samples, k / samples];
      for (let round = 0; round < 52; round++) {
        const middle = (inside + outside) / 2;
        if (modeOf(value(middle)) === this.modeNow) inside = middle;
        else outside = middle;
      }
      return { at: outside, mode: modeOf(value(outside)) };
    }
    return null;
  }
}

function dot(row: ArrayLike<number>, column: ArrayLike<number>): number {
  let sum = 0;
  for (let k = 0; k < row.length; k++) sum += row[k]! * column[k]!;
  return sum;
}

function interpolated(states: readonly Float64Array[], share: number): Float64Array {
  const { toPowers } = radau();
  const weights = states.map((_, i) => toPowers.reduceRight((sum, row) => sum * share + row[i]!, 0));
  return states[0]!.map((_, p) => states.reduce((sum, state, i) => sum + weights[i]! * state[p]!, 0));
}
