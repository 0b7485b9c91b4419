export { Problem, type ProblemCode } from './expression/problem.js';
export { limits } from './expression/limits.js';
export { parse } from './expression/parse.js';
export type { Tree } from './expression/tree.js';
export { nameToLatex, toLatex } from './expression/latex.js';
export {
  type Rational,
  rational,
  rationalFromDecimal,
  rationalFromNumber,
  rationalToNumber,
} from './rational/number.js';
export {
  type Bindings,
  type Fraction,
  fractionOf,
  isProper,
  isSameFraction,
  lowestTerms,
} from './rational/fraction.js';
export type { Complex } from './system/complex.js';
export type { Root } from './system/roots.js';
export { type Pole, type System, coefficientsOf, hiddenModes, systemOf } from './system/system.js';
export { factoredToLatex, fractionToLatex } from './system/latex.js';
export { type ControllerForm, type Gain, controllerOf, gainsOfForm } from './system/controller.js';
export { type Loop, closeLoop, modesOf } from './system/loop.js';
export type { Motion } from './response/motion.js';
export { stepResponse } from './response/step.js';
export { type Measures, measuresOf } from './response/measures.js';
export { type Curve, curveOf } from './response/curve.js';
export * from './exercise/document.js';
export { bindingsOf, drawValues } from './exercise/draw.js';
export { StudentPart, insertValues, studentExercise, studentPart } from './exercise/studentView.js';
export { type Quantity } from './checking/quantities/quantity.js';
export { quantities } from './checking/quantities/index.js';
export { Verdict, VerdictItem, checkerVersion } from './checking/verdict.js';
export { checkAnswer, readAnswer, solutionOf } from './checking/answers/index.js';
export { checkLoop, gainsFromText, loopOf } from './checking/answers/gains.js';
export { numberFromText } from './checking/answers/number.js';
export * from './exchange/messages.js';
export { type Finding, examine, sampleOf } from './checking/examine.js';
export { formatNumber, formatPoint, withUnit } from './checking/words.js';
