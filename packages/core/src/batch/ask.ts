import type { Query } from './query.js';

/** Something that a query can ask for. Results are plain data; infinite numbers are told as “infinite”. */
export interface Ask {
  readonly name: string;
  /** @throws Problem for a query that cannot be answered. */
  answer(query: Query): unknown;
}
