import { checkAnswer, rightAnswerOf, usualWrongAnswers } from '../src/checks';
import { type Answer, type ExerciseDocument, modelOf, type NumberPart, type TransferFunctionPart } from '../src/index';
import { model as lamp, overshoot, student, tune } from './documents';

const slipOf = (answer: Answer, part: Parameters<typeof checkAnswer>[0] = lamp, of = student) =>
  checkAnswer(part, of, answer).slip?.id;
const typed = (text: string): Answer => ({ kind: 'transferFunction', text });
const number = (value: number | string): Answer => ({ kind: 'number', text: String(value) });
const gains = (Kp: number, Ki: number, Kd: number): Answer => ({
  kind: 'gains',
  gains: { Kp: String(Kp), Ki: String(Ki), Kd: String(Kd) },
});

describe('second order', () => {
  // With K = 2, ζ = 0.3, ωn = 3: 18/(s² + 1.8 s + 9).
  test.each([
    ['6/(s^2+1.8s+3)', 'frequencyNotSquared'],
    ['6/(s^2+1.8s+9)', 'frequencyNotSquared'],
    ['18/(s^2+0.9s+9)', 'twoMissing'],
    ['1/(s^2+1.8s+9)', 'unitNumerator'],
    ['9/(s^2+1.8s+9)', 'gainMissing'],
    ['200/(s^2+6s+100)', 'timeConstant'],
    ['18/(s^2-1.8s+9)', 'negativeDamping'],
    ['18/(9s^2+1.8s+1)', 'reversed'],
    ['18/(s^2+1.8s+8)', 'oneCoefficient'],
    ['18/(s^2+2.8s+9)', 'oneCoefficient'],
    ['188/(s^2+1.8s+9)', 'oneCoefficient'],
    ['81/(s^2+1.8s+9)', 'oneCoefficient'],
    ['18/(s^2+1.8s+90)', undefined],
    ['18/(s^2+1.86s+9)', undefined],
    ['18/(s^2+1.8s-9)', undefined],
    ['18/(s^2+11.3s+9)', undefined],
    ['1/(2s^2+3.6s+18)', 'unitNumerator'],
    ['0.456/(s^2+0.286s+0.228)', 'hertz'],
    ['5/(s^2+0.7s+4)', undefined],
    ['18/(s^2+1.8s+9)', undefined],
  ])('%s shows %s', (text, slip) => {
    expect(slipOf(typed(text))).toBe(slip);
  });

  test('two slips that fit equally are not told', () => {
    // With ωn = 1 a missing square leads nowhere, and K alone stands where K·ωn² belongs.
    const unit = modelOf({ systems: [], series: [] }, { K: '2', zeta: '0.3', wn: '1' });
    expect(slipOf(typed('2/(s^2+0.3s+1)'), lamp, unit)).toBe('twoMissing');
    // K = 1 makes a unit numerator of a missing square.
    const one = modelOf({ systems: [], series: [] }, { K: '1', zeta: '0.3', wn: '3' });
    expect(slipOf(typed('1/(s^2+1.8s+9)'), lamp, one)).toBeUndefined();
  });
});

describe('closed loops', () => {
  const systems: ExerciseDocument['systems'] = [
    { name: 'G', meaning: '', form: { kind: 'expression', text: '4/(s^2 + 0.7*s)' } },
    { name: 'H', meaning: '', form: { kind: 'expression', text: '1/(0.1 s + 1)' } },
    {
      name: 'W',
      meaning: '',
      form: { kind: 'equations', text: 'e = r - H*y\ny = G*(2*e + d)', from: 'r', to: 'y' },
    },
  ];
  const loop = modelOf({ systems, series: [] }, {});
  const closed: TransferFunctionPart = { ...lamp, expected: 'closed(2*G, H)' };
  const load: TransferFunctionPart = { ...lamp, expected: 'y/d' };

  test.each([
    ['8(0.1s+1)/((s^2+0.7s)(0.1s+1)-8)', 'feedbackSign'],
    ['8/(s^2+0.7s)', 'openLoop'],
    ['8/(s^2+0.7s+8)', 'sensorForgotten'],
    ['8/((s^2+0.7s)(0.1s+1)+8)', 'sensorForward'],
    ['(s^2+0.7s)(0.1s+1)/((s^2+0.7s)(0.1s+1)+8)', 'errorForOutput'],
    ['8(0.1s+1)/((s^2+0.7s)(0.1s+1)+8)', undefined],
  ])('%s shows %s', (text, slip) => {
    expect(slipOf(typed(text), closed, loop)).toBe(slip);
  });

  test('another input or output of the same equations is named', () => {
    expect(slipOf(typed('8(0.1s+1)/((s^2+0.7s)(0.1s+1)+8)'), load, loop)).toBe('input-r');
    expect(slipOf(typed('-4/((s^2+0.7s)(0.1s+1)+8)'), load, loop)).toBe('output-e');
  });
});

