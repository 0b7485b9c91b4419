import { Problem } from '../expression/problem.js';
import { type Margins, marginsOf } from '../frequency/margins.js';
import { isStable } from '../frequency/stability.js';
import { lowestTerms } from '../rational/fraction.js';
import { peakOfResponse } from '../response/integrals.js';
import { type Measures, measuresOf, measuresOfTransfer, noMeasures } from '../response/measures.js';
import type { Motion } from '../response/motion.js';
import { type SteadyState, steadyStateOf } from '../response/steadyState.js';
import { stepResponse } from '../response/step.js';
import { type Pole, type System, systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';

/** What quantities are read from; everything is worked out once, when it is first asked for. */
export interface Subject {
  /** Every mode decays, hidden ones included. */
  readonly stable: boolean;
  /** From the input in question to the signal in question. */
  readonly transfer: Transfer;
  /** Its unit step response, when it is known otherwise than from the transfer, as with limits. */
  readonly motion?: Motion;
  readonly measures: Measures;
  /** Largest value of the response without sign; null when there is none. */
  readonly largest: number | null;
  /** The slowest pole, the one with the larger imaginary part of a pair; undefined when there is none. */
  readonly slowest: Pole | undefined;
  /** The open loop; the transfer itself when nothing else is known. */
  readonly open: Transfer;
  readonly margins: Margins;
  readonly steadyState: SteadyState;
}

/** A transfer function by itself, as in a formula; `loop` quantities take it for the open loop. */
export class TransferSubject implements Subject {
  private known: { measures?: Measures; margins?: Margins; steadyState?: SteadyState; system?: System | null } = {};

  constructor(readonly transfer: Transfer) {}

  get open(): Transfer {
    return this.transfer;
  }

  get stable(): boolean {
    return this.measures.stable;
  }

  get measures(): Measures {
    return (this.known.measures ??= this.readMeasures());
  }

  get largest(): number | null {
    return largestOf(this.transfer);
  }

  get slowest(): Pole | undefined {
    return slowestOf(this.plainSystem('Poles').poles);
  }

  get margins(): Margins {
    return (this.known.margins ??= marginsOf(this.transfer));
  }

  get steadyState(): SteadyState {
    return (this.known.steadyState ??= steadyStateOf(this.transfer));
  }

  private readMeasures(): Measures {
    const plain = withDeadTime(this.transfer);
    if (plain?.deadTime.numerator !== 0n) return measuresOfTransfer(this.transfer);
    if (!isStable(this.transfer)) return noMeasures;
    const system = systemOf(lowestTerms(plain.fraction));
    return measuresOf(system, stepResponse(system));
  }

  private plainSystem(what: string): System {
    this.known.system ??= systemWithoutDelay(this.transfer);
    if (!this.known.system) {
      throw new Problem('deadTime', `${what} of a loop with dead time are infinitely many; ask for something else.`);
    }
    return this.known.system;
  }
}

/** The transfer in numbers, its dead time left out; null when dead time is inside a loop or a sum. */
export function systemWithoutDelay(transfer: Transfer): System | null {
  const plain = withDeadTime(transfer);
  return plain && systemOf(lowestTerms(plain.fraction));
}

/** The pole that decays last. */
export function slowestOf(poles: readonly Pole[]): Pole | undefined {
  let slowest: Pole | undefined;
  for (const pole of poles) {
    if (!slowest || pole.re > slowest.re + 1e-12 * slowest.naturalFrequency) slowest = pole;
    else if (Math.abs(pole.re - slowest.re) <= 1e-12 * slowest.naturalFrequency && pole.im > slowest.im) slowest = pole;
  }
  return slowest;
}

/** Largest |value| of the unit step response; infinite when it starts with an impulse, null when it is not stable. */
export function largestOf(transfer: Transfer): number | null {
  try {
    const peak = peakOfResponse(transfer);
    return peak && Math.abs(peak.value);
  } catch (error) {
    if (error instanceof Problem && error.code === 'improper') return Infinity;
    throw error;
  }
}
