import { compareTransfers } from '../../checking/compare.js';
import type { Model } from '../../checking/model.js';
import { diagramSlips, fractionOf } from '../../checking/slips/diagrams.js';
import { loopSlips } from '../../checking/slips/loops.js';
import { nearbyTest } from '../../checking/slips/nearby.js';
import { firstOrderSlips, secondOrderSlips } from '../../checking/slips/secondOrder.js';
import { onlyOne, type Slip, type TransferSlip, type WrongAnswer } from '../../checking/slips/slip.js';
import { blocksOf } from '../../diagram/blocks.js';
import { exactQuestion, readWith } from '../../diagram/exact.js';
import { flowOf, knownLetters, textOf } from '../../exercise/systems.js';
import { orElse } from '../../expression/problem.js';
import { namesIn, type Tree } from '../../expression/tree.js';
import { parseFormula, type Scope, systemFrom } from '../../formula/evaluate.js';
import { typedTree, withRootsRounded } from '../../formula/roots.js';
import { type Fraction, lowestTerms } from '../../rational/fraction.js';
import { degree, isEqual, isZero, one, type Polynomial, polynomial } from '../../rational/polynomial.js';
import { secondOrderOf } from '../../system/standardForms.js';
import { delayed, type Transfer, transferFromSymbolic, withDeadTime } from '../../system/transfer.js';
import { typedTransfer } from './check.js';
import { isMistyped } from './mistyped.js';
import type { TransferFunctionPart } from './part.js';

const least = 1e-6;

/** What an answer goes wrong by, if exactly one usual slip leads to it. */
export function slipOfTransfer(part: TransferFunctionPart, model: Model, text: string): Slip | undefined {
  const expected = systemFrom(part.expected, model.scope);
  const answer = typedTransfer(text, model.asSymbols, expected);
  const tolerance = Math.max(part.tolerancePercent / 100, least);
  const fitting = transferSlips(part, model).filter(
    ({ transfer }) => differences(answer, transfer, tolerance).length === 0,
  );
  // Without a picture it does not matter at which sum: the sign of the feedback goes first, then the missing loop.
  const said = [/^feedbackSign/, /^(loop |open)/].map((ids) => fitting.find(({ id }) => ids.test(id)));
  if (said[0]) return feedbackSign;
  if (fitting.length > 0) return onlyOne(fitting) ?? said[1];
  if (hasUnitNumerator(answer, expected, tolerance)) return unitNumerator;
  // Nobody types a system of such an order by hand.
  if (orderOf(answer) > mostOrder) return undefined;
  const isRight = (other: string): boolean =>
    orElse(false, () => differences(typedTransfer(other, model.asSymbols, expected), expected, tolerance).length === 0);
  return isMistyped(text, isRight, quickLook(text, model, expected, tolerance)) ? mistyped : undefined;
}

/** With dead time everything is looked at exactly. */
function quickLook(text: string, { asSymbols }: Model, expected: Transfer, tolerance: number) {
  const plain = withDeadTime(expected);
  if (plain?.deadTime.numerator !== 0n) return () => true;
  const tree = withRootsRounded(typedTree(text, asSymbols.names.keys()), asSymbols.names);
  return nearbyTest(tree, asSymbols.names, plain.fraction, tolerance);
}

const mostOrder = 12;

/** The higher degree of the two, as typed; 0 for what dead time keeps from being one fraction. */
function orderOf(answer: Transfer): number {
  const fraction = withDeadTime(answer)?.fraction;
  return fraction ? Math.max(degree(fraction.numerator), degree(fraction.denominator)) : 0;
}

const feedbackSign = {
  id: 'feedbackSign',
  words: 'It looks as if the feedback were added instead of subtracted.',
};
const mistyped = { id: 'oneCoefficient', words: 'Only one coefficient is off; look for a typing mistake.' };
const unitNumerator = {
  id: 'unitNumerator',
  words: 'The numerator is 1, so the gain at rest is not that of the system.',
};

/** A numerator of exactly 1 over the right denominator, whatever its leading coefficient. */
function hasUnitNumerator(answer: Transfer, expected: Transfer, tolerance: number): boolean {
  const [got, want] = [withDeadTime(answer), withDeadTime(expected)];
  if (!got || !want || degree(got.fraction.numerator) !== 0 || !isEqual(got.fraction.numerator, one)) return false;
  const below = (fraction: Fraction): Transfer =>
    delayed({ numerator: one, denominator: lowestTerms(fraction).denominator });
  return differences(below(got.fraction), below(want.fraction), tolerance).length === 0;
}

/** Every usual slip that leads to a wrong transfer function here. */
export function transferSlips(part: TransferFunctionPart, model: Model): TransferSlip[] {
  const { scope } = model;
  const expected = systemFrom(part.expected, scope);
  const tree = parseFormula(part.expected);
  const tolerance = Math.max(part.tolerancePercent / 100, least);
  const candidates = [
    ...loopSlips(tree).flatMap(({ tree: wrong, ...slip }) => evaluated(slip, wrong, scope)),
    ...systemSlips(tree, model),
    ...wholeSlips(expected),
    ...firstOrderSlips(expected),
    ...signalSlips(tree, model),
    ...equationSlips(tree, model),
  ];
  return candidates.filter(({ transfer }) => differences(transfer, expected, tolerance).length > 0);
}

