import { checkAnswer, readAnswer } from '../src/checks';
import type { Answer, GainsPart, StatesPart, TransferFunctionPart } from '../src/index';
import { modelOf } from '../src/index';
import { isMistyped } from '../src/kinds/transferFunction/mistyped';
import { within } from '../src/response/work';
import { exercise, model as fraction, tune } from './documents';

/**
 * Answers that once took many seconds, or never ended. What stops them is counted, not timed; without the counts these
 * tests run into the time limit of a test.
 */

const many = (count: number, text: (k: number) => string): string[] => Array.from({ length: count }, (_, k) => text(k));
const { series } = exercise;
const nothing = { series, parameters: [], systems: [] };

describe('gains far beyond reason', () => {
  const quantities = [
    'overshootPercent',
    'settlingTime',
    'phaseMargin',
    'delayMargin',
    'bandwidth',
    'dampingRatio',
  ] as const;
  const loop = (plant: string, limits: boolean): GainsPart => ({
    ...tune,
    plant,
    horizon: 20,
    controller: {
      ...{ terms: 'PID', form: 'parallel', filterTime: '0.1' },
      gains: (['Kp', 'Ki', 'Kd'] as const).map((name) => ({ name, start: 1, fine: 0.1, coarse: 1 })),
    },
    ...(limits ? { limits: { low: '0', high: '3', trackingTime: '4' } } : {}),
    nails: quantities.map((quantity) => ({ id: quantity, quantity, relation: 'atMost', limit: 5, points: 1 })),
  });
  test.each([
    ['0.7*exp(-1.8*s)/(13*s + 1)', true],
    ['0.7*exp(-1.8*s)/(13*s + 1)', false],
    ['1/(s*(s+1)*(s+10))', true],
  ])('%s, with limits: %s', (plant, limits) => {
    const part = loop(plant, limits);
    const model = modelOf(nothing, {});
    expect(checkAnswer(part, model, { kind: 'gains', gains: { Kp: '30', Ki: '1e12', Kd: '30' } }).met).toBe(false);
  });

  test('a response that cannot be followed is no verdict by accident: nothing is met, and a person is to look', () => {
    const part = loop('0.7*exp(-1.8*s)/(13*s + 1)', true);
    const answer: Answer = { kind: 'gains', gains: { Kp: '1', Ki: '0.1', Kd: '0' } };
    const model = modelOf(nothing, {});
    const verdict = within(40, () => checkAnswer(part, model, answer));
    expect(verdict).toMatchObject({
      met: false,
      points: 0,
      outOf: 6,
      items: [{ id: 'work', close: true, met: false }],
    });
    expect(verdict.words).toMatch(/swings or switches too fast/);
  });
});

describe('texts far beyond what is written by hand', () => {
  const part: TransferFunctionPart = { ...fraction, expected: '18/(s^2 + 1.8*s + 9)' };
  const model = modelOf(nothing, {});
  test.each([
    ['38 fractions', `(${many(38, (k) => `1/(s+${k + 1}.${k}7)`).join('+')})`],
    [
      '38 factors of many digits',
      many(19, (k) => `(s+1${'23456789'.repeat(4)}.${k})/(s+9${'87654321'.repeat(4)}.${k})`).join('*'),
    ],
    ['40 coefficients', `1/(${many(40, (k) => `${40 - k}.98765432109876*s^${k}`).join('+')}+s^40)`],
    ['a high power', '((s+1.23456789)/(s+2.3456789))^38'],
  ])('%s', (_name, text) => {
    expect(checkAnswer(part, model, { kind: 'transferFunction', text }).met).toBe(false);
  });

  test('matrices of an answer hold numbers and no formulas, and twelve states at most', () => {
    const states: StatesPart = {
      ...{ id: 'x', kind: 'states', title: 'States', prompt: '', points: 1, expected: '1/(s+1)', tolerancePercent: 1 },
    };
    const read = (a: string, n: number) =>
      readAnswer(states, modelOf(nothing, {}), {
        ...{ kind: 'states', a, b: many(n, () => '1').join('\n'), c: many(n, () => '1').join(' '), d: '0' },
      });
    expect(() => read('settlingTime(1/(s+1))', 1)).toThrow();
    expect(() => read('-sqrt(2)', 1)).not.toThrow();
    const square = (n: number) => many(n, (i) => many(n, (j) => `sqrt(${i + j + 2})`).join(' ')).join('\n');
    expect(() => read(square(13), 13)).toThrow(/at most 12 states/);
  });

  test('a slip of the finger is looked for among few texts, and a quick look spares most', () => {
    let worked = 0;
    const isRight = () => (worked++, false);
    expect(isMistyped(many(17, (k) => `${k}.5*s`).join('+'), isRight, () => true)).toBe(false);
    expect(worked).toBe(0);
    isMistyped('12345678901234567890123456789012345678/(s+1234567890123456789012345678901234567)', isRight, () => true);
    expect(worked).toBeLessThanOrEqual(1500);
    // Of one text the quick look lets a single other one through, and only that is worked out.
    const looked: string[] = [];
    const isMeant = (text: string) => looked.push(text) > 0 && text === '18/(s^2+1.8*s+9)';
    expect(isMistyped('18/(s^2+1.7*s+9)', isMeant, (_, value) => value === 1.8)).toBe(true);
    expect(looked).toEqual(['18/(s^2+1.8*s+9)']);
  });
});
