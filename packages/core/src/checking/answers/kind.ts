import type { Answer } from '../../exercise/answer.js';
import type { Part } from '../../exercise/parts.js';
import type { Model } from '../model.js';
import type { Verdict } from '../verdict.js';

export type OfKind<Union, Kind> = Extract<Union, { kind: Kind }>;

/** One kind of answer: how it is read, checked, and what the expected one is. One file per kind. */
export interface AnswerKind<Kind extends Part['kind']> {
  readonly kind: Kind;
  /**
   * The answer that a person wrote in one line, such as a cell of a table.
   * @throws Problem when the line is not of this kind.
   */
  fromText(part: OfKind<Part, Kind>, text: string): OfKind<Answer, Kind>;
  /**
   * Reads the answer and refuses what cannot be checked, before it counts as an attempt.
   * @throws Problem with the position in the typed text.
   */
  read(part: OfKind<Part, Kind>, model: Model, answer: OfKind<Answer, Kind>): void;
  /** The verdict on an answer that `read` accepts. */
  check(part: OfKind<Part, Kind>, model: Model, answer: OfKind<Answer, Kind>): Verdict;
  /** What its student sets on a ladder, by name; left out by kinds without one, which have no trail either. */
  settings?(part: OfKind<Part, Kind>): readonly string[];
  /** The expected answer in words, or as LaTeX for a transfer function; null when many are right. */
  solution(part: OfKind<Part, Kind>, model: Model): string | null;
}
