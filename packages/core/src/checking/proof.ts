import { statesToText } from './answers/states.js';
import { orElse } from '../expression/problem.js';
import type { Answer, Settings } from '../exercise/answer.js';
import type { DrawValues, ExerciseDocument } from '../exercise/document.js';
import { drawValues } from '../exercise/draw.js';
import { sampled } from '../exercise/figure.js';
import type { Part } from '../exercise/parts.js';
import type { Samples } from '../exercise/studentPart.js';
import { suggestedTerms } from './answers/bode.js';
import { curveMotion } from './answers/curve.js';
import { loopModelOf } from './answers/gains.js';
import { solutionOf } from './answers/index.js';
import { type Model, modelOf } from './model.js';
import { expectedNumber } from './answers/number.js';
import { type Search, searchSettings } from './search.js';
import { solutionCurve } from './shown.js';
import { numberSlips } from './slips/number.js';
import { usualWrongAnswers } from './wrongAnswers.js';
import { formatNumber, withUnit } from './words.js';

/** One imagined student: the numbers, what is expected, and the response that goes with it. */
export interface ProvedDraw {
  readonly values: DrawValues;
  /** LaTeX for a transfer function, words otherwise; null where many answers are right. */
  readonly expected: string | null;
  readonly settings: Settings | null;
  readonly curve: Samples | null;
}

/** A usual wrong answer with what it would be told and given. */
export interface ProvedWrong {
  readonly slip: string;
  readonly answer: string;
  readonly told: string;
  readonly points: number;
}

/** What is known of a part before it is published. */
export interface Proof {
  readonly draws: readonly ProvedDraw[];
  /** For parts whose answer is searched. */
  readonly search: Search | null;
  readonly wrong: readonly ProvedWrong[];
  readonly warnings: readonly string[];
}

export const provedDraws = 10;

/**
 * Proves one part of a document that has no findings, for ten imagined students. Yields the share that is done.
 * @throws Problem when the document cannot be worked out after all.
 */
export function* prove(document: ExerciseDocument, part: Part): Generator<number, Proof> {
  const models = Array.from({ length: provedDraws }, (_, k) => modelOf(document, drawValues(document, `sample ${k}`)));
  const isSearched = part.kind === 'gains' || part.kind === 'curve';
  const search = isSearched ? yield* searchSettings(part, models) : null;
  const right = search?.draws[0]?.settings ?? undefined;
  return {
    draws: models.map((model, k) => {
      const settings = part.kind === 'bode' ? suggestedTerms(part, model) : (search?.draws[k]?.settings ?? null);
      return {
        values: model.values,
        expected: solutionOf(part, model),
        settings,
        curve: curveFor(part, model, settings),
      };
    }),
    search,
    wrong: usualWrongAnswers(part, models[0]!, right).map(({ words, answer, verdict }) => ({
      slip: words,
      answer: answerToText(answer),
      told: [verdict.slip?.words, verdict.words].filter(Boolean).join(' '),
      points: verdict.points,
    })),
    warnings: [
      ...shownAnswers(document, part, models),
      ...ruleWarnings(part, models[0]!),
      ...deceptions(search),
      ...unfollowed(part, models[0]!),
    ],
  };
}

function curveFor(part: Part, model: Model, settings: Settings | null): Samples | null {
  if (part.kind !== 'gains' && part.kind !== 'curve') return solutionCurve(part, model) ?? null;
  if (!settings) return null;
  if (part.kind === 'curve') {
    return sampled('model', curveMotion(part, model.scope, settings, model.series), part.horizon);
  }
  const loop = loopModelOf(part, model);
  const { y } = loop.signals(loop.loopWith(settings));
  return y && sampled('output', y, part.horizon);
}

/** A parameter that is asked for while it stands among the student's numbers. */
function shownAnswers({ parameters }: ExerciseDocument, part: Part, models: readonly Model[]): string[] {
  if (part.kind !== 'number' || part.condition) return [];
  const isAsked = (symbol: string): boolean =>
    models.every(({ values, scope }) =>
      orElse(false, () => {
        const expected = expectedNumber(part, scope);
        return Math.abs(expected - Number(values[symbol])) <= 1e-9 * Math.abs(expected);
      }),
    );
  const shown = parameters.filter(({ hidden, symbol }) => !hidden && isAsked(symbol));
  return shown.map(({ symbol }) => `${symbol} is asked for, and stands among the numbers that students see: hide it.`);
}

/** A number that the second-order rule would give differently. */
function ruleWarnings(part: Part, model: Model): string[] {
  if (part.kind !== 'number') return [];
  return orElse([], () => {
    const rule = numberSlips(part, model).find(({ id }) => id === 'rule');
    if (!rule) return [];
    const expected = withUnit(expectedNumber(part, model.scope), part.unit);
    return [`The second-order rule gives ${withUnit(rule.value, part.unit)}, the response itself ${expected}.`];
  });
}

function unfollowed(part: Part, model: Model): string[] {
  if (part.kind !== 'bode' || suggestedTerms(part, model)) return [];
  return ['No model of these terms was found that follows the curve: allow more terms, or a larger misfit.'];
}

function deceptions(search: Search | null): string[] {
  if (!search?.deceiving) return [];
  const gains = Object.entries(search.deceiving).map(([name, value]) => `${name} = ${formatNumber(Number(value))}`);
  return [
    `With ${gains.join(', ')} the second-order rule predicts for the dominant poles what the loop does not give.`,
  ];
}

/** An answer as one line of text. */
export function answerToText(answer: Answer): string {
  const settings = (of: Settings): string =>
    Object.entries(of)
      .map(([name, value]) => `${name} = ${value}`)
      .join(', ');
  switch (answer.kind) {
    case 'transferFunction':
    case 'number':
    case 'paths':
    case 'points':
    case 'range':
      return answer.text;
    case 'diagram':
      return Object.values(answer.texts).join('; ');
    case 'reduction':
      return answer.steps
        .map(({ kind, of, gain }) => [kind, ...of, ...(gain === undefined ? [] : ['=', gain])].join(' '))
        .join('; ');
    case 'states':
      return statesToText(answer);
    case 'gains':
      return settings(answer.gains);
    case 'curve':
      return settings(answer.knobs);
    case 'bode':
      return settings(answer.terms);
    case 'choice':
      return answer.chosen.join(', ');
    case 'trend':
      return Object.values(answer.cells).join(', ');
  }
}
