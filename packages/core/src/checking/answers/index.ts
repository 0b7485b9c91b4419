import { Problem } from '../../expression/problem.js';
import type { Answer, DrawValues, Part } from '../../exercise/document.js';
import type { Verdict } from '../verdict.js';
import { gains } from './gains.js';
import type { AnswerKind } from './kind.js';
import { number } from './number.js';
import { transferFunction } from './transferFunction.js';

const kinds: { [Kind in Part['kind']]: AnswerKind<Kind> } = { transferFunction, number, gains };

// The kind of the part selects the entry, so part and answer are of the same kind; the compiler cannot follow that.
const kindOf = (part: Part) => kinds[part.kind] as AnswerKind<Part['kind']>;

/** The answer that a person wrote in one line. @throws Problem when it is not of the part's kind. */
export function answerFromText(part: Part, text: string): Answer {
  return kindOf(part).fromText(part, text);
}

/**
 * Refuses an answer that cannot be checked, before it counts as an attempt.
 * @throws Problem saying what is wrong and where in the typed text.
 */
export function readAnswer(part: Part, values: DrawValues, answer: Answer): void {
  if (answer.kind !== part.kind) {
    throw new Problem('exercise', `Part ${part.id} asks for another kind of answer.`);
  }
  kindOf(part).read(part, values, answer);
}

/** The verdict on an answer. Pure: same part, values and answer, same verdict. @throws Problem as `readAnswer`. */
export function checkAnswer(part: Part, values: DrawValues, answer: Answer): Verdict {
  readAnswer(part, values, answer);
  return kindOf(part).check(part, values, answer);
}

/** The expected answer for a student's numbers (LaTeX for a transfer function), or null when many are right. */
export function solutionOf(part: Part, values: DrawValues): string | null {
  return kindOf(part).solution(part, values);
}
