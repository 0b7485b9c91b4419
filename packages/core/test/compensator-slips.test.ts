import { checkAnswer, usualWrongAnswers } from '../src/checks';
import { type Answer, type GainsPart, modelOf } from '../src/index';
import { tune } from './documents';

const nothing = modelOf({ systems: [], series: [] }, {});
const rung = { start: 1, fine: 0.1, coarse: 1 };
const compensator: GainsPart['controller'] = {
  terms: 'compensator',
  form: 'factors',
  gains: (['K', 'z1', 'p1', 'zr', 'zi', 'pr', 'pi'] as const).map((name) =>
    name === 'K' ? { name, ...rung } : { name, ...rung, optional: true },
  ),
};
const part: GainsPart = {
  ...tune,
  plant: '5/(s*(s + 2))',
  controller: compensator,
  views: ['locus'],
  nails: [
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 1 },
    { id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 1.2, points: 1 },
  ],
};
const right = { K: '24', z1: '-2', p1: '-14' };
const answer = (gains: Record<string, string>): Answer => ({ kind: 'gains', gains });
const slipOf = (gains: Record<string, string>, of = part) => checkAnswer(of, nothing, answer(gains)).slip?.id;

describe('a compensator that misses its nails', () => {
  test.each<[string, Record<string, string>, string | undefined]>([
    ['a gain read without the constant of the plant', { ...right, K: '120' }, 'plantConstant'],
    ['places typed as they stand in the factors', { K: '24', z1: '2', p1: '14' }, 'placesTurned'],
    ['zero and pole exchanged', { K: '24', z1: '-14', p1: '-2' }, 'placesExchanged'],
    ['a level at low frequency for a factor', { ...right, K: '3.43' }, 'otherForm'],
    ['a typographic minus', { K: '24', z1: '−14', p1: '−2' }, 'placesExchanged'],
    ['nothing that is known', { K: '2' }, undefined],
    ['a right answer', right, undefined],
  ])('by %s', (_, gains, slip) => {
    expect(slipOf(gains)).toBe(slip);
  });

  const corners: GainsPart = { ...part, controller: { ...compensator, form: 'corners' } };

  test('where K is the level, a factor is told', () => {
    const unit: GainsPart = { ...corners, plant: '1/(s*(s + 2))' };
    expect(checkAnswer(unit, nothing, answer({ ...right, K: String(120 / 7) })).met).toBe(true);
    expect(slipOf({ ...right, K: '120' }, unit)).toBe('otherForm');
  });

  test('two that fit equally are not told', () => {
    // Seven times too much, five times too much: both would bring it back to where the nails hold.
    expect(slipOf({ ...right, K: '24' }, corners)).toBeUndefined();
  });

  test('a pair goes with its own partner, its imaginary part kept', () => {
    const pair: GainsPart = {
      ...part,
      plant: '1/(s^2 + 2 s + 5)',
      nails: [{ id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 1, points: 1 }],
    };
    const held = { K: '300', zr: '-1', zi: '2', pr: '-12', pi: '2' };
    expect(checkAnswer(pair, nothing, answer(held)).met).toBe(true);
    expect(slipOf({ ...held, zr: '-12', pr: '-1' }, pair)).toBe('placesExchanged');
    expect(slipOf({ ...held, zr: '1', pr: '12' }, pair)).toBe('placesTurned');
  });
});

test('a gain is told as read from the plane only where there is a plane to read it from', () => {
  const proportional: GainsPart = {
    ...part,
    plant: '4/(s*(s + 2))',
    controller: { terms: 'P', form: 'parallel', gains: [{ name: 'Kp', ...rung }] },
    nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 1 }],
  };
  expect(slipOf({ Kp: '2' }, proportional)).toBe('plantConstant');
  expect(slipOf({ Kp: '2' }, { ...proportional, views: ['effort'] })).toBeUndefined();
});

test('the proof shows what usual wrong compensators would be told, each missing something', () => {
  const wrong = usualWrongAnswers(part, nothing, right);
  expect(wrong.map(({ id }) => id)).toEqual(['plantConstant', 'placesTurned', 'placesExchanged', 'otherForm']);
  for (const { id, words, verdict } of wrong) {
    expect(verdict.met).toBe(false);
    expect(verdict.slip).toEqual({ id, words });
  }
});
