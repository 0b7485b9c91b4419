import { Problem } from '../../expression/problem.js';
import type { Answer, Trail } from '../../exercise/answer.js';
import type { Part } from '../../exercise/parts.js';
import { refuseOtherTrail, stopsWith } from '../../exercise/trail.js';
import { pointsOf } from '../../exercise/points.js';
import { within } from '../../response/work.js';
import { recogniseSlip } from '../slips/index.js';
import type { Verdict } from '../verdict.js';
import { verdictOf } from '../verdictOf.js';
import { bode } from './bode.js';
import { choice } from './choice.js';
import { curve } from './curve.js';
import { gains } from './gains.js';
import type { Model } from '../model.js';
import type { AnswerKind } from './kind.js';
import { diagram } from './diagram.js';
import { number } from './number.js';
import { paths } from './paths.js';
import { points } from './points.js';
import { range } from './range.js';
import { reduction } from './reduction.js';
import { states } from './states.js';
import { transferFunction } from './transferFunction.js';
import { trend } from './trend.js';

const kinds: { [Kind in Part['kind']]: AnswerKind<Kind> } = {
  transferFunction,
  number,
  gains,
  choice,
  trend,
  curve,
  diagram,
  reduction,
  paths,
  states,
  points,
  bode,
  range,
};

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
export function readAnswer(part: Part, model: Model, answer: Answer): void {
  if (answer.kind !== part.kind) {
    throw new Problem('exercise', `Part ${part.id} asks for another kind of answer.`);
  }
  kindOf(part).read(part, model, answer);
}

/** The stops of a trail that this part can have. */
export const stopsOf = (part: Part, trail: Trail): Trail => stopsWith(kindOf(part).settings?.(part) ?? [], trail);

/** Refuses a trail that is not one of this part. @throws Problem `exercise`. */
export function readTrail(part: Part, trail: Trail): void {
  refuseOtherTrail(kindOf(part).settings?.(part) ?? [], trail);
}

/**
 * The verdict on an answer, with the slip that it shows when it is wrong. Pure: same part, model and answer, same
 * verdict.
 * @throws Problem as `readAnswer`.
 */
export function checkAnswer(part: Part, model: Model, answer: Answer): Verdict {
  readAnswer(part, model, answer);
  return within(mostSteps, () => {
    try {
      const verdict = kindOf(part).check(part, model, answer);
      if (verdict.met) return verdict;
      const slip = recogniseSlip(part, model, answer, (tried) => kindOf(part).check(part, model, tried));
      return slip ? { ...verdict, slip } : verdict;
    } catch (problem) {
      if (problem instanceof Problem && problem.code === 'work') return beyond(part, problem.message);
      throw problem;
    }
  });
}

/** Steps of responses that the check of one answer may take, its slips included: well below a second. */
const mostSteps = 8000;

/** The verdict on an answer whose responses cannot be followed: nothing is met, and a person is to look. */
function beyond(part: Part, words: string): Verdict {
  const shown = { id: 'work', label: part.title, unit: '', measured: null, limit: null, relation: 'equal' as const };
  return verdictOf([{ ...shown, met: false, close: true, points: 0, outOf: pointsOf(part), words }], words);
}

/** The expected answer for a student's numbers, or null when many are right. @throws Problem when there is none. */
export function solutionOf(part: Part, model: Model): string | null {
  return kindOf(part).solution(part, model);
}
