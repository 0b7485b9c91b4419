import { shownPlots } from './shownPlot.js';
import { frequencyTarget } from './frequencyTarget.js';
import { Problem, orElse } from '../expression/problem.js';
import { namesIn } from '../expression/tree.js';
import { type Scope, parseFormula, systemFrom, valueOf } from '../formula/evaluate.js';
import { type QuantityName, quantityNames } from '../quantity/names.js';
import { type Fraction } from '../rational/fraction.js';
import { fractionToLatex } from '../system/latex.js';
import { withDeadTime } from '../system/transfer.js';
import { constantOf } from '../system/transferAlgebra.js';
import { rationalToNumber } from '../rational/number.js';
import type { DrawValues, ExerciseDocument } from './document.js';
import { figureCurves, inputLine, sampled } from './figure.js';
import type { Picture, Series } from './given.js';
import { motionOf } from './inputs.js';
import type { Controller, ControllerGain, CurvePart, GainsPart, Part } from './parts.js';
import { isPid } from './controllers.js';
import { attemptsOf, pointsOf } from './points.js';
import { blocksOf } from './blocks.js';
import { hiddenIn, scopeOf } from './scope.js';
import { mentions } from '../diagram/exact.js';
import type { Family, Samples, ShownDiagram, StudentFigure, StudentPart } from './studentPart.js';
import { equationsOf, textOf } from './systems.js';
import { absoluteTolerance } from './tolerance.js';

type Given = Pick<ExerciseDocument, 'systems' | 'series' | 'attempts'> & Partial<Pick<ExerciseDocument, 'parameters'>>;

/** The part without what is expected of the answer, the student's values put into its words. */
export function studentPart(document: Given, part: Part, values: DrawValues, scope: Scope): StudentPart {
  const { id, title, figure } = part;
  const { series } = document;
  const common = {
    id,
    title,
    prompt: insertValues(part.prompt, values, scope),
    points: pointsOf(part),
    attempts: attemptsOf(document, part),
    ...(figure ? { figure: studentFigure(figure, scope, series) } : {}),
  };
  switch (part.kind) {
    case 'transferFunction':
      return { ...common, kind: part.kind, tolerancePercent: part.tolerancePercent };
    case 'number': {
      const { kind, unit, tolerancePercent } = part;
      const toleranceAbsolute = absoluteTolerance(part);
      const quantity = outermost(part.formula);
      return {
        ...common,
        kind,
        unit,
        tolerancePercent,
        ...(toleranceAbsolute === undefined ? {} : { toleranceAbsolute }),
        ...(quantity ? { quantity } : {}),
      };
    }
    case 'gains':
      return {
        ...withoutFigure(part),
        ...numbersOfLoop(part, scope),
        families: familiesOf(document, part, values),
        ...common,
      };
    case 'choice': {
      const plots = shownPlots(
        part.options.map(({ plot }) => plot),
        scope,
      );
      const options = part.options.map((option, k) => ({
        id: option.id,
        text: insertValues(option.text, values, scope),
        ...(plots[k] ? { plot: plots[k] } : {}),
      }));
      return { ...common, kind: part.kind, several: part.several, options };
    }
    case 'trend': {
      const names = (list: readonly { id: string; label: string }[]) =>
        list.map(({ id: of, label }) => ({ id: of, label }));
      return { ...common, kind: part.kind, changes: names(part.changes), rows: names(part.rows) };
    }
    case 'diagram':
      return { ...withoutFigure(part), ...common, equations: equationsOf(document, part.system).text };
    case 'reduction':
      return { ...withoutFigure(part), ...common, equations: equationsOf(document, part.system).text };
    case 'paths':
      return { ...withoutFigure(part), ...common, equations: equationsOf(document, part.system).text };
    case 'points': {
      const { kind, what, tolerancePercent, count, toleranceDegrees, offAxis, of } = part;
      const isGiven = what !== 'poles' && what !== 'zeros';
      return {
        ...common,
        ...{ kind, what, tolerancePercent },
        ...(count === undefined ? {} : { count }),
        ...(toleranceDegrees === undefined ? {} : { toleranceDegrees }),
        ...(offAxis ? { offAxis } : {}),
        ...(isGiven ? { loop: textOf(systemFrom(of, scope)) } : {}),
      };
    }
    case 'range':
      return { ...common, kind: part.kind, tolerancePercent: part.tolerancePercent };
    case 'states':
      return { ...common, kind: part.kind, tolerancePercent: part.tolerancePercent };
    case 'bode':
      return { ...withoutFigure(part), ...common, target: frequencyTarget(part, scope) };
    case 'curve': {
      const { kind, model, knobs, input, output, horizon, misfitPercent } = part;
      return {
        ...common,
        kind,
        model,
        knobs,
        known: knownNames(part, scope),
        ...(input ? { input } : {}),
        target: targetOf(part, scope, series),
        output,
        horizon,
        misfitPercent,
      };
    }
  }
}

