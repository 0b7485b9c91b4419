import type { Model } from '../checking/model.js';
import type { WrongAnswer } from '../checking/slips/slip.js';
import type { Axis, Try } from '../checking/trial.js';
import type { RecognisedSlip, Verdict } from '../checking/verdict.js';
import { verdictOf } from '../checking/verdictOf.js';
import type { Settings, Trail } from '../exercise/answer.js';
import type { DrawValues } from '../exercise/document.js';
import type { InputSignal, Parameter } from '../exercise/given.js';
import type { Answer, Kind, Part, StudentPart } from '../exercise/parts.js';
import { isPrediction } from '../exercise/points.js';
import type { Samples } from '../exercise/seen.js';
import { refuseOtherTrail, stopsWith } from '../exercise/trail.js';
import { must } from '../expression/must.js';
import { Problem } from '../expression/problem.js';
import type { Scope } from '../formula/evaluate.js';
import { within } from '../response/work.js';
import { bode } from './bode/bode.js';
import { choice } from './choice/choice.js';
import { curve } from './curve/curve.js';
import { diagram } from './diagram/diagram.js';
import { gains } from './gains/gains.js';
import type { AnswerKind, DrawnDiagram, FieldText, Given, PlacedSlip, Trial } from './kind.js';
import { number } from './number/number.js';
import { paths } from './paths/paths.js';
import { points } from './points/points.js';
import { range } from './range/range.js';
import { reduction } from './reduction/reduction.js';
import { states } from './states/states.js';
import { transferFunction } from './transferFunction/transferFunction.js';
import { trend } from './trend/trend.js';

const kinds: { [K in Kind]: AnswerKind<K> } = {
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
const kindOf = (part: { readonly kind: Kind }) => kinds[part.kind] as unknown as AnswerKind<Kind>;

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
export const stopsOf = (part: Part, trail: Trail): Trail => stopsWith(kindOf(part).settings(part), trail);

/** Refuses a trail that is not one of this part. @throws Problem `exercise`. */
export function readTrail(part: Part, trail: Trail): void {
  refuseOtherTrail(kindOf(part).settings(part), trail);
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
      const slip = kindOf(part).slip(part, model, answer, (tried) => kindOf(part).check(part, model, tried));
      return slip ? { ...verdict, slip: recognised(slip) } : verdict;
    } catch (problem) {
      if (problem instanceof Problem && problem.code === 'work') return beyond(part, problem.message);
      throw problem;
    }
  });
}

/** A slip as a verdict tells it. Behind a blank in its id stands where in the diagram it is. */
const recognised = ({ id, words, place }: PlacedSlip): RecognisedSlip => ({
  ...{ id: must(id.split(' ')[0]), words },
  ...(place ? { place: [...place] } : {}),
});

/** Steps of responses that the check of one answer may take, its slips included: well below a second. */
export const mostSteps = 8000;

/** The verdict on an answer whose responses cannot be followed: nothing is met, and a person is to look. */
function beyond(part: Part, words: string): Verdict {
  const shown = { id: 'work', label: part.title, unit: '', measured: null, limit: null, relation: 'equal' as const };
  return verdictOf([{ ...shown, met: false, close: true, points: 0, outOf: pointsOf(part), words }], words);
}

/** The expected answer for a student's numbers, or null when many are right. @throws Problem when there is none. */
export function solutionOf(part: Part, model: Model): string | null {
  return kindOf(part).solution(part, model);
}

/** An answer that is right, as it could be typed; null where many are right. @throws Problem when there is none. */
export const rightAnswerOf = (part: Part, model: Model): Answer | null => kindOf(part).right(part, model);

/** A usual wrong answer and what it would be told. */
export interface ToldWrongAnswer extends WrongAnswer {
  readonly verdict: Verdict;
}

/**
 * What students usually get wrong here, generated from the part's model, each with its verdict. Answers that would be
 * right, and repetitions, are left out.
 * @param right gains that hold every nail, or knobs that match, when they are known
 */
export function usualWrongAnswers(part: Part, model: Model, right?: Settings): ToldWrongAnswer[] {
  const told: ToldWrongAnswer[] = [];
  for (const wrong of kindOf(part).wrong(part, model, right)) {
    if (told.some(({ answer }) => JSON.stringify(answer) === JSON.stringify(wrong.answer))) continue;
    try {
      const verdict = checkAnswer(part, model, wrong.answer);
      if (!verdict.met) told.push({ ...wrong, verdict });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }
  return told;
}

/** The usual wrong answers without verdicts; some of them may happen to be right. */
export const wrongAnswersOf = (part: Part, model: Model, right: Settings | undefined): WrongAnswer[] =>
  kindOf(part).wrong(part, model, right);

/** An answer as one line of text. */
export const answerToText = (answer: Answer): string => kindOf(answer).toText(answer);

/** Whether there is one answer to be told; false for kinds that many answers solve. */
export const hasSolution = (part: Part): boolean => kindOf(part).hasSolution;

/** The points that a part can give. */
export const pointsOf = (part: Part): number => kindOf(part).points(part);

/** Tries for a part: a prediction is committed once. */
export const attemptsOf = ({ attempts }: { readonly attempts: number }, part: Part): number =>
  isPrediction(part) ? 1 : kindOf(part).attempts(part, attempts);

/** What a student may see of a part beside its heading. */
export const seenOf = (part: Part, document: Given, values: DrawValues, scope: Scope) =>
  kindOf(part).seen(part, document, values, scope);

/** Everything that working on a part and checking it would run, beside its figure and its words. */
export const ownTrials = (part: Part, model: Model): Trial[] => kindOf(part).trials(part, model);

/** Ids of a part's entries, which must differ. */
export const idsIn = (part: Part): readonly string[] => kindOf(part).ids(part);

/** Words of a part that students read, beside its prompt. */
export const ownWordsOf = (part: Part): FieldText[] => kindOf(part).words(part);

/** Formulas of a part that students see and work with. */
export const formulasOf = (part: Part): FieldText[] => kindOf(part).formulas(part);

/** What drives systems on a part's bench. */
export const inputsOf = (part: Part): (InputSignal | undefined)[] => kindOf(part).inputs(part);

/** Diagrams that a part's bench draws. */
export const diagramsOf = (part: StudentPart): DrawnDiagram[] => kindOf(part).diagrams(part);

/** What is wrong with a part whatever the numbers are. */
export const ownFindings = (part: Part) => kindOf(part).findings(part);

/** What an instructor should know before students meet the part. */
export const warningsOf = (part: Part, models: readonly Model[], parameters: readonly Parameter[]): string[] =>
  kindOf(part).warnings(part, models, parameters);

/** Settings that are right, where they are worked out and not searched for. */
export const suggestedSettings = (part: Part, model: Model): Settings | null => kindOf(part).suggested(part, model);

/** The step response that goes with an expected answer, where one does. */
export const solutionCurve = (part: Part, model: Model): Samples | undefined => kindOf(part).curve(part, model);

/** How the answer to a part is searched for; null where it is not. */
export function searchOf(part: Part): Searched | null {
  const { search } = kindOf(part);
  return (
    search && {
      axes: search.axes(part),
      nails: search.nails(part),
      way: search.way,
      trying: (model) => search.trying(part, model),
      curve: (model, settings) => search.curve(part, model, settings),
    }
  );
}

/** How the answer to one part is searched for. */
export interface Searched {
  readonly axes: readonly Axis[];
  readonly nails: readonly string[];
  readonly way: 'descent' | 'halving';
  trying(model: Model): Try;
  curve(model: Model, settings: Settings): Samples | null;
}
