import type { Model } from '../../checking/model.js';
import { numberFromText } from '../../checking/numberText.js';
import { locusMisreadings } from '../../checking/slips/locus.js';
import { type NumberSlip, onlyOne, type Slip, type WrongAnswer } from '../../checking/slips/slip.js';
import { distanceIn } from '../../exercise/tolerance.js';
import { must } from '../../expression/must.js';
import { orElse } from '../../expression/problem.js';
import { childrenOf, type Tree, withChildren } from '../../expression/tree.js';
import { numberFrom, parseFormula, type Scope, systemFrom } from '../../formula/evaluate.js';
import { quantities } from '../../quantity/index.js';
import { TransferSubject } from '../../quantity/subject.js';
import { secondOrderRules } from '../../system/secondOrderRules.js';
import { secondOrderOf } from '../../system/standardForms.js';
import type { Transfer } from '../../system/transfer.js';
import { allowedFor, expectedNumber } from './check.js';
import type { NumberPart } from './part.js';

/** What an answer goes wrong by, if exactly one usual slip leads to it. */
export function slipOfNumber(part: NumberPart, model: Model, text: string): Slip | undefined {
  const answer = numberFromText(text, part.unit, model.asSymbols.names);
  return onlyOne(
    numberSlips(part, model).filter(({ value }) => distanceIn(part.unit, answer, value) <= allowedFor(part, value)),
  );
}

/** Every usual slip that leads to a wrong number here. */
export function numberSlips(part: NumberPart, { scope }: Model): NumberSlip[] {
  const expected = expectedNumber(part, scope);
  const allowed = allowedFor(part, expected);
  const candidates = [...misread(parseFormula(part.formula), scope), ...inOtherUnits(part.unit, expected)];
  return candidates.filter(({ value }) => Number.isFinite(value) && distanceIn(part.unit, value, expected) > allowed);
}

/** Slips as answers that could have been typed. */
export function wrongNumbers(part: NumberPart, model: Model): WrongAnswer[] {
  return numberSlips(part, model).map(({ value, id, words }) => {
    return { id, words, answer: { kind: 'number', text: String(Number(value.toPrecision(5))) } };
  });
}

function inOtherUnits(unit: string, value: number): NumberSlip[] {
  const slip = (id: string, words: string, wrong: number): NumberSlip => ({ id, words, value: wrong });
  const sign = slip('sign', 'The sign is turned round.', -value);
  switch (unit) {
    case '%':
      return [slip('fraction', 'This is a fraction; per cent are asked for.', value / 100), sign];
    case 'rad/s':
      return [slip('hertz', 'This is in Hz; rad/s are asked for.', value / (2 * Math.PI)), sign];
    case 'Hz':
      return [slip('radians', 'This is in rad/s; Hz are asked for.', value * 2 * Math.PI), sign];
    case '°':
      return [slip('angleRadians', 'This is in radians; degrees are asked for.', (value * Math.PI) / 180), sign];
    case 'dB':
      return [slip('ratio', 'This is a ratio; decibels are asked for.', 10 ** (value / 20)), sign];
    case '':
      return [slip('percent', 'This is in per cent; a fraction is asked for.', value * 100), sign];
    default:
      return [sign];
  }
}

type Call = Extract<Tree, { kind: 'call' }>;

/** The formula with each of its quantities, one at a time, misread as people do. */
function misread(tree: Tree, scope: Scope): NumberSlip[] {
  return mutations(tree, scope).flatMap(({ tree: wrong, id, words }) => {
    return orElse([], () => [{ id, words, value: numberFrom(wrong, scope) }]);
  });
}

function mutations(tree: Tree, scope: Scope): (Slip & { tree: Tree })[] {
  const here = tree.kind === 'call' ? misreadings(tree, scope) : [];
  const children = childrenOf(tree);
  return [
    ...here,
    ...children.flatMap((child, k) =>
      mutations(child, scope).map((slip) => ({
        ...slip,
        tree: withChildren(
          tree,
          children.map((other, i) => (i === k ? slip.tree : other)),
        ),
      })),
    ),
  ];
}

