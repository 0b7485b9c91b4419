import {
  type Answer,
  type DrawValues,
  type ExerciseDocument,
  type Finding,
  type Part,
  type Verdict,
  checkAnswer,
  examine,
} from '@nailset/core';

/** One answer to check, on a thread of its own. */
export interface CheckRequest {
  readonly part: Part;
  readonly values: DrawValues;
  readonly answer: Answer;
}

export function check({ part, values, answer }: CheckRequest): Verdict {
  return checkAnswer(part, values, answer);
}

/** Everything that keeps a document from being published. */
export function examineDocument(document: ExerciseDocument): Finding[] {
  return examine(document);
}