function withoutFigure<Of extends { figure?: unknown }>(part: Of): Omit<Of, 'figure'> {
  const copy = { ...part };
  delete copy.figure;
  return copy;
}

function studentFigure(figure: NonNullable<Part['figure']>, scope: Scope, series: readonly Series[]): StudentFigure {
  const now = { ...figure, curves: figure.curves.filter(({ afterwards }) => !afterwards) };
  return {
    horizon: figure.horizon,
    input: inputLine(figure.input, series, figure.horizon),
    curves: figureCurves(now, scope, series).map(({ label, times, values }) => ({ label, times, values })),
    afterwards: figure.curves.length - now.curves.length,
  };
}

/** The curves that a student sees once the part is answered. */
export function revealedCurves(document: Given, part: Part, values: DrawValues): Samples[] {
  if (!part.figure) return [];
  const later = { ...part.figure, curves: part.figure.curves.filter(({ afterwards }) => afterwards) };
  return figureCurves(later, scopeOf(document, values), document.series).map(({ label, times, values: found }) => ({
    label,
    times,
    values: found,
  }));
}

/** The curve that a model is to follow. */
export function targetOf(part: CurvePart, scope: Scope, series: readonly Series[]): Samples {
  if ('system' in part.target) {
    const motion = motionOf(systemFrom(part.target.system, scope), part.input, series);
    return sampled('given', motion, part.horizon);
  }
  const { series: id } = part.target;
  const found = series.find((entry) => entry.id === id);
  if (!found) throw new Problem('exercise', `There is no table “${id}”.`);
  return { label: found.name, times: found.times, values: found.values };
}

/** What the names of a curve's model stand for, but for those that the student sets. */
export function knownNames(part: Pick<CurvePart, 'model' | 'knobs'>, scope: Scope): Record<string, string> {
  const own = new Set(part.knobs.map(({ symbol }) => symbol));
  const used = new Set(namesIn(parseFormula(part.model)));
  return Object.fromEntries(
    [...scope.names].filter(([name]) => used.has(name) && !own.has(name)).map(([name, value]) => [name, textOf(value)]),
  );
}

/** Everything of a loop that formulas give, as numbers. */
function numbersOfLoop(
  part: GainsPart,
  scope: Scope,
): Pick<GainsPart, 'plant' | 'controller'> & Partial<Pick<GainsPart, 'sensor' | 'limits'>> {
  const written = (formula: string): string => textOf(systemFrom(formula, scope));
  const { limits, sensor, controller } = part;
  return {
    plant: written(part.plant),
    ...(sensor === undefined ? {} : { sensor: written(sensor) }),
    ...(limits
      ? {
          limits: {
            low: written(limits.low),
            high: written(limits.high),
            ...(limits.trackingTime === undefined ? {} : { trackingTime: written(limits.trackingTime) }),
          },
        }
      : {}),
    controller: numbersOfController(controller, written),
  };
}

