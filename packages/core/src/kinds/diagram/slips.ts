import { diagramOf } from '../../checking/diagrams.js';
import type { Model } from '../../checking/model.js';
import { type DiagramSlip, diagramSlips, fractionOf } from '../../checking/slips/diagrams.js';
import { onlyOne, type WrongAnswer } from '../../checking/slips/slip.js';
import type { RecognisedSlip } from '../../checking/verdict.js';
import { blocksOf } from '../../diagram/blocks.js';
import { exactQuestion, exactTransfer, gainIn } from '../../diagram/exact.js';
import type { SignalPair } from '../../diagram/reduction.js';
import { must } from '../../expression/must.js';
import { inverseModulo, prime, solveModulo } from '../../rational/modular.js';
import { type Field, isSameSymbolic, type SymbolicFraction } from '../../symbolic/fraction.js';
import { valueModulo } from '../../symbolic/polynomial.js';
import { symbolicToText } from '../../symbolic/text.js';
import { compared, type DiagramComparison, isAccepted } from './check.js';
import type { DiagramPart } from './part.js';

/** What wrong fractions go wrong by, each to which exactly one slip leads, with the places of all of them. */
export function slipOfDiagram(
  part: DiagramPart,
  model: Model,
  texts: Readonly<Record<string, string>>,
): RecognisedSlip | undefined {
  const wrong = part.asked.flatMap((pair) => {
    const text = texts[pair.id]?.trim();
    if (!text) return [];
    const comparison = compared(part, model, pair, text);
    return isAccepted(comparison, part.tolerancePercent) ? [] : [{ pair, comparison }];
  });
  const slips = wrong.flatMap(({ pair, comparison }) => {
    const slip = onlyOne(fitting(comparison, pair, part.tolerancePercent));
    return slip ? [{ slip, words: wrong.length > 1 ? `${pair.to}/${pair.from}: ${slip.words}` : slip.words }] : [];
  });
  const [first] = slips;
  return (
    first && {
      id: must(first.slip.id.split(' ')[0]),
      words: [...new Set(slips.map(({ words }) => words))].join(' '),
      place: [...new Set(slips.flatMap(({ slip }) => slip.place))],
    }
  );
}

function fitting(
  { question, got, expected, kept }: DiagramComparison,
  pair: SignalPair,
  tolerance: number,
): DiagramSlip[] {
  const blocks = blocksOf(question.diagram);
  const { field } = question;
  // Only numbers can be nearly right; for them every slip is worked out.
  const exact = tolerance === 0 || field.ring.symbols.length > 1;
  const suspects = diagramSlips(blocks, pair).filter((slip) => !exact || agreesModulo(slip, field, got));
  return suspects.filter((slip) => {
    const wrong = fractionOf(slip, field);
    if (!wrong || isSameSymbolic(wrong, expected)) return false;
    return isAccepted({ question, expected: wrong, got, kept: [wrong, kept[1]] }, tolerance);
  });
}

/**
 * Whether a slip gives the same value as the answer at one point modulo a prime: a no is certain, and quick even for
 * large diagrams. Method: elimination over the integers modulo the prime.
 */
function agreesModulo({ changed, pair, then }: DiagramSlip, field: Field, got: SymbolicFraction): boolean {
  const points = field.ring.symbols.map((_, k) => (7_919 * (k + 5) ** 3 + 15_485_863) % prime);
  const value = ({ numerator, denominator }: SymbolicFraction): number =>
    (valueModulo(numerator, points) * inverseModulo(valueModulo(denominator, points))) % prime;
  if (then !== undefined && then !== 'invert' && 'instead' in then)
    return value(gainIn(field, then.instead)) === value(got);
  const order = [pair.to, ...changed.nodes.map(({ id }) => id).filter((id) => id !== pair.to)];
  const at = new Map(order.map((id, k) => [id, k]));
  const rows = changed.nodes.map((node) => {
    const row = new Array<number>(order.length + 1).fill(0);
    const put = (id: string, by: number): void => {
      const k = at.get(id);
      if (k !== undefined) row[k] = (must(row[k]) + prime - by) % prime;
      else if (id === pair.from) row[order.length] = (must(row[order.length]) + by) % prime;
    };
    put(node.id, prime - 1);
    if (node.kind === 'block') put(node.of, value(gainIn(field, node.gain)));
    else node.terms.forEach(({ sign, of }) => put(of, sign > 0 ? 1 : prime - 1));
    return row;
  });
  const solution = solveModulo(rows);
  if (solution === null) return false;
  if (then === 'invert') return (solution * value(got)) % prime === 1;
  const factor = then ? value(gainIn(field, then.times)) : 1;
  return (solution * factor) % prime === value(got);
}

/** Slips as answers that could have been typed, one pair wrong and the others right. */
export function wrongDiagrams(part: DiagramPart, model: Model): WrongAnswer[] {
  const right = rightTexts(part, model);
  return part.asked.flatMap((pair) => {
    const read = diagramOf(part, model, pair);
    const question = exactQuestion(read);
    return diagramSlips(blocksOf(read), pair).flatMap((slip) => {
      const fraction = fractionOf(slip, question.field);
      if (!fraction) return [];
      const texts = { ...right, [pair.id]: symbolicToText(fraction) };
      return [{ id: slip.id, words: slip.words, answer: { kind: 'diagram' as const, texts } }];
    });
  });
}

/** The right fractions as they could be typed. */
export function rightTexts(part: DiagramPart, model: Model): Record<string, string> {
  return Object.fromEntries(
    part.asked.map((pair) => [
      pair.id,
      symbolicToText(exactTransfer(exactQuestion(diagramOf(part, model, pair)), pair)),
    ]),
  );
}
