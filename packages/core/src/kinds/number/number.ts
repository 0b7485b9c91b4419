import type { Model } from '../../checking/model.js';
import { withUnit } from '../../checking/words.js';
import type { Parameter } from '../../exercise/given.js';
import { absoluteTolerance } from '../../exercise/tolerance.js';
import { must } from '../../expression/must.js';
import { orElse, Problem } from '../../expression/problem.js';
import { parseFormula, systemFrom } from '../../formula/evaluate.js';
import { quantities } from '../../quantity/index.js';
import { quantityNames } from '../../quantity/names.js';
import { unityFeedback } from '../../system/transfer.js';
import { type AnswerKind, defaults } from '../kind.js';
import { responseShown } from '../shown.js';
import { checking, expectedNumber, holdsWith, refuseNoise } from './check.js';
import type { NumberPart } from './part.js';
import { numberSlips, slipOfNumber, wrongNumbers } from './slips.js';

export const number: AnswerKind<'number'> = {
  ...defaults,
  ...checking,
  toText: ({ text }) => text,
  seen(part) {
    const { kind, unit, tolerancePercent } = part;
    const toleranceAbsolute = absoluteTolerance(part);
    // The quantity that the formula as a whole is, for its definition.
    const tree = orElse(undefined, () => parseFormula(part.formula));
    const quantity = tree?.kind === 'call' ? quantityNames.find((name) => name === tree.name) : undefined;
    return {
      ...{ kind, unit, tolerancePercent },
      ...(toleranceAbsolute === undefined ? {} : { toleranceAbsolute }),
      ...(quantity ? { quantity } : {}),
    };
  },
  right: (part, { scope }) => ({
    kind: part.kind,
    text: String(Number(expectedNumber(part, scope).toPrecision(8))),
  }),
  wrong: wrongNumbers,
  slip: (part, model, { text }) => (part.condition ? undefined : slipOfNumber(part, model, text)),
  trials: (part, model) => [
    { field: 'formula', run: () => void expectedNumber(part, model.scope) },
    { field: 'tolerancePercent', run: () => refuseNoise(part, expectedNumber(part, model.scope)) },
    {
      field: 'condition',
      run: () => {
        if (!part.condition || holdsWith(part.condition, model, expectedNumber(part, model.scope))) return;
        throw new Problem('exercise', 'The condition does not hold with the value that the formula gives.');
      },
    },
  ],
  warnings: (part, models, parameters) => [
    ...(part.condition ? [] : askedAndShown(part, models, parameters)),
    ...ruleWarnings(part, must(models[0])),
  ],
  /** The step response of the system that the formula reads something off; with the loop closed, where it is a loop’s. */
  curve({ formula }, { scope }) {
    const tree = parseFormula(formula);
    const of = tree.kind === 'call' ? tree.of[0] : undefined;
    const system = of && orElse(undefined, () => systemFrom(of, scope));
    if (!system || tree.kind !== 'call') return undefined;
    const quantity = quantityNames.find((name) => name === tree.name);
    const isLoop = quantity !== undefined && quantities[quantity].source === 'loop';
    return orElse(undefined, () => responseShown(isLoop ? unityFeedback(system) : system));
  },
};

/** A parameter that is asked for while it stands among the student's numbers. */
function askedAndShown(part: NumberPart, models: readonly Model[], parameters: readonly Parameter[]): string[] {
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
function ruleWarnings(part: NumberPart, model: Model): string[] {
  return orElse([], () => {
    const rule = numberSlips(part, model).find(({ id }) => id === 'rule');
    if (!rule) return [];
    const expected = withUnit(expectedNumber(part, model.scope), part.unit);
    return [`The second-order rule gives ${withUnit(rule.value, part.unit)}, the response itself ${expected}.`];
  });
}
