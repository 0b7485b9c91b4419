import { type Answer, type DrawValues, type Part, type Verdict, checkAnswer } from '@nailset/core';

/** One answer to check, on a thread of its own. */
export interface CheckRequest {
  readonly part: Part;
  readonly values: DrawValues;
  readonly answer: Answer;
}

export default function check({ part, values, answer }: CheckRequest): Verdict {
  return checkAnswer(part, values, answer);
}
