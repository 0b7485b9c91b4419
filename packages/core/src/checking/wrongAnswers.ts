import { Problem } from '../expression/problem.js';
import type { Answer, Settings } from '../exercise/answer.js';
import { type Trend, trends } from '../exercise/trends.js';
import type { ChoicePart, Part, TrendPart } from '../exercise/parts.js';
import { textOf } from '../exercise/systems.js';
import { systemFrom } from '../formula/evaluate.js';
import { expectedNumber } from './answers/number.js';
import { rightOptions } from './answers/choice.js';
import { checkAnswer } from './answers/index.js';
import { reduction } from '../diagram/reduction.js';
import { expectedPaths } from './answers/paths.js';
import { startOfReduction } from './answers/reduction.js';
import { rightPoints, wrongPoints } from './slips/points.js';
import { rightStates } from './answers/states.js';
import { rightTexts, wrongDiagrams } from './slips/diagram.js';
import { wrongPaths } from './slips/paths.js';
import { expectedTrends } from './answers/trend.js';
import type { Model } from './model.js';
import { wrongGains } from './slips/gains.js';
import { suggestedTerms } from './answers/bode.js';
import { wrongTerms } from './slips/bode.js';
import { expectedRanges } from './answers/range.js';
import { textOfRanges } from './answers/rangeText.js';
import { wrongRanges } from './slips/range.js';
import { wrongNumbers } from './slips/number.js';
import { wrongStates } from './slips/states.js';
import { wrongTransfers } from './slips/transferFunction.js';
import type { WrongAnswer } from './slips/slip.js';
import type { Verdict } from './verdict.js';

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
  for (const wrong of wrongAnswersOf(part, model, right)) {
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

/** The same without verdicts; some of them may happen to be right. */
export function wrongAnswersOf(part: Part, model: Model, right: Settings | undefined): WrongAnswer[] {
  switch (part.kind) {
    case 'transferFunction':
      return wrongTransfers(part, model);
    case 'number':
      return wrongNumbers(part, model);
    case 'gains':
      return right ? wrongGains(part, model, right) : [];
    case 'choice':
      return wrongChoices(part, model);
    case 'trend':
      return wrongTrends(part, model);
    case 'diagram':
      return wrongDiagrams(part, model);
    case 'paths':
      return wrongPaths(part, model);
    case 'points':
      return wrongPoints(part, model);
    case 'range':
      return wrongRanges(part, model);
    case 'bode': {
      const terms = right ?? suggestedTerms(part, model);
      return terms ? wrongTerms(terms) : [];
    }
    case 'states':
      return wrongStates(part, model);
    case 'curve':
    case 'reduction':
      return [];
  }
}

function wrongChoices(part: ChoicePart, model: Model): WrongAnswer[] {
  const right = rightOptions(part, model);
  return part.options
    .filter(({ id }) => !right.has(id))
    .map(({ id, text }) => ({ id, words: text, answer: { kind: 'choice', chosen: [id] } }));
}

function wrongTrends(part: TrendPart, model: Model): WrongAnswer[] {
  const expected = expectedTrends(part, model);
  const opposite: Record<Trend, Trend> = { up: 'down', down: 'up', same: 'up' };
  const all = (of: (way: Trend) => Trend): Answer => ({
    kind: 'trend',
    cells: Object.fromEntries([...expected].map(([cell, way]) => [cell, of(way)])),
  });
  return [
    { id: 'reversed', words: 'Every direction turned round.', answer: all((way) => opposite[way]) },
    ...trends.map((way) => ({ id: `all-${way}`, words: `Everything “${way}”.`, answer: all(() => way) })),
  ];
}

/** An answer that is right, as it could be typed; null where many are right. @throws Problem when there is none. */
export function rightAnswerOf(part: Part, model: Model): Answer | null {
  const { scope } = model;
  switch (part.kind) {
    case 'transferFunction':
      return { kind: 'transferFunction', text: textOf(systemFrom(part.expected, scope)) };
    case 'number':
      return { kind: 'number', text: String(Number(expectedNumber(part, scope).toPrecision(8))) };
    case 'choice':
      return { kind: 'choice', chosen: [...rightOptions(part, model)] };
    case 'trend':
      return { kind: 'trend', cells: Object.fromEntries(expectedTrends(part, model)) };
    case 'diagram':
      return { kind: 'diagram', texts: rightTexts(part, model) };
    case 'reduction': {
      const steps = reduction(startOfReduction(part, model), part);
      const typed = part.typed !== 'no';
      return {
        kind: 'reduction',
        steps: steps.map(({ kind, of, gain }) => ({
          ...{ kind, of: [...of] },
          ...(typed && gain !== undefined ? { gain } : {}),
        })),
      };
    }
    case 'paths':
      return { kind: 'paths', text: expectedPaths(part, model).join(', ') || 'none' };
    case 'states':
      return rightStates(part, model);
    case 'points':
      return { kind: 'points', text: rightPoints(part, model) };
    case 'range':
      return { kind: 'range', text: textOfRanges(expectedRanges(part, model)) };
    case 'bode': {
      const terms = suggestedTerms(part, model);
      return terms && { kind: 'bode', terms };
    }
    case 'gains':
    case 'curve':
      return null;
  }
}