const familyFactors = [0.5, 0.75, 1.33, 2];
/** From a quarter of a value to four times it. */
const sweepFactors = Array.from({ length: 33 }, (_, k) => 2 ** ((k - 16) / 8));

/**
 * Plant and sensor with one parameter at a half, three quarters, four thirds and double of the student's value; where
 * the bench has a locus, closer and farther too.
 */
function familiesOf(document: Given, part: GainsPart, values: DrawValues): Family[] {
  const formulas = [part.plant, ...(part.sensor === undefined ? [] : [part.sensor])];
  const written = (of: DrawValues): string[] => {
    const scope = scopeOf(document, of);
    return formulas.map((formula) => textOf(systemFrom(formula, scope)));
  };
  const now = written(values).join();
  const hidden = hiddenIn(document.parameters);
  const shown = Object.keys(values).filter((parameter) => !hidden.has(parameter));
  return shown.flatMap((parameter) => {
    const at = (factors: readonly number[], digits: number): Family['members'] =>
      factors.flatMap((factor) => {
        const value = String(Number((Number(values[parameter]) * factor).toPrecision(digits)));
        return orElse([], () => {
          const [plant, sensor] = written({ ...values, [parameter]: value });
          return [{ value, plant: plant!, ...(sensor === undefined ? {} : { sensor }) }];
        });
      });
    const members = at(familyFactors, 3);
    const matters = members.some(
      ({ plant, sensor }) => [plant, ...(sensor === undefined ? [] : [sensor])].join() !== now,
    );
    if (!matters) return [];
    return [{ parameter, members, sweep: part.views.includes('locus') ? at(sweepFactors, 6) : [] }];
  });
}

function numbersOfController(controller: Controller, written: (formula: string) => string): Controller {
  const numbered = <Of extends ControllerGain>(gain: Of): Of =>
    'value' in gain ? { ...gain, value: written(gain.value) } : gain;
  if (!isPid(controller)) return { ...controller, gains: controller.gains.map(numbered) };
  return {
    ...controller,
    ...(controller.filterTime === undefined ? {} : { filterTime: written(controller.filterTime) }),
    gains: controller.gains.map(numbered),
  };
}

/** The quantity that a formula as a whole is, for its definition. */
function outermost(formula: string): QuantityName | undefined {
  const tree = orElse(undefined, () => parseFormula(formula));
  return tree?.kind === 'call' ? quantityNames.find((name) => name === tree.name) : undefined;
}

/**
 * Replaces `{{symbol}}` by the student's value and `{{formula}}` by what it stands for: a number with four significant
 * digits, or a transfer function in LaTeX. Other braces stay.
 */
export function insertValues(text: string, values: DrawValues, scope?: Scope): string {
  return text.replace(inBraces, (whole, inner: string) => inserted(inner.trim(), values, scope) ?? whole);
}

/**
 * What stands in double braces and is left as it is, although it was meant to be replaced: anything between words, and
 * between dollar signs, where braces are LaTeX too, a name or a call.
 */
export function leftInBraces(text: string, values: DrawValues, scope: Scope): string[] {
  // Every second piece lies between dollar signs.
  return text.split(/\$+/).flatMap((piece, k) =>
    Array.from(piece.matchAll(inBraces), ([, inner]) => inner!.trim())
      .filter((inner) => !isNumber(inner) && (k % 2 === 0 || /^[A-Za-z]\w*(\(.*\))?$/.test(inner)))
      .filter((inner) => inserted(inner, values, scope) === undefined),
  );
}

const inBraces = /\{\{([^{}]+)\}\}/g;

const inserted = (inner: string, values: DrawValues, scope: Scope | undefined): string | undefined =>
  Object.hasOwn(values, inner) ? values[inner] : scope && written(inner, scope);

/** A number in double braces is LaTeX, not a formula. */
const isNumber = (inner: string): boolean => /^[\d.\s]+$/.test(inner);

