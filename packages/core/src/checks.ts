// The second door, for what a student’s bench does without: draws, what students see, checks, proofs.
export { upgraded } from './exercise/upgraded.js';
export { drawValues, keptValues } from './exercise/draw.js';
export { revealedCurves, studentExercise, studentPart } from './exercise/studentView.js';
export { answerFromText, checkAnswer, readAnswer, readTrail, solutionOf, stopsOf } from './checking/answers/index.js';
export { solutionCurve, verdictAsShown } from './checking/shown.js';
export { type ToldWrongAnswer, rightAnswerOf, usualWrongAnswers, wrongAnswersOf } from './checking/wrongAnswers.js';
export { expectedTrends } from './checking/answers/trend.js';
export { checkerVersion } from './checking/verdictOf.js';
export { type Finding, examine } from './checking/examine.js';
export { sampleOf } from './checking/sample.js';
export { type GainMap, gainMapAt } from './checking/gainMap.js';
export { type Search, searchSettings } from './checking/search.js';
export { type Proof, answerToText, prove, provedDraws } from './checking/proof.js';
