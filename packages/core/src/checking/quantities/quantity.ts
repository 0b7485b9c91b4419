import type { QuantityName } from '../../exercise/quantityNames.js';
import type { Measures } from '../../response/measures.js';

/** Something read off a step response: what it is called, how it is defined, where it is read. */
export interface Quantity {
  readonly name: QuantityName;
  /** For people, at the start of a line. */
  readonly label: string;
  /** For people, within a sentence and before a number. */
  readonly short: string;
  /** One sentence, shown wherever the number is shown. */
  readonly definition: string;
  /** `%`, `s` or empty for the output's own unit. */
  readonly unit: '%' | 's' | '';
  /** What to call a difference: seconds too slow, points too high. */
  readonly excess: string;
  readonly lack: string;
  /** The relation in which it is usually asked for. */
  readonly usualRelation: 'atMost' | 'atLeast';
  readonly usualLimit: number;
  /** Null when the response does not have it. */
  read(measures: Measures): number | null;
}