function written(formula: string, scope: Scope): string | undefined {
  if (isNumber(formula)) return undefined;
  return orElse(undefined, () => {
    const value = valueOf(parseFormula(formula), scope);
    if (typeof value === 'number') return shortNumber(value);
    const exact = constantOf(value);
    if (exact) return shortNumber(rationalToNumber(exact));
    const plain = withDeadTime(value);
    return plain ? delayedToLatex(plain.fraction, rationalToNumber(plain.deadTime)) : undefined;
  });
}

const shortNumber = (value: number): string => String(Number(value.toPrecision(4)));

/** A fraction with its dead time as LaTeX. */
export function delayedToLatex(fraction: Fraction, deadTime: number): string {
  const shown = fractionToLatex(fraction);
  return deadTime === 0 ? shown : `${shown}\\,e^{-${shortNumber(deadTime)}\\,s}`;
}

/** Systems in equations that the words show by `diagram:name`. */
function diagramsShown({ systems, statement, parts }: ExerciseDocument): ShownDiagram[] {
  const words = wordsOf({ statement, parts }).join('\n');
  return systems.flatMap(({ name, form }) =>
    form.kind === 'equations' && words.includes(`diagram:${name})`)
      ? [{ name, equations: form.text, from: form.from, to: form.to }]
      : [],
  );
}

/** Tables that drive a system on a student's bench. The others are drawn here, and a curve kept back stays here. */
function seriesShown({ series, parts }: ExerciseDocument): Series[] {
  const inputs = parts.flatMap((part) =>
    part.kind === 'gains' ? [part.input, part.disturbance] : part.kind === 'curve' ? [part.input] : [],
  );
  return series.filter(({ id }) => inputs.some((input) => input?.kind === 'series' && input.series === id));
}

/** Pictures that the words show. */
function picturesShown(document: ExerciseDocument): Picture[] {
  const words = wordsOf(document).join('\n');
  return document.pictures.filter(({ id }) => new RegExp(`picture:${id}(?![a-z0-9-])`).test(words));
}

/** All words that students read. */
export const wordsOf = ({ statement, parts }: Pick<ExerciseDocument, 'statement' | 'parts'>): string[] => [
  statement,
  ...parts.flatMap((part) => [part.prompt, ...(part.kind === 'choice' ? part.options.map(({ text }) => text) : [])]),
];

/**
 * Blocks of the exercise's diagrams that students see with their values anyway, in the words or bound in a diagram that
 * is shown; they can be used in answers by name.
 */
function shownBlocks(document: ExerciseDocument, scope: Scope): { name: string; text: string }[] {
  const words = wordsOf(document).join('\n');
  const hidden = [...hiddenIn(document.parameters)];
  const bound = diagramsShown(document).map(({ equations }) => equations.split(/^where\b/m)[1] ?? '');
  const isShown = (name: string): boolean =>
    new RegExp(`\\{\\{\\s*${name}\\s*\\}\\}`).test(words) ||
    bound.some((text) => mentions(text, name) && !hidden.some((symbol) => mentions(text, symbol)));
  return [...blocksOf(document, scope)].flatMap(([name, value]) =>
    isShown(name) ? orElse([], () => [{ name, text: textOf(value) }]) : [],
  );
}

/** What a student sees of a whole exercise. */
export function studentExercise(document: ExerciseDocument, values: DrawValues) {
  const scope = scopeOf(document, values);
  return {
    title: document.title,
    statement: insertValues(document.statement, values, scope),
    attempts: document.attempts,
    shows: document.shows,
    late: document.late,
    series: seriesShown(document),
    diagrams: diagramsShown(document),
    pictures: picturesShown(document),
    parameters: document.parameters
      .filter(({ hidden }) => !hidden)
      .map(({ symbol, meaning, unit }) => ({ symbol, meaning, unit, value: values[symbol] ?? '' })),
    blocks: shownBlocks(document, scope),
    parts: document.parts.map((part) => studentPart(document, part, values, scope)),
  };
}
