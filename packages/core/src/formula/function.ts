import type { Transfer } from '../system/transfer.js';

/** What a formula can be worked out to: a transfer function (an exact number is one too), or a rounded number. */
export type Value = Transfer | number;

/** A function of formulas. */
export interface FormulaFunction {
  /** Its values, as documentation shows them: `riseTime(T)`. */
  readonly usage: string;
  /** One sentence for the documentation. */
  readonly gives: string;
  readonly fewest: number;
  readonly most: number;
  /** Which values are transfer functions; the others are numbers. */
  readonly systems: number;
  readonly unit?: string;
  /** @throws Problem when the systems do not have what is asked for. */
  readonly value: (systems: readonly Transfer[], numbers: readonly number[]) => Value;
}
