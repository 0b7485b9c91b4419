import type { SignalName } from '../exercise/names.js';
import { Problem } from '../expression/problem.js';
import { type Margins, marginsOf } from '../frequency/margins.js';
import { isStable } from '../frequency/stability.js';
import { largestOf, slowestOf, type Subject } from '../quantity/subject.js';
import { lowestTerms } from '../rational/fraction.js';
import { commonFactor, isHurwitz, negate, type Polynomial, zero } from '../rational/polynomial.js';
import { type Measures, measuresOf, measuresOfTransfer, noMeasures } from '../response/measures.js';
import type { Motion } from '../response/motion.js';
import { type SteadyState, steadyStateOf } from '../response/steadyState.js';
import { stepResponse } from '../response/step.js';
import { roots } from '../system/roots.js';
import { type Pole, poleOf, type System, systemOf } from '../system/system.js';
import {
  delayed,
  type DelayedPolynomial,
  highestDegree,
  inSeries,
  productOfTerms,
  sumOfTerms,
  type Transfer,
  withDeadTime,
} from '../system/transfer.js';
import type { SetController } from './controller.js';

export type InputName = 'r' | 'd';

/** Plant and sensor of a loop, in numbers. */
export interface LoopParts {
  readonly plant: Transfer;
  readonly sensor: Transfer;
}

type Terms = readonly DelayedPolynomial[];

/**
 * The loop e = r − H·y, u = C·e, y = G·(u + d), every mode kept. Its transfer functions, measures and margins are worked
 * out when they are first asked for.
 */
export class ControlLoop {
  /** C·G·H. */
  readonly open: Transfer;
  /** Its zeros are all modes, those hidden by cancellation included. */
  readonly characteristic: Terms;
  private readonly controller: Transfer;
  private known: { stable?: boolean; margins?: Margins; steadyState?: SteadyState; modes?: Pole[] } = {};
  private readonly subjects = new Map<string, LoopSubject>();

  /** @throws Problem `improper` when the loop has no solution that starts from rest. */
  constructor(
    private readonly parts: LoopParts,
    readonly gains: SetController,
  ) {
    const { plant, sensor } = parts;
    for (const [name, of] of [
      ['plant', plant],
      ['sensor', sensor],
    ] as const) {
      if (highestDegree(of.numerator) > highestDegree(of.denominator)) {
        throw new Problem('improper', `The ${name} has more zeros than poles, so it cannot be built or simulated.`);
      }
    }
    this.controller = delayed(gains.fraction);
    this.open = inSeries(inSeries(this.controller, plant), sensor);
    this.characteristic = sumOfTerms(this.open.denominator, this.open.numerator);
    const closed = this.transfer('y', 'r');
    if (
      this.characteristic[0]?.delay.numerator !== 0n ||
      highestDegree(closed.numerator) > highestDegree(this.characteristic)
    ) {
      throw new Problem(
        'improper',
        'With these gains the loop is not well posed: its gain tends to −1 at high frequency.',
      );
    }
  }

  /** Every mode decays, hidden ones included. */
  get stable(): boolean {
    return (this.known.stable ??= isStable({ numerator: [], denominator: this.characteristic }));
  }

  /** From an input to a signal, every mode kept. */
  transfer(signal: SignalName, input: InputName): Transfer {
    const { controller: c, characteristic: denominator } = this;
    const { plant: g, sensor: h } = this.parts;
    const product = (a: Terms, b: Terms, d: Terms): Terms => productOfTerms(productOfTerms(a, b), d);
    const numerator = (): Terms => {
      if (input === 'r') {
        if (signal === 'y') return product(c.numerator, g.numerator, h.denominator);
        if (signal === 'e') return product(c.denominator, g.denominator, h.denominator);
        return product(c.numerator, g.denominator, h.denominator);
      }
      if (signal === 'y') return product(g.numerator, c.denominator, h.denominator);
      if (signal === 'e') return minus(product(g.numerator, h.numerator, c.denominator));
      return minus(product(c.numerator, g.numerator, h.numerator));
    };
    return { numerator: numerator(), denominator };
  }

