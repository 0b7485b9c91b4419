import type { Answer, DrawValues, Part } from '../../exercise/document.js';
import type { Verdict } from '../verdict.js';

type OfKind<Union, Kind> = Extract<Union, { kind: Kind }>;

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
  read(part: OfKind<Part, Kind>, values: DrawValues, answer: OfKind<Answer, Kind>): void;
  /** The verdict on an answer that `read` accepts. */
  check(part: OfKind<Part, Kind>, values: DrawValues, answer: OfKind<Answer, Kind>): Verdict;
  /** The expected answer as LaTeX or words; null when any answer that holds all nails is right. */
  solution(part: OfKind<Part, Kind>, values: DrawValues): string | null;
}