describe('measures', () => {
  const part = (formula: string, unit: string): NumberPart => ({ ...overshoot, formula, unit });
  const [zeta, wn] = [0.3, 3];
  const wd = wn * Math.sqrt(1 - zeta ** 2);
  const lampSystem = lamp.expected;
  const percent = 100 * Math.exp((-Math.PI * zeta * wn) / wd);

  test.each<[string, string, number, string | undefined]>([
    [`overshootPercent(${lampSystem})`, '%', percent / 100, 'fraction'],
    [`overshootPercent(${lampSystem})`, '%', 100 * (2 * (1 + percent / 100) - 1), 'relativeToOne'],
    [`peakTime(${lampSystem})`, 's', Math.PI / wn, 'naturalForDamped'],
    [`dampedFrequency(${lampSystem})`, 'rad/s', wn, 'naturalForDamped'],
    [`dampedFrequency(${lampSystem})`, 'rad/s', wd / (2 * Math.PI), 'hertz'],
    ['riseTime(1/(s+1))', 's', 1.8, 'rule'],
    ['settlingTime(1/(s+1))', 's', Math.log(20), 'bandFive'],
    ['gainMargin(2/(s+1)^3)', '', 20 * Math.log10(4), 'decibels'],
    ['stepError(4/(s+1))', '', 0.25, 'errorConstant'],
    ['phaseMargin(1/(s*(s+2)))', '°', (76.3454 * Math.PI) / 180, 'angleRadians'],
    [`overshootPercent(${lampSystem})`, '%', percent, undefined],
    [`overshootPercent(${lampSystem})`, '%', 3, undefined],
  ])('%s in %s, answered %d, shows %s', (formula, unit, value, slip) => {
    expect(slipOf(number(value), part(formula, unit))).toBe(slip);
  });
});

describe('gains', () => {
  test('exchanged, or of the other form, they are known by what they would do', () => {
    expect(checkAnswer(tune, student, gains(14, 4, 5)).met).toBe(true);
    expect(slipOf(gains(20, 3, 30), tune)).toBeUndefined();
    expect(slipOf(gains(20, 2.5, 0.25), tune)).toBe('timesForGains');
  });

  test('without integral action the offset is told', () => {
    expect(slipOf(gains(14, 0, 5), tune)).toBe('noIntegral');
    // So it is where it shows in an integral of the error after a push.
    const away = { id: 'away', quantity: 'integralAbsolute', signal: 'e', input: 'd', relation: 'atMost' } as const;
    const calm = tune.nails.filter(({ id }) => id === 'over');
    const pushed = { ...tune, nails: [...calm, { ...away, limit: 0.5, points: 1 }] };
    expect(slipOf(gains(14, 0, 5), pushed)).toBe('noIntegral');
    expect(slipOf(gains(14, 1, 5), pushed)).not.toBe('noIntegral');
  });

  test('what only the second-order rule promises is told', () => {
    const part = { ...tune, nails: tune.nails.filter(({ id }) => id === 'over') };
    const verdict = checkAnswer(part, student, gains(9, 12, 2.4));
    expect(verdict.met).toBe(false);
    expect([undefined, 'onlyByRule']).toContain(verdict.slip?.id);
  });
});

test('usual wrong answers are never right, and a right answer never shows a slip', () => {
  for (const part of [lamp, overshoot]) {
    const wrong = usualWrongAnswers(part, student);
    expect(wrong.length).toBeGreaterThanOrEqual(3);
    expect(wrong.every(({ verdict }) => !verdict.met && verdict.points === 0)).toBe(true);
    const right = checkAnswer(part, student, rightAnswerOf(part, student)!);
    expect(right).toMatchObject({ met: true });
    expect(right.slip).toBeUndefined();
  }
});