/** Slips as answers that could have been typed. */
export function wrongTransfers(part: TransferFunctionPart, model: Model): WrongAnswer[] {
  return transferSlips(part, model).flatMap(({ transfer, id, words }) => {
    const typed = typedText(transfer);
    return typed === undefined ? [] : [{ id, words, answer: { kind: 'transferFunction', text: typed } as const }];
  });
}

function typedText(transfer: Transfer): string | undefined {
  const plain = withDeadTime(transfer);
  if (!plain || degree(plain.fraction.numerator) > degree(plain.fraction.denominator)) return undefined;
  return textOf(transfer);
}

function differences(answer: Transfer, expected: Transfer, tolerance: number): readonly string[] {
  return orElse(['not comparable'], () => compareTransfers(answer, expected, tolerance).differences);
}

function evaluated(slip: Slip, tree: Tree, scope: Scope): TransferSlip[] {
  return orElse([], () => [{ ...slip, transfer: systemFrom(tree, scope) }]);
}

/** Second-order slips in one of the systems that the formula uses, or in the whole. */
function systemSlips(tree: Tree, { scope, systems }: Model): TransferSlip[] {
  const used = new Set(namesIn(tree));
  const inSystems = systems.flatMap(({ name }) => {
    const known = used.has(name) ? scope.names.get(name) : undefined;
    const standard = known && secondOrderOf(known);
    if (!standard) return [];
    return secondOrderSlips(standard).flatMap(({ transfer, ...slip }) =>
      evaluated(slip, tree, { ...scope, names: new Map(scope.names).set(name, transfer) }),
    );
  });
  const whole = secondOrderOf(systemFrom(tree, scope));
  return whole && tree.kind !== 'name' ? [...inSystems, ...secondOrderSlips(whole)] : inSystems;
}

function wholeSlips(expected: Transfer): TransferSlip[] {
  const plain = withDeadTime(expected);
  if (!plain) return [];
  const { numerator, denominator } = lowestTerms(plain.fraction);
  if (isZero(numerator)) return [];
  const of = (above: Polynomial, below: Polynomial): Transfer =>
    delayed({ numerator: above, denominator: below }, plain.deadTime);
  const standard = secondOrderOf(expected) !== null;
  return [
    {
      id: 'swapped',
      words: 'It looks as if numerator and denominator were swapped.',
      transfer: of(denominator, numerator),
    },
    ...(standard || degree(denominator) < 2
      ? []
      : [
          {
            id: 'reversed',
            words: 'It looks as if the coefficients stand in reversed order.',
            transfer: of(reversed(numerator), reversed(denominator)),
          },
        ]),
    ...(standard || degree(denominator) === 0 ? [] : [{ ...unitNumerator, transfer: of(one, denominator) }]),
    ...(plain.deadTime.numerator === 0n
      ? []
      : [
          {
            id: 'deadTimeMissing',
            words: 'It looks as if the dead time was forgotten.',
            transfer: delayed(plain.fraction),
          },
        ]),
  ];
}

const reversed = (p: Polynomial): Polynomial => polynomial([...p.integers].reverse(), p.denominator);

/** Another signal or another input of a model in equations than the one asked for. */
function signalSlips(tree: Tree, { scope, systems }: Model): TransferSlip[] {
  if (tree.kind !== 'quotient' || tree.left.kind !== 'name' || tree.right.kind !== 'name') return [];
  const [to, from] = [tree.left.name, tree.right.name];
  const form = systems.map((system) => system.form).find((entry) => entry.kind === 'equations');
  if (!form || !scope.between || scope.names.has(to)) return [];
  const flow = flowOf(form, scope);
  if (!flow) return [];
  const names = new Set(form.text.match(/\p{L}[\p{L}\p{Nd}_]*/gu) ?? []);
  return [...names].flatMap((name): TransferSlip[] => {
    const slips: TransferSlip[] = [];
    const output = name === to || name === from ? undefined : unlessZero(() => flow(from, name));
    if (output) slips.push({ id: `output-${name}`, words: `This leads to ${name}, not to ${to}.`, transfer: output });
    const input = name === from || name === to ? undefined : unlessZero(() => flow(name, to));
    if (input)
      slips.push({ id: `input-${name}`, words: `This starts from ${name}, not from ${from}.`, transfer: input });
    return slips;
  });
}

/** A part of a model in equations read wrongly: each sign, each line, each block, as in parts about diagrams. */
function equationSlips(tree: Tree, { scope, systems }: Model): TransferSlip[] {
  if (tree.kind !== 'quotient' || tree.left.kind !== 'name' || tree.right.kind !== 'name') return [];
  const pair = { from: tree.right.name, to: tree.left.name };
  const form = systems.map((system) => system.form).find((entry) => entry.kind === 'equations');
  if (!form || scope.names.has(pair.to)) return [];
  return orElse([], () => {
    const question = exactQuestion(readWith(form.text, knownLetters(scope), [pair.from]));
    return diagramSlips(blocksOf(question.diagram), pair).flatMap((slip) => {
      // Other ends are named by their signals already.
      const fraction = /^(to|from) /.test(slip.id) ? null : fractionOf(slip, question.field);
      if (!fraction) return [];
      const { id, words } = slip;
      return orElse([], () => [{ id, words, transfer: transferFromSymbolic(fraction, question.field.deadTimes) }]);
    });
  });
}

function unlessZero(work: () => Transfer | undefined): Transfer | undefined {
  return orElse(undefined, () => {
    const transfer = work();
    return transfer && !isZero(withDeadTime(transfer)?.fraction.numerator ?? one) ? transfer : undefined;
  });
}
