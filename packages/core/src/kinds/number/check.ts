import { closeShare } from '../../checking/close.js';
import { type Model, modelOf } from '../../checking/model.js';
import { numberFromText } from '../../checking/numberText.js';
import type { Verdict } from '../../checking/verdict.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { formatNumber, withUnit } from '../../checking/words.js';
import { decimalText } from '../../exercise/draw.js';
import { absoluteTolerance, distanceIn } from '../../exercise/tolerance.js';
import { orElse, Problem } from '../../expression/problem.js';
import { holds, readCondition } from '../../formula/condition.js';
import { numberFrom, parseFormula, type Scope, systemFrom } from '../../formula/evaluate.js';
import { rationalFromNumber } from '../../rational/number.js';
import { secondOrderRules } from '../../system/secondOrderRules.js';
import { secondOrderOf } from '../../system/standardForms.js';
import type { Checking } from '../kind.js';
import type { NumberPart } from './part.js';

/** The number expected of a part. @throws Problem when the model does not have it. */
export function expectedNumber(part: Pick<NumberPart, 'formula'>, scope: Scope): number {
  const expected = numberFrom(part.formula, scope);
  if (!Number.isFinite(expected)) throw new Problem('exercise', 'The expected number is infinite.');
  return expected;
}

/**
 * Where an expected value with a relative tolerance is as small as rounding leaves of a zero. Per cent of it say nothing,
 * so such an exercise is no longer published; in those that were it counts as zero.
 */
const nought = 1e-13;

/** How far an answer may be off: per cent of zero are zero. */
export function allowedFor(part: NumberPart, expected: number): number {
  const isNoise = expected !== 0 && Math.abs(expected) < nought;
  return absoluteTolerance(part) ?? (isNoise ? 1e-9 : (part.tolerancePercent / 100) * Math.abs(expected));
}

/**
 * Refuses a relative tolerance on what may be zero but for its rounding.
 * @throws Problem `exercise` with what to say instead.
 */
export function refuseNoise(part: NumberPart, expected: number): void {
  if (part.condition || absoluteTolerance(part) !== undefined) return;
  if (expected === 0 || Math.abs(expected) >= nought) return;
  throw new Problem(
    'exercise',
    `The expected number is ${expected.toPrecision(2)}, so small that per cent of it mean nothing: give the tolerance in its unit.`,
  );
}

/** Whether the condition of a part holds with a value for its letter. @throws Problem when it cannot be worked out. */
export function holdsWith({ symbol, holds: condition }: Condition, model: Model, value: number): boolean {
  const { scope } = modelOf(model, { ...model.values, [symbol]: rationalToDecimal(value) });
  return holds(readCondition(condition), scope);
}

type Condition = NonNullable<NumberPart['condition']>;

/** A value as a decimal that reads back as it. */
const rationalToDecimal = (value: number): string => decimalText(rationalFromNumber(value));

function verdictByCondition(part: NumberPart, condition: Condition, model: Model, measured: number): Verdict {
  const met = orElse(false, () => holdsWith(condition, model, measured));
  const yours = withUnit(measured, part.unit);
  const words = met ? `${yours}: right.` : `${yours}: with this value it does not hold.`;
  const item = { id: part.id, label: part.title, unit: part.unit, measured, limit: null, relation: 'equal' as const };
  const points = met ? part.points : 0;
  return verdictOf([{ ...item, met, close: false, points, outOf: part.points, words }], words);
}

/** What a wrong number would belong to, where it is read off a pair of poles without zeros or off an open loop. */
function belongsTo({ formula }: NumberPart, scope: Scope, value: number): string {
  return orElse('', () => {
    const tree = parseFormula(formula);
    if (tree.kind !== 'call' || tree.of[0] === undefined || !(value > 0)) return '';
    if (tree.name === 'stepError' && value < 1) {
      return ` That offset belongs to a position constant of ${formatNumber(1 / value - 1)}.`;
    }
    const pair = secondOrderOf(systemFrom(tree.of[0], scope));
    if (!pair || pair.dampingRatio <= 0 || pair.dampingRatio >= 1) return '';
    if (tree.name === 'overshootPercent' && value < 100) {
      return ` That overshoot belongs to ζ = ${formatNumber(secondOrderRules.dampingFor(value))}.`;
    }
    if (tree.name === 'peakTime') {
      return ` That peak time belongs to a damped frequency of ${formatNumber(Math.PI / value)} rad/s.`;
    }
    return '';
  });
}

export const checking: Checking<'number'> = {
  fromText: (_part, text) => ({ kind: 'number', text }),
  read(part, model, answer) {
    numberFromText(answer.text, part.unit, model.asSymbols.names);
  },
  check(part, model, answer) {
    const { scope } = model;
    const { title: label, unit } = part;
    const measured = numberFromText(answer.text, unit, model.asSymbols.names);
    if (part.condition) return verdictByCondition(part, part.condition, model, measured);
    const expected = expectedNumber(part, scope);
    const allowed = allowedFor(part, expected);
    const off = distanceIn(unit, measured, expected);
    // What is exact may be rounded in its last bits.
    const met = off <= allowed * (1 + 1e-9) + 1e-12 * Math.abs(expected);
    const close = Math.abs(off - allowed) <= closeShare * Math.abs(expected) && off > 0.5 * allowed;
    const within =
      absoluteTolerance(part) === undefined
        ? `within ${formatNumber(part.tolerancePercent)} %`
        : `within ${withUnit(allowed, unit)}`;
    const yours = withUnit(measured, unit);
    const words = met
      ? `${yours}: right, ${within}.`
      : `${yours}: too ${measured > expected ? 'high' : 'low'}; ${within} counts.${belongsTo(part, scope, measured)}`;
    const points = met ? part.points : 0;
    const item = { id: part.id, label, unit, measured, limit: null, relation: 'equal' as const };
    return verdictOf([{ ...item, met, close, points, outOf: part.points, words }], words);
  },
  solution: (part, { scope }) => withUnit(expectedNumber(part, scope), part.unit),
};
