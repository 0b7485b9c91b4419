import { type Answer, type DrawValues, type ExerciseDocument, type Part, type Verdict, modelOf } from '@nailset/core';
import { type Finding, checkAnswer, examine } from '@nailset/core/checks';

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

/** Everything that keeps a document from being published. */
export function examineDocument(document: ExerciseDocument): Finding[] {
  return examine(document);
}
