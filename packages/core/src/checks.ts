// The second door, for what a student’s bench does without: draws, what students see, checks, proofs.
export { upgraded } from './exercise/upgraded.js';
export { drawValues, keptValues } from './exercise/draw.js';
export {
  type ToldWrongAnswer,
  answerFromText,
  answerToText,
  attemptsOf,
  checkAnswer,
  hasSolution,
  pointsOf,
  readAnswer,
  readTrail,
  rightAnswerOf,
  searchOf,
  solutionCurve,
  solutionOf,
  stopsOf,
  usualWrongAnswers,
  wrongAnswersOf,
} from './kinds/index.js';
export { type Disclosed, Disclosure, closesAt } from './kinds/disclosure.js';
export { expectedTrends } from './kinds/trend/check.js';
export {
  curveMeasures,
  diagramsDrawn,
  hintsTold,
  revealedCurves,
  studentExercise,
  studentPart,
} from './kinds/studentView.js';
export { verdictAsShown } from './checking/verdictAsShown.js';
export { checkerVersion } from './checking/verdictOf.js';
export { type Finding, examine } from './proof/examine.js';
export { sampleOf } from './proof/sample.js';
export { type GainMap, gainMapAt } from './proof/gainMap.js';
export { type Search, searchSettings } from './proof/search.js';
export { type Proof, prove } from './proof/proof.js';
export { type Dates, type Extension, datesFor, isVisible, weeksLater } from './course/dates.js';
export {
  type KnownPerson,
  type Listed,
  type Roster,
  type RosterEntry,
  planRoster,
  readRoster,
} from './course/roster.js';