  /** What nails about a signal are read from. */
  subject(signal: SignalName = 'y', input: InputName = 'r'): LoopSubject {
    const key = `${signal}/${input}`;
    const known = this.subjects.get(key);
    if (known) return known;
    const subject = new LoopSubject(this, signal, input);
    this.subjects.set(key, subject);
    return subject;
  }

  get margins(): Margins {
    return (this.known.margins ??= marginsOf(this.open));
  }

  get steadyState(): SteadyState {
    return (this.known.steadyState ??= steadyStateOf(this.open));
  }

  /** Every mode of a loop without dead time, hidden ones included. @throws Problem `deadTime`. */
  get modes(): readonly Pole[] {
    return (this.known.modes ??= this.findModes());
  }

  /** Whether dead time is in the loop. */
  get hasDeadTime(): boolean {
    return this.characteristic.length > 1;
  }

  /** Where an unstable mode is lost from the way of the reference to the output, in words; null where none is. */
  get hiddenCause(): string | null {
    const parts = { controller: this.controller, plant: this.parts.plant, sensor: this.parts.sensor };
    const names = ['controller', 'plant', 'sensor'] as const;
    const polynomial = (terms: Terms): Polynomial => terms[0]?.polynomial ?? zero;
    for (const zeroOf of names) {
      for (const poleOf of names) {
        const [above, below] = [parts[zeroOf].numerator, parts[poleOf].denominator];
        if (above.length > 1 || below.length > 1) continue;
        if (isHurwitz(commonFactor(polynomial(above), polynomial(below)))) continue;
        return zeroOf === poleOf ? `the ${zeroOf} cancels it itself` : `the ${zeroOf} cancels a pole of the ${poleOf}`;
      }
    }
    return null;
  }

  private findModes(): Pole[] {
    const { system } = this.subject();
    const polynomial = this.polynomial();
    if (system?.fraction.denominator.integers.length === polynomial.integers.length) return [...system.poles];
    return roots(polynomial).map(poleOf);
  }

  private polynomial(): Polynomial {
    if (this.hasDeadTime) {
      throw new Problem('deadTime', 'A loop with dead time has infinitely many modes; they are not listed.');
    }
    return this.characteristic[0]!.polynomial;
  }
}

const minus = (terms: Terms): Terms => terms.map((term) => ({ ...term, polynomial: negate(term.polynomial) }));

/** One signal of a loop as one input steps by 1. */
export class LoopSubject implements Subject {
  readonly transfer: Transfer;
  private known: { system?: System | null; motion?: Motion; measures?: Measures; largest?: number | null } = {};

  constructor(
    private readonly loop: ControlLoop,
    signal: SignalName,
    input: InputName,
  ) {
    this.transfer = loop.transfer(signal, input);
  }

  get stable(): boolean {
    return this.loop.stable;
  }

  get open(): Transfer {
    return this.loop.open;
  }

  get margins(): Margins {
    return this.loop.margins;
  }

  get steadyState(): SteadyState {
    return this.loop.steadyState;
  }

  get slowest(): Pole | undefined {
    return slowestOf(this.loop.modes);
  }

  /** In lowest terms; null for a loop with dead time. */
  get system(): System | null {
    if (this.known.system === undefined) {
      const plain = withDeadTime(this.transfer);
      this.known.system = plain?.deadTime.numerator === 0n ? systemOf(lowestTerms(plain.fraction)) : null;
    }
    return this.known.system;
  }

  /** The unit step response of a loop without dead time. */
  get stepMotion(): Motion | undefined {
    const { system } = this;
    if (!system) return undefined;
    return (this.known.motion ??= stepResponse(system));
  }

  get measures(): Measures {
    return (this.known.measures ??= this.readMeasures());
  }

  get largest(): number | null {
    if (this.known.largest === undefined) this.known.largest = largestOf(this.transfer);
    return this.known.largest;
  }

  private readMeasures(): Measures {
    if (!this.stable) return noMeasures;
    const { system } = this;
    if (!system) return measuresOfTransfer(this.transfer);
    // A signal that starts with an impulse has no measures of a step.
    if (highestDegree(this.transfer.numerator) > highestDegree(this.transfer.denominator)) {
      return { ...noMeasures, stable: true };
    }
    return measuresOf(system, this.stepMotion);
  }
}
