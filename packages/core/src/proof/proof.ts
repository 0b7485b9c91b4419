import { modelOf } from '../checking/model.js';
import { formatNumber } from '../checking/words.js';
import type { Settings } from '../exercise/answer.js';
import { type DrawValues, type ExerciseDocument } from '../exercise/document.js';
import { drawValues } from '../exercise/draw.js';
import type { Part } from '../exercise/parts.js';
import type { Samples } from '../exercise/seen.js';
import {
  answerToText,
  searchOf,
  solutionCurve,
  solutionOf,
  suggestedSettings,
  usualWrongAnswers,
  warningsOf,
} from '../kinds/index.js';
import { type Search, searchSettings } from './search.js';

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

const students = 10;

/**
 * Proves one part of a document that has no findings, for the numbers of ten imagined students; the same numbers are
 * proved once. Yields the share that is done.
 * @throws Problem when the document cannot be worked out after all.
 */
export function* prove(document: ExerciseDocument, part: Part): Generator<number, Proof> {
  const drawn = Array.from({ length: students }, (_, k) => drawValues(document, `sample ${k}`));
  const different = new Map(drawn.map((values) => [JSON.stringify(values), values])).values();
  const models = Array.from(different, (values) => modelOf(document, values));
  const searched = searchOf(part);
  const search = searched && (yield* searchSettings(searched, models));
  const right = search?.draws[0]?.settings ?? undefined;
  return {
    draws: models.map((model, k) => {
      const settings = search ? (search.draws[k]?.settings ?? null) : suggestedSettings(part, model);
      const curve = searched ? settings && searched.curve(model, settings) : (solutionCurve(part, model) ?? null);
      return { values: model.values, expected: solutionOf(part, model), settings, curve };
    }),
    search,
    wrong: usualWrongAnswers(part, models[0]!, right).map(({ words, answer, verdict }) => ({
      slip: words,
      answer: answerToText(answer),
      told: [verdict.slip?.words, verdict.words].filter(Boolean).join(' '),
      points: verdict.points,
    })),
    warnings: [...warningsOf(part, models, document.parameters), ...deceptions(search)],
  };
}

function deceptions(search: Search | null): string[] {
  if (!search?.deceiving) return [];
  const gains = Object.entries(search.deceiving).map(([name, value]) => `${name} = ${formatNumber(Number(value))}`);
  return [
    `With ${gains.join(', ')} the second-order rule predicts for the dominant poles what the loop does not give.`,
  ];
}
