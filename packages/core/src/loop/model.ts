import type { Settings } from '../exercise/answer.js';
import type { InputSignal, Series } from '../exercise/given.js';
import { inputFrom, unitStep } from '../exercise/inputs.js';
import type { SignalName } from '../exercise/names.js';
import { Problem } from '../expression/problem.js';
import { numberFrom, type Scope, systemFrom } from '../formula/evaluate.js';
import type { GainsPart } from '../kinds/gains/part.js';
import type { Subject } from '../quantity/subject.js';
import { rational, rationalFromNumber, rationalToNumber } from '../rational/number.js';
import { constant, multiply } from '../rational/polynomial.js';
import type { Input } from '../response/input.js';
import { largestOfMotion } from '../response/integrals.js';
import { limitedLoop, type LimitedSignals } from '../response/limitedLoop.js';
import { type Measures, measuresOfMotion, noMeasures } from '../response/measures.js';
import type { Motion } from '../response/motion.js';
import { respond } from '../response/respond.js';
import { settlingMotion } from '../response/settling.js';
import { Superposition } from '../response/superposition.js';
import { rangeOf } from '../response/walk.js';
import { asDelayedFraction, highestDegree, type Transfer } from '../system/transfer.js';
import { constantTransfer } from '../system/transferAlgebra.js';
import { controllerFrom } from './controller.js';
import { ControlLoop, type InputName } from './controlLoop.js';

/** What a gains part says of its loop. */
export type GivenLoop = Pick<
  GainsPart,
  'plant' | 'sensor' | 'limits' | 'controller' | 'input' | 'disturbance' | 'horizon'
>;

interface Limits {
  readonly low: number;
  readonly high: number;
  readonly trackingTime: number | null;
}

const unity = constantTransfer(rational(1n));

/** The loop of a gains part with one student's numbers, waiting for gains. */
export class LoopModel {
  readonly plant: Transfer;
  readonly sensor: Transfer;
  readonly limits: Limits | null;
  private readonly loops = new WeakMap<Settings, ControlLoop>();
  private readonly within = new WeakMap<ControlLoop, Map<InputName, boolean>>();

  /** @throws Problem when plant, sensor or limits cannot be worked out. */
  constructor(
    readonly given: GivenLoop,
    private readonly scope: Scope,
    private readonly series: readonly Series[] = [],
  ) {
    this.plant = systemFrom(given.plant, scope);
    this.sensor = given.sensor === undefined ? unity : systemFrom(given.sensor, scope);
    this.limits = given.limits ? limitsFrom(given.limits, scope) : null;
  }

  /** The loop with a student's settings, worked out once. @throws Problem as `controllerFrom` and `ControlLoop`. */
  loopWith(settings: Settings): ControlLoop {
    const known = this.loops.get(settings);
    if (known) return known;
    const loop = new ControlLoop(this, controllerFrom(this.given.controller, settings, this.scope));
    this.loops.set(settings, loop);
    return loop;
  }

  /** Height of the reference step that nails are measured on; 1 for other references. */
  get height(): number {
    const { input } = this.given;
    return input?.kind === 'levels' ? input.to - input.from : 1;
  }

  /**
   * What a nail about a signal is read from. Measured on a step of the reference by its own height, or of the
   * disturbance by its height.
   */
  subject(loop: ControlLoop, signal: SignalName = 'y', input: InputName = 'r'): Subject {
    const driving = input === 'r' ? this.height : stepHeight(this.given.disturbance);
    if (this.limits && !this.staysWithinLimits(loop, input, driving)) {
      return new LimitedSubject(loop, this.limitedStep(loop, input, driving), signal);
    }
    const subject = loop.subject(signal, input);
    return driving === 1 ? subject : new ScaledSubject(subject, driving);
  }

  /** Output, error and effort as the bench draws them; null for a signal that starts with an impulse. */
  signals(loop: ControlLoop): Record<SignalName, Motion | null> {
    if (this.limits) {
      const { output, error, effort } = this.limited(loop, this.reference, this.disturbance);
      return { y: output, e: error, u: effort };
    }
    return { y: this.motion(loop, 'y'), e: this.motion(loop, 'e'), u: this.motion(loop, 'u') };
  }

  /** The output as the bench draws it. */
  output(loop: ControlLoop): Motion | null {
    return this.limits ? this.limited(loop, this.reference, this.disturbance).output : this.motion(loop, 'y');
  }

  private get reference(): Input {
    return inputFrom(this.given.input ?? unitStep, this.series);
  }

  private get disturbance(): Input | undefined {
    return this.given.disturbance && inputFrom(this.given.disturbance, this.series);
  }

  private motion(loop: ControlLoop, signal: SignalName): Motion | null {
    const transfer = loop.transfer(signal, 'r');
    if (highestDegree(transfer.numerator) > highestDegree(transfer.denominator)) return null;
    const plain = isUnitStep(this.given.input) ? loop.subject(signal).stepMotion : undefined;
    const first = plain ?? respond(transfer, this.reference);
    const { disturbance } = this;
    if (!disturbance) return first;
    const second = respond(loop.transfer(signal, 'd'), disturbance);
    return new Superposition([
      { motion: first, factor: 1, from: 0 },
      { motion: second, factor: 1, from: 0 },
    ]);
  }

