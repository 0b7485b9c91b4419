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
export type { SymbolicFraction } from './symbolic/fraction.js';
export { symbolicToLatex, symbolicToText } from './symbolic/text.js';
export { type Diagram, readEquations, splitEquations } from './diagram/equations.js';
export { type SignalFlow, signalFlow, transferBetween } from './diagram/reduce.js';
export type { Complex } from './system/complex.js';
export { type Root, roots } from './system/roots.js';
export { type Pole, type System, coefficientsOf, hiddenModes, systemOf } from './system/system.js';
export { type Transfer, delayed, transferOf, unityFeedback } from './system/transfer.js';
export { factoredToLatex, fractionToLatex, gainZeroPoleToLatex, timeConstantToLatex } from './system/latex.js';
export {
  type ControllerForm,
  type Gain,
  type PidForm,
  controllerOf,
  convertController,
  gainsOfForm,
  leadLag,
  toParallel,
} from './system/controller.js';
export { type Loop, closeLoop, modesOf } from './system/loop.js';
export { magnitudeAndPhase, plotFrequencies } from './frequency/bode.js';
export { type Margins, marginsOf } from './frequency/margins.js';
export { bandwidthOf, closedLoopPeak, sensitivityPeak } from './frequency/peaks.js';
export { countEncirclements, isLoopStable } from './frequency/stability.js';
export type { Motion } from './response/motion.js';
export { stepResponse } from './response/step.js';
export type { Input } from './response/input.js';
export { freeMotion, respond } from './response/respond.js';
export { type LimitedSignals, limitedLoop } from './response/limitedLoop.js';
export { type Measures, measuresOf, measuresOfTransfer, noMeasures } from './response/measures.js';
export { type ErrorIntegrals, errorIntegrals, peakOfResponse } from './response/integrals.js';
export { type SteadyState, steadyStateOf } from './response/steadyState.js';
export { type Curve, curveOf } from './response/curve.js';
export { type SpecialPoints, specialPoints } from './locus/specialPoints.js';
export { type Branch, branchesOf, nearestOnBranches, nearestOnLocus } from './locus/branches.js';
export { onDampingRay } from './locus/dampingRay.js';
export { stableGains } from './locus/stableRanges.js';
export { routhArray } from './locus/routh.js';
export { type TunedStart, tunedStart } from './design/tune.js';
export { matchPolynomial } from './design/match.js';
export { type Fit, fitFraction, fitFrequency, fitStep } from './design/fit.js';
export * from './exercise/document.js';
export { type QuantityName, quantityNames } from './exercise/quantityNames.js';
export { pointsOf } from './exercise/points.js';
export { StudentPart } from './exercise/studentPart.js';
export { bindingsOf, drawValues } from './exercise/draw.js';
export { insertValues, studentExercise, studentPart } from './exercise/studentView.js';
export { type Quantity } from './checking/quantities/quantity.js';
export { quantities } from './checking/quantities/index.js';
export { Verdict, VerdictItem } from './checking/verdict.js';
export { checkerVersion } from './checking/verdictOf.js';
export { answerFromText, checkAnswer, readAnswer, solutionOf } from './checking/answers/index.js';
export { checkLoop, gainsFromText, loopOf } from './checking/answers/gains.js';
export { numberFromText } from './checking/answers/number.js';
export * from './exchange/messages.js';
export { type Finding, examine, sampleOf } from './checking/examine.js';
export { formatNumber, formatPoint, withUnit } from './checking/words.js';
