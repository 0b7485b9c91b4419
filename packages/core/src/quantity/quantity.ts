import type { Subject } from './subject.js';

/**
 * What a quantity is read from: the response of a signal to a unit step, an error that dies out, the closed loop as a
 * system (its poles, its frequency response), or the open loop L with unity feedback around it.
 */
export type Source = 'response' | 'error' | 'system' | 'loop';

/** Something that can be read off a system: what it is called, how it is defined, how it is read. */
export interface Quantity {
  /** For people, at the start of a line. */
  readonly label: string;
  /** For people, within a sentence and before a number. */
  readonly short: string;
  /** One sentence, shown wherever the number is shown. */
  readonly definition: string;
  /** `%`, `s`, `rad/s`, `1/s`, `°`, `dB`, or empty for the output's own unit or a ratio. */
  readonly unit: string;
  readonly source: Source;
  /** What to call a difference: seconds too slow, points too high. */
  readonly excess: string;
  readonly lack: string;
  /** The relation in which it is usually asked for. */
  readonly usualRelation: 'atMost' | 'atLeast';
  readonly usualLimit: number;
  /** Null when the system does not have it; infinite where it is. */
  read(subject: Subject): number | null;
}