  /** Whether the effort never meets its limits after a step, so that the loop is the linear one. */
  private staysWithinLimits(loop: ControlLoop, input: InputName, height: number): boolean {
    const { low, high } = this.limits!;
    const known = this.within.get(loop) ?? new Map<InputName, boolean>();
    this.within.set(loop, known);
    const stays = known.get(input) ?? within();
    known.set(input, stays);
    return stays;

    function within(): boolean {
      if (!loop.stable) return false;
      const transfer = loop.transfer('u', input);
      if (highestDegree(transfer.numerator) > highestDegree(transfer.denominator)) return false;
      const { motion } = settlingMotion(transfer)!;
      const range = rangeOf(motion, 1e-12 * Math.max(Math.abs(low), Math.abs(high)));
      const ends = [range.low * height, range.high * height];
      return Math.min(...ends) >= low && Math.max(...ends) <= high;
    }
  }

  private limitedStep(loop: ControlLoop, input: InputName, height: number): LimitedSignals {
    const step: Input = { kind: 'step', amplitude: height };
    const still: Input = { kind: 'step', amplitude: 0 };
    return input === 'r' ? this.limited(loop, step, undefined) : this.limited(loop, still, step);
  }

  private limited(loop: ControlLoop, reference: Input, disturbance: Input | undefined): LimitedSignals {
    const { fraction, deadTime } = asDelayedFraction(this.plant, 'A loop with limits');
    const { pid } = loop.gains;
    if (!pid) throw new Problem('exercise', 'Limits of the effort go with a PID controller, not with a compensator.');
    const [Kp, Ki, Kd, filterTime] = [pid.Kp, pid.Ki, pid.Kd, pid.filterTime].map(rationalToNumber) as [
      ...[number, number, number, number],
    ];
    const { low, high, trackingTime } = this.limits!;
    return limitedLoop({
      plant: fraction,
      deadTime,
      controller: { Kp, Ki, Kd, filterTime, limits: { low, high }, trackingTime },
      reference,
      ...(disturbance ? { disturbance } : {}),
      horizon: this.given.horizon,
    });
  }
}

function limitsFrom(limits: NonNullable<GivenLoop['limits']>, scope: Scope): Limits {
  const trackingTime = limits.trackingTime === undefined ? null : numberFrom(limits.trackingTime, scope);
  const [low, high] = [numberFrom(limits.low, scope), numberFrom(limits.high, scope)];
  if (!(low < high)) throw new Problem('exercise', 'The lower limit of the effort must lie below the upper.');
  if (trackingTime !== null && !(trackingTime > 0)) {
    throw new Problem('exercise', 'The tracking time of the integrator must be more than 0.');
  }
  return { low, high, trackingTime };
}

const isUnitStep = (input: InputSignal | undefined): boolean =>
  !input || (input.kind === 'levels' && input.from === 0 && input.to === 1 && input.at === 0);

const stepHeight = (input: InputSignal | undefined): number => (input?.kind === 'levels' ? input.to - input.from : 1);

/** A linear loop's signal after a step that is not 1 high: levels grow with it, times and per cents stay. */
class ScaledSubject implements Subject {
  readonly measures: Measures;

  constructor(
    private readonly subject: Subject,
    private readonly height: number,
  ) {
    const { measures } = subject;
    const scaled = (value: number | null): number | null => (value === null ? null : value * height);
    this.measures = { ...measures, finalValue: scaled(measures.finalValue), peakValue: scaled(measures.peakValue) };
  }

  get stable() {
    return this.subject.stable;
  }

  get transfer(): Transfer {
    const { numerator, denominator } = this.subject.transfer;
    const factor = constant(rationalFromNumber(this.height));
    return {
      numerator: numerator.map((term) => ({ ...term, polynomial: multiply(term.polynomial, factor) })),
      denominator,
    };
  }

  get largest() {
    return this.subject.largest === null ? null : Math.abs(this.subject.largest * this.height);
  }

  get slowest() {
    return this.subject.slowest;
  }

  get open() {
    return this.subject.open;
  }

  get margins() {
    return this.subject.margins;
  }

  get steadyState() {
    return this.subject.steadyState;
  }
}

const signalOf = { y: 'output', e: 'error', u: 'effort' } as const;

/** A signal of a loop with limits: measured on its own motion; poles and margins are those of the loop without limits. */
class LimitedSubject implements Subject {
  readonly stable: boolean;
  readonly motion: Motion;
  readonly measures: Measures;
  private readonly settled: { readonly motion: Motion; readonly finalValue: number } | null;

  constructor(
    private readonly loop: ControlLoop,
    signals: LimitedSignals,
    private readonly signal: SignalName,
  ) {
    this.motion = signals[signalOf[signal]];
    this.settled = (loop.stable ? signals.settled() : null)?.[signalOf[signal]] ?? null;
    this.stable = this.settled !== null;
    this.measures = this.settled ? measuresOfMotion(this.settled.motion, this.settled.finalValue) : noMeasures;
  }

  get transfer() {
    return this.loop.transfer(this.signal, 'r');
  }

  get largest() {
    if (!this.settled) return null;
    return largestOfMotion(this.settled.motion, this.settled.finalValue);
  }

  get slowest() {
    return this.loop.subject().slowest;
  }

  get open() {
    return this.loop.open;
  }

  get margins() {
    return this.loop.margins;
  }

  get steadyState() {
    return this.loop.steadyState;
  }
}
