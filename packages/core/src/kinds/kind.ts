import type { Model } from '../checking/model.js';
import type { Slip, WrongAnswer } from '../checking/slips/slip.js';
import type { Axis, Try } from '../checking/trial.js';
import type { Verdict } from '../checking/verdict.js';
import type { Settings } from '../exercise/answer.js';
import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import type { InputSignal, Parameter } from '../exercise/given.js';
import type { Answer, AnswerOf, Kind, PartOf, SeenOf } from '../exercise/parts.js';
import type { Samples, seenHeading } from '../exercise/seen.js';
import type { Scope } from '../formula/evaluate.js';

/** What is given beside a part. */
export type Given = Pick<ExerciseDocument, 'systems' | 'series' | 'attempts'> &
  Partial<Pick<ExerciseDocument, 'parameters'>>;

/** Something that a student's work would run, and the field that is to blame when it fails. */
export interface Trial {
  readonly field: string;
  readonly run: () => void;
}

/** A formula of a part, by the field in which it stands. */
export interface FieldText {
  readonly field: string;
  readonly text: string;
}

/** How an answer of settings is searched for. */
export interface Searching<K extends Kind> {
  axes(part: PartOf<K>): Axis[];
  /** What must hold, by id. */
  nails(part: PartOf<K>): string[];
  trying(part: PartOf<K>, model: Model): Try;
  /** The response with these settings, where there is one. */
  curve(part: PartOf<K>, model: Model, settings: Settings): Samples | null;
  /** Nails pull in different directions, so all are descended together; one misfit is halved along the ladders. */
  readonly way: 'descent' | 'halving';
}

/** A slip, and the parts of a diagram that it is about. */
export interface PlacedSlip extends Slip {
  readonly place?: readonly string[] | undefined;
}

/** A diagram as a bench draws it, in signal equations. */
export interface DrawnDiagram {
  readonly equations: string;
  readonly from: string;
  /** Signals that leave it. */
  readonly outputs: readonly string[];
}

/** How an answer is read and decided. */
export interface Checking<K extends Kind> {
  /**
   * The answer that a person wrote in one line, such as a cell of a table.
   * @throws Problem when the line is not of this kind.
   */
  fromText(part: PartOf<K>, text: string): AnswerOf<K>;
  /**
   * Reads the answer and refuses what cannot be checked, before it counts as an attempt.
   * @throws Problem with the position in the typed text.
   */
  read(part: PartOf<K>, model: Model, answer: AnswerOf<K>): void;
  /** The verdict on an answer that `read` accepts. */
  check(part: PartOf<K>, model: Model, answer: AnswerOf<K>): Verdict;
  /** The expected answer in words, or as LaTeX for a transfer function; null when many are right. */
  solution(part: PartOf<K>, model: Model): string | null;
}

/** One kind of answer: all that is known of it. One folder per kind. */
export interface AnswerKind<K extends Kind> extends Checking<K> {
  /** The answer as one line of text, which `fromText` reads. */
  toText(answer: AnswerOf<K>): string;
  /** What a student may see of a part beside its heading, with their own numbers. */
  seen(part: PartOf<K>, document: Given, values: DrawValues, scope: Scope): Omit<SeenOf<K>, keyof typeof seenHeading>;
  /** An answer that is right, as it could be typed; null where many are right. @throws Problem when there is none. */
  right(part: PartOf<K>, model: Model): AnswerOf<K> | null;
  /**
   * What students usually get wrong; some of it may happen to be right.
   * @param right settings that are right, where they were searched for
   */
  wrong(part: PartOf<K>, model: Model, right: Settings | undefined): WrongAnswer[];
  /**
   * The usual slip that a wrong answer shows; undefined when none or more than one fits.
   * @param check the verdict on another answer, for slips that are seen by undoing them
   */
  slip(part: PartOf<K>, model: Model, answer: AnswerOf<K>, check: (answer: Answer) => Verdict): PlacedSlip | undefined;
  /** Everything that working on a part and checking it would run, the likeliest culprits first. */
  trials(part: PartOf<K>, model: Model): Trial[];

  /** Whether there is one answer to be told; false for kinds that many answers solve. */
  readonly hasSolution: boolean;
  /** The points that a part can give. */
  points(part: PartOf<K>): number;
  /** Tries for a part in an exercise that gives so many for each. */
  attempts(part: PartOf<K>, attempts: number): number;
  /** What its student sets on a ladder, by name; a kind without ladder has no trail either. */
  settings(part: PartOf<K>): readonly string[];
  /** Ids of a part's entries, which must differ. */
  ids(part: PartOf<K>): readonly string[];
  /** Words that its student reads, beside the prompt. */
  words(part: PartOf<K>): FieldText[];
  /** What drives systems on its student's bench. */
  inputs(part: PartOf<K>): (InputSignal | undefined)[];
  /** Formulas that its student sees and works with. */
  formulas(part: PartOf<K>): FieldText[];
  /** Diagrams that its student's bench draws before anything is done to them. */
  diagrams(part: SeenOf<K>): DrawnDiagram[];
  /** What is wrong whatever the numbers are. */
  findings(part: PartOf<K>): { readonly field: string; readonly message: string }[];
  /** What an instructor should know before students meet the part. */
  warnings(part: PartOf<K>, models: readonly Model[], parameters: readonly Parameter[]): string[];
  /** Settings that are right, where they are worked out and not searched for. */
  suggested(part: PartOf<K>, model: Model): Settings | null;
  /** The step response that goes with the expected answer, where one does. */
  curve(part: PartOf<K>, model: Model): Samples | undefined;
  readonly search: Searching<K> | null;
}

/** What most kinds have in common. */
export const defaults = {
  hasSolution: true,
  points: ({ points }: { points: number }): number => points,
  attempts: (_part: unknown, attempts: number): number => attempts,
  settings: () => [],
  ids: () => [],
  words: () => [],
  inputs: () => [],
  formulas: () => [],
  diagrams: () => [],
  findings: () => [],
  warnings: () => [],
  wrong: () => [],
  slip: () => undefined,
  suggested: () => null,
  curve: () => undefined,
  search: null,
};

/** A part without its figure and its hints, which are in its heading as far as students see them. */
export function withoutFigure<Of extends { figure?: unknown; hints?: unknown }>(
  part: Of,
): Omit<Of, 'figure' | 'hints'> {
  const copy = { ...part };
  delete copy.figure;
  delete copy.hints;
  return copy;
}