function misreadings(call: Call, scope: Scope): (Slip & { tree: Tree })[] {
  const other = (id: string, words: string, name: string) => ({ id, words, tree: { ...call, name } });
  const number = (id: string, words: string, value: number | null | undefined) =>
    typeof value === 'number' && Number.isFinite(value)
      ? [{ id, words, tree: value < 0 ? negative(-value) : literal(value) }]
      : [];
  const system = (): Transfer => systemFrom(must(call.of[0]), scope);
  const rule = (value: (w: number, zeta: number) => number | null) => {
    const slowest = slowestPole(system());
    if (slowest?.dampingRatio == null) return [];
    const words = 'It looks as if the second-order rule was used; it does not hold for this system.';
    return number('rule', words, value(slowest.naturalFrequency, slowest.dampingRatio));
  };
  /** ζωn of two real poles, which is their mean, is not the decay of the slower one. */
  const onRealPoles = (value: (decay: number) => number) => {
    const standard = orElse(null, () => secondOrderOf(system()));
    if (!standard || standard.dampingRatio <= 1) return [];
    const words = 'It looks as if the rule 4/(ζωn) was used; with two real poles the slower one decides.';
    return number('ruleOnRealPoles', words, value(standard.dampingRatio * standard.naturalFrequency));
  };
  switch (call.name) {
    case 'riseTime':
      return [
        other('riseFull', 'This is the rise from 0 to 100 %; 10 to 90 % is asked for.', 'riseTimeFull'),
        ...rule(secondOrderRules.riseTime),
      ];
    case 'riseTimeFull':
      return [other('riseTenNinety', 'This is the rise from 10 to 90 %; 0 to 100 % is asked for.', 'riseTime')];
    case 'settlingTime':
      return [
        other('bandFive', 'This is the settling time to 5 %; 2 % is asked for.', 'settlingTime5'),
        ...rule((w, zeta) => secondOrderRules.settlingTime(zeta * w)),
        ...onRealPoles((decay) => secondOrderRules.settlingTime(decay)),
      ];
    case 'settlingTime5':
      return [
        other('bandTwo', 'This is the settling time to 2 %; 5 % is asked for.', 'settlingTime'),
        ...rule((w, zeta) => secondOrderRules.settlingTime5(zeta * w)),
        ...onRealPoles((decay) => secondOrderRules.settlingTime5(decay)),
      ];
    case 'peakTime':
      return [
        ...number(
          'naturalForDamped',
          'It looks as if ωn was taken for the damped frequency.',
          Math.PI / (slowestPole(system())?.naturalFrequency ?? NaN),
        ),
        ...rule((w, zeta) => secondOrderRules.peakTime(zeta, w)),
        ...number(
          'fullPeriod',
          'This is a full period; the peak comes after half of one.',
          (2 * Math.PI) / (slowestPole(system())?.im || NaN),
        ),
      ];
    case 'overshootPercent': {
      const { peakValue } = new TransferSubject(system()).measures;
      return [
        ...rule((_w, zeta) => (zeta < 1 ? secondOrderRules.overshootPercent(zeta) : null)),
        ...number(
          'relativeToOne',
          'This is relative to 1; the overshoot is relative to the final value.',
          peakValue === null ? null : 100 * (peakValue - 1),
        ),
      ];
    }
    case 'dampedFrequency':
      return [
        other('naturalForDamped', 'This is the natural frequency; the damped one is asked for.', 'naturalFrequency'),
      ];
    case 'naturalFrequency':
      return [
        other('dampedForNatural', 'This is the damped frequency; the natural one is asked for.', 'dampedFrequency'),
      ];
    case 'timeConstant':
      return number(
        'inverseFrequency',
        'This is 1/ωn; the time constant of the decay is 1/(ζωn).',
        1 / (slowestPole(system())?.naturalFrequency ?? NaN),
      ).concat(
        number('inverse', 'This is 1/τ, not τ.', 1 / (new TransferSubject(system()).slowest?.timeConstant ?? NaN)),
      );
    case 'gainMargin':
      return [
        other('decibels', 'This is in decibels; a ratio is asked for.', 'gainMarginDb'),
        ...otherCrossings(system(), 'gain').flatMap((value) => number('crossing', wrongCrossing, value)),
      ];
    case 'gainMarginDb':
      return [other('ratio', 'This is a ratio; decibels are asked for.', 'gainMargin')];
    case 'phaseMargin':
      return otherCrossings(system(), 'phase').flatMap((value) => number('crossing', wrongCrossing, value));
    case 'stepError':
      return number(
        'errorConstant',
        'It looks as if the offset was taken for 1/Kp; it is 1/(1 + Kp).',
        1 / new TransferSubject(system()).steadyState.positionConstant,
      );
    default:
      return locusMisreadings(call.name, system).flatMap(({ id, words, value }) => number(id, words, value));
  }
}

const wrongCrossing = 'This margin is read at the wrong crossing.';

const literal = (value: number): Tree => ({ kind: 'number', text: decimal(value), at: 0 });
const negative = (value: number): Tree => ({ kind: 'negative', of: literal(value), at: 0 });
const decimal = (value: number): string => String(Number(value.toPrecision(15)));

function slowestPole(system: Transfer) {
  return orElse(undefined, () => new TransferSubject(system).slowest);
}

function otherCrossings(system: Transfer, kind: 'gain' | 'phase'): number[] {
  const subject = new TransferSubject(system);
  const right = quantities[kind === 'gain' ? 'gainMargin' : 'phaseMargin'].read(subject);
  const all =
    kind === 'gain'
      ? subject.margins.gainMargins.map(({ gain }) => gain)
      : subject.margins.phaseMargins.map(({ degrees }) => degrees);
  return all.filter((value) => value !== right);
}
