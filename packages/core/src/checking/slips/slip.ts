import type { Answer } from '../../exercise/parts.js';
import { orElse } from '../../expression/problem.js';
import type { Transfer } from '../../system/transfer.js';
import type { Verdict } from '../verdict.js';

/** A usual way of going wrong: what was done, as the sentence that a verdict says. */
export interface Slip {
  readonly id: string;
  readonly words: string;
}

/** A slip with the transfer function that it leads to. */
export interface TransferSlip extends Slip {
  readonly transfer: Transfer;
}

/** A slip with the number that it leads to. */
export interface NumberSlip extends Slip {
  readonly value: number;
}

/** A slip with the answer that it leads to, for the table of usual wrong answers. */
export interface WrongAnswer extends Slip {
  readonly answer: Answer;
}

/** What goes before anything else that leads to the same answer: the sign of a feedback, then another input. */
const firstOf: readonly RegExp[] = [/^feedbackSign|^sign /, /^input-/];

/**
 * The one slip that fits; undefined when none does, or when different ones fit equally. The sign of a feedback goes
 * before any other.
 */
export function onlyOne<Found extends Slip>(slips: readonly Found[]): Found | undefined {
  const ranked = firstOf.map((ids) => slips.filter(({ id }) => ids.test(id)));
  const [first, ...others] = ranked.find((some) => some.length > 0) ?? slips;
  return first && others.every(({ id }) => id === first.id) ? first : undefined;
}

/** The verdict on another answer; undefined for one that cannot be handed in. */
export function attempted(check: (answer: Answer) => Verdict, answer: Answer): Verdict | undefined {
  return orElse(undefined, () => check(answer));
}
