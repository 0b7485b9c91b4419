import { Problem } from '../../expression/problem.js';
import { parse } from '../../expression/parse.js';
import type { DrawValues, NumberPart } from '../../exercise/document.js';
import { bindingsOf } from '../../exercise/draw.js';
import { fractionOf, lowestTerms } from '../../rational/fraction.js';
import { rationalToNumber } from '../../rational/number.js';
import { coefficient, degree } from '../../rational/polynomial.js';
import { measuresOf } from '../../response/measures.js';
import { systemOf } from '../../system/system.js';
import { quantities } from '../quantities/index.js';
import { verdictOf } from '../verdictOf.js';
import { formatNumber, withUnit } from '../words.js';
import type { AnswerKind } from './kind.js';

/**
 * The number that a student typed, its unit allowed behind it; a constant expression such as 1/8 counts.
 * @throws Problem with the position of the mistake.
 */
export function numberFromText(text: string, unit: string): number {
  const bare = unit && text.trimEnd().endsWith(unit) ? text.trimEnd().slice(0, -unit.length) : text;
  const tree = parse(bare);
  const value = lowestTerms(fractionOf(tree));
  if (degree(value.numerator) > 0 || degree(value.denominator) > 0) {
    throw new Problem('notANumber', 'A number is asked for, without s.', tree.at);
  }
  return rationalToNumber(coefficient(value.numerator, 0));
}

/** The number expected of a part. @throws Problem when the model does not have it. */
export function expectedNumber(part: NumberPart, values: DrawValues): number {
  const system = systemOf(fractionOf(part.system, bindingsOf(values)));
  const expected = quantities[part.quantity].read(measuresOf(system));
  if (expected === null) {
    const why = system.stable ? 'this response has none' : 'the system is unstable';
    throw new Problem('exercise', `${quantities[part.quantity].label}: ${why}.`);
  }
  return expected;
}

export const number: AnswerKind<'number'> = {
  kind: 'number',
  fromText: (_part, text) => ({ kind: 'number', text }),
  read(part, _values, answer) {
    numberFromText(answer.text, quantities[part.quantity].unit);
  },
  check(part, values, answer) {
    const { label, short, unit } = quantities[part.quantity];
    const measured = numberFromText(answer.text, unit);
    const expected = expectedNumber(part, values);
    const allowed = Math.max((part.tolerancePercent / 100) * Math.abs(expected), 1e-9);
    const off = Math.abs(measured - expected);
    const met = off <= allowed * (1 + 1e-9);
    const close = Math.abs(off - allowed) <= 0.01 * Math.abs(expected) && off > 0.5 * allowed;
    const yours = `${short} ${withUnit(measured, unit)}`;
    const words = met
      ? `${yours}: right, within ${formatNumber(part.tolerancePercent)} %.`
      : `${yours}: too ${measured > expected ? 'high' : 'low'}; within ${formatNumber(part.tolerancePercent)} % counts.`;
    const points = met ? part.points : 0;
    const item = { id: part.id, label, unit, measured, limit: null, relation: 'equal' as const };
    return verdictOf([{ ...item, met, close, points, outOf: part.points, words }], words);
  },
  solution(part, values) {
    return withUnit(expectedNumber(part, values), quantities[part.quantity].unit);
  },
};
