export { Problem, orProblem, orElse, problemCodes, type ProblemCode } from './expression/problem.js';
export { decimalIn, numberIn } from './expression/decimal.js';
export { must } from './expression/must.js';
export { limits } from './expression/limits.js';
export { withBrackets } from './expression/brackets.js';
export { parse, parseTyped } from './expression/parse.js';
export type { Tree } from './expression/tree.js';
export { nameToLatex, toLatex } from './expression/latex.js';
export { knownLetter, readingNotes, withKnownLetters } from './expression/letters.js';
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
export { type Transfer, delayed, transferOf, unityFeedback, withDeadTime } from './system/transfer.js';
export { constantTransfer, feedbackOf, isSameTransfer, transferFrom } from './system/transferAlgebra.js';
export {
  delayedToLatex,
  factoredToLatex,
  fractionToLatex,
  gainZeroPoleToLatex,
  timeConstantToLatex,
} from './system/latex.js';
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
export { type FrequencyFunction, frequencyFunction, magnitudeAndPhase, plotFrequencies } from './frequency/bode.js';
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
export { type Branch, type Window, branchesOf, nearestOnBranches, nearestOnLocus } from './locus/branches.js';
export { sweepParameter, sweepSetting } from './loop/sweep.js';
export { onDampingRay } from './locus/dampingRay.js';
export { stableGains } from './locus/stableRanges.js';
export { routhArray } from './locus/routh.js';
export { type TunedStart, tunedStart } from './design/tune.js';
export { matchPolynomial } from './design/match.js';
export { TransferSubject } from './quantity/subject.js';
export { type QuantityName, neverNegative, quantityNames } from './quantity/names.js';
export { type Quantity } from './quantity/quantity.js';
export { quantities } from './quantity/index.js';
export { type Scope, numberFrom, parseFormula, systemFrom } from './formula/evaluate.js';
export { typedTransferFrom, typedTree } from './formula/roots.js';
export { functions } from './formula/functions.js';
export { type Facts, factsOf, timeFor, type WrittenForm, writtenForms } from './sheet/facts.js';
export {
  type Design,
  leadDesign,
  matchedDesign,
  type Specifications,
  tunedDesign,
} from './working/fromSpecifications.js';
export {
  placement,
  similarStates,
  type StateFacts,
  stateFacts,
  stateForm,
  statesLatex,
  statesText,
  systemStates,
} from './working/states.js';
export { matrixLatex, type WorkingStep } from './working/step.js';
export {
  type Around,
  driveLine,
  drivenMotion,
  isOverFrequency,
  isOverTime,
  partMotion,
  togetherMotion,
} from './sheet/driven.js';
export type { LimitedSystem, Plant } from './sheet/plant.js';
export { coefficientsIn, withCoefficients } from './sheet/coefficients.js';
export { linesReader, type Member, numbersOf, type ReadLine, readLines } from './sheet/read.js';
export { readSignal } from './sheet/signal.js';
export * from './sheet/sheet.js';
export { holds, readCondition } from './formula/condition.js';
export { InputSignal, NamedSystem, Parameter, Picture, Series, SystemForm } from './exercise/given.js';
export * from './exercise/names.js';
export { isPid } from './exercise/controllers.js';
export * from './exercise/parts.js';
export * from './exercise/document.js';
export * from './exercise/answer.js';
export { isStopOf } from './exercise/trail.js';
export { type Trend, trends } from './kinds/trend/trends.js';
export { absoluteTolerance, turnOf } from './exercise/tolerance.js';
export { isPrediction, sumOfShares } from './exercise/points.js';
export { betweenLevels } from './exercise/levelMeasures.js';
export { type FigureMeasures, type LevelMeasures, Samples, ShownDiagram, StudentFigure } from './exercise/seen.js';
export { Figure, Hint } from './exercise/heading.js';
export * from './kinds/bode/part.js';
export * from './kinds/choice/part.js';
export * from './kinds/curve/part.js';
export * from './kinds/diagram/part.js';
export * from './kinds/gains/part.js';
export * from './kinds/number/part.js';
export * from './kinds/paths/part.js';
export * from './kinds/points/part.js';
export * from './kinds/range/part.js';
export * from './kinds/reduction/part.js';
export * from './kinds/states/part.js';
export * from './kinds/transferFunction/part.js';
export * from './kinds/trend/part.js';
export { bindingsOf, parametersOf, scopeOf } from './exercise/scope.js';
export { formulaOfForm, systemOfForm, textOf } from './exercise/systems.js';
export { inputFrom, motionOf } from './exercise/inputs.js';
export { figureCurves, inputLine, sampled } from './exercise/figure.js';
export { insertValues } from './exercise/words.js';
export { ControlLoop } from './loop/controlLoop.js';
export {
  controllerFrom,
  decimalFrom,
  gainsOf,
  isOpen,
  ladderRange,
  openGains,
  refuseOutside,
  startOf,
} from './loop/controller.js';
export { LoopModel } from './loop/model.js';
export { partnersOf } from './loop/compensator.js';
export { secondOrderRules } from './system/secondOrderRules.js';
export { hiddenWords } from './checking/words.js';
export { RecognisedSlip, Verdict, VerdictItem } from './checking/verdict.js';
export { nailLabel, nailsIn } from './checking/nails.js';
export { type Model, modelOf } from './checking/model.js';
export { fitFraction, fitFrequency, fitStep } from './design/fit.js';
export type { StructureName } from './design/structures.js';
export { type Matrix, matrixFromNumbers } from './rational/matrix.js';
export { matricesOf, type StateSpace } from './system/stateSpace.js';
export { checkNails } from './checking/nails.js';
export { checkLoop, nailsOf } from './kinds/gains/check.js';
export { bodeVerdict, numbersOfTerms, settingsOfTerms } from './kinds/bode/check.js';
export { type TermModel, modelOfTerms, responseOfTerms, straightLines } from './frequency/terms.js';
export { refineTerms } from './design/refine.js';
export { curveMotion, curveVerdict, misfitPercent } from './kinds/curve/check.js';
export { cellOf } from './kinds/trend/check.js';
export { pointWords, pointsFromText, textOfPoints } from './kinds/points/text.js';
export { rangeWords, rangesFromText } from './kinds/range/text.js';
export { type Stretch, stretchesOf } from './kinds/points/sketch.js';
export { numberFromText } from './checking/numberText.js';
export {
  type Counting,
  type CourseMark,
  Marking,
  type MarkCell,
  MarkRule,
  MarkSet,
  courseMark,
  markingProblem,
  plainMarking,
  ruleFor,
} from './course/marking.js';
export { cellText } from './exchange/cell.js';
export * from './exchange/messages.js';
export * from './exchange/classSheet.js';
export * from './exchange/course.js';
export * from './exchange/learning.js';
export * from './exchange/sheets.js';
export { formatMark, formatNumber, formatPoint, formatPoints, inPoints, listOf, withUnit } from './checking/words.js';
