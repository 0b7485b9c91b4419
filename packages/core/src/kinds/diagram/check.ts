import { compareTransfers } from '../../checking/compare.js';
import { diagramOf } from '../../checking/diagrams.js';
import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { symbolsOf } from '../../diagram/blocks.js';
import type { Diagram } from '../../diagram/equations.js';
import { checkLetters, type ExactQuestion, exactQuestion, exactTransfer, withBindings } from '../../diagram/exact.js';
import { signalFlow, transferBetween } from '../../diagram/reduce.js';
import type { SignalPair } from '../../diagram/reduction.js';
import { knownLetters } from '../../exercise/systems.js';
import { withKnownLetters } from '../../expression/letters.js';
import { must } from '../../expression/must.js';
import { parse } from '../../expression/parse.js';
import { orElse, Problem } from '../../expression/problem.js';
import type { Tree } from '../../expression/tree.js';
import { evaluate } from '../../rational/evaluate.js';
import { inLowestTerms, isSameSymbolic, type SymbolicFraction } from '../../symbolic/fraction.js';
import { symbolicToLatex } from '../../symbolic/text.js';
import { transferFromSymbolic } from '../../system/transfer.js';
import type { Checking } from '../kind.js';
import type { DiagramPart } from './part.js';

type Asked = DiagramPart['asked'][number];

/** What is compared: the diagram's transfer function and a typed one, in one ring. */
export interface DiagramComparison {
  readonly question: ExactQuestion;
  /** Both in lowest terms. */
  readonly expected: SymbolicFraction;
  readonly got: SymbolicFraction;
  /** Both as they were written or worked out, common factors kept. */
  readonly kept: readonly [expected: SymbolicFraction, got: SymbolicFraction];
}

/**
 * A typed fraction whose letters are those of a diagram, of the exercise, or bound in the diagram.
 * @throws Problem `unknownName` for other letters and for signals.
 */
export function typedFor(diagram: Diagram, model: Model, text: string): { tree: Tree; diagram: Diagram } {
  const definitions = new Map(diagram.definitions);
  for (const [name, meaning] of Object.entries(knownLetters(model.scope))) {
    if (!definitions.has(name)) definitions.set(name, parse(meaning));
  }
  const letters = [...symbolsOf(diagram), ...definitions.keys(), ...diagram.signals, ...diagram.inputs];
  const tree = withKnownLetters(parse(text), letters);
  checkLetters(tree, diagram, definitions);
  return { tree, diagram: { ...diagram, definitions } };
}

/** The exact fractions of a diagram and of a typed answer. @throws Problem as `typedFor` and `exactTransfer`. */
export function compared(part: DiagramPart, model: Model, pair: SignalPair, text: string): DiagramComparison {
  const { tree, diagram } = typedFor(diagramOf(part, model, pair), model, text);
  const question = exactQuestion(diagram, [withBindings(tree, diagram)]);
  const got = evaluate(tree, must(question.others[0]).algebra);
  const expected = transferBetween(signalFlow(question.diagram, question.field), pair.from, pair.to);
  return { question, expected: inLowestTerms(expected), got: inLowestTerms(got), kept: [expected, got] };
}

/** Whether an answer counts as the expected fraction: the same function, or, without letters, within the tolerance. */
export function isAccepted({ question, expected, got, kept }: DiagramComparison, tolerancePercent: number): boolean {
  if (isSameSymbolic(expected, got)) return true;
  if (tolerancePercent === 0 || symbolsOf(question.diagram).length > 0) return false;
  const { deadTimes } = question.field;
  return orElse(false, () => {
    const [want, have] = kept.map((fraction) => transferFromSymbolic(fraction, deadTimes));
    return compareTransfers(must(have), must(want), tolerancePercent / 100).differences.length === 0;
  });
}

const labelOf = ({ from, to }: SignalPair): string => `${to}/${from}`;

export const checking: Checking<'diagram'> = {
  fromText({ asked }, text) {
    const pieces = text.split(';').map((piece) => piece.trim());
    if (pieces.length !== asked.length) {
      throw new Problem('exercise', `${asked.length} fractions are asked for, separated by semicolons.`);
    }
    return { kind: 'diagram', texts: Object.fromEntries(asked.map(({ id }, k) => [id, must(pieces[k])])) };
  },
  read(part, model, { texts }) {
    if (part.asked.every(({ id }) => !texts[id]?.trim())) throw new Problem('empty', 'Type your answer first.');
    for (const pair of part.asked) {
      const text = texts[pair.id]?.trim();
      if (text) compared(part, model, pair, text);
    }
  },
  check(part, model, { texts }) {
    const items = part.asked.map((pair) => {
      const text = texts[pair.id]?.trim();
      const met = Boolean(text) && isAccepted(compared(part, model, pair, must(text)), part.tolerancePercent);
      const label = labelOf(pair);
      return {
        ...{ id: pair.id, label, unit: '', measured: null, limit: null, relation: 'equal' as const },
        ...{ met, close: false, points: met ? pair.points : 0, outOf: pair.points },
        words: met ? `${label} is right.` : text ? `${label} is not equal yet.` : `${label} is still open.`,
      };
    });
    const missed = items.filter(({ met }) => !met);
    const words =
      missed.length === 0
        ? items.length === 1
          ? must(items[0]).words
          : 'All are right.'
        : items.length === 1
          ? must(missed[0]).words
          : `${items.length - missed.length} of ${items.length} are right. ${must(missed[0]).words}`;
    return verdictOf(items, words, {}, part.marking === 'allOrNothing');
  },
  solution(part, model) {
    const one = (pair: Asked): string => {
      const transfer = exactTransfer(exactQuestion(diagramOf(part, model, pair)), pair);
      return `\\frac{${pair.to}}{${pair.from}}=${symbolicToLatex(transfer)}`;
    };
    return part.asked.map(one).join(',\\quad ');
  },
};
