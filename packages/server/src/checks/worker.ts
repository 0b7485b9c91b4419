import {
  type Answer,
  type DrawValues,
  type ExerciseDocument,
  type Part,
  type Verdict,
  modelOf,
  orElse,
} from '@nailset/core';
import { type Finding, checkAnswer, examine, keptValues } from '@nailset/core/checks';

/** One answer to check, on a thread of its own. */
export interface CheckRequest {
  readonly given: Pick<ExerciseDocument, 'systems' | 'series' | 'parameters'>;
  readonly part: Part;
  readonly values: DrawValues;
  readonly answer: Answer;
}

export function check({ given, part, values, answer }: CheckRequest): Verdict {
  return checkAnswer(part, modelOf(given, values), answer);
}

/** Numbers that students have, and the document under which they are to keep them. */
export interface KeepRequest {
  readonly document: ExerciseDocument;
  readonly seen: readonly DrawValues[];
}

/** How many of these sets of numbers the document does not allow. */
export function countRuledOut({ document, seen }: KeepRequest): number {
  return seen.filter((values) => orElse(true, () => keptValues(document, values, '') === undefined)).length;
}

/** Everything that keeps a document from being published. */
export function examineDocument(document: ExerciseDocument): Finding[] {
  return examine(document);
}
