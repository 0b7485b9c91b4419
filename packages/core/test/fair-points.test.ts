import { attemptsOf, checkAnswer, readAnswer, rightAnswerOf } from '../src/checks';
import { type ChoicePart, type GainsPart, modelOf, type PointsPart } from '../src/index';
import { student, tune } from './documents';

const model = modelOf({ systems: [], series: [] }, {});
/** Branches from −1 and −2 meet at −1.5, go up and down along it; one from −8 goes left. */
const locus = (more: Partial<PointsPart> = {}): PointsPart => ({
  ...{ id: 'p', title: 'P', prompt: '', kind: 'points', points: 5, of: '1/((s+1)*(s+3)*(s+8))' },
  ...{ what: 'locus', tolerancePercent: 0, count: 5 },
  ...more,
});
const answered = (part: PointsPart, text: string) => checkAnswer(part, model, { kind: 'points', text });
/** Points of the branch that leaves −1.9 upwards, found where the angle is right. */
const upwards = '-1.88+0.8j, -1.74+1.5j, -1.4+2.55j, -1+3.5j, -0.5+4.5j';

describe('a sketch of points', () => {
  test('needs points that lie apart', () => {
    expect(answered(locus(), upwards)).toMatchObject({ met: true, points: 5 });
    expect(answered(locus(), '-8.5,-9,-9.6,-10.2,-11').points).toBe(5);
  });

  test.each([
    ['the same five times', '-9,-9,-9,-9,-9'],
    ['five within a hundredth', '-9,-9.01,-9.02,-9.03,-9.04'],
    ['a pole, five times', '-8,-8,-8,-8,-8'],
    ['the poles themselves', '-1,-3,-8'],
  ])('is none with %s', (_what, text) => {
    expect(answered(locus(), text).points).toBe(0);
  });

  test('on the real axis counts only where that is not excluded', () => {
    const off = locus({ offAxis: true });
    expect(answered(off, '-8.5,-9,-9.6,-10.2,-11').points).toBe(0);
    expect(answered(off, upwards).points).toBe(5);
  });
});

test('a wrong sketch of the real axis does not tell where the right stretches are', () => {
  const part = locus({ what: 'realAxis' });
  const { items, words } = answered(part, '-5');
  expect(words).toMatch(/^0 of 3/);
  expect(items.map((item) => item.words)).toEqual([
    '−8 to −3: not on the locus.',
    'A stretch is missing.',
    'A stretch is missing.',
  ]);
  expect(answered(part, '-2, -9').met).toBe(true);
});

describe('gains outside their range', () => {
  const [Kp, ...others] = tune.controller.gains as { name: 'Kp'; start: number; fine: number; coarse: number }[];
  const part = {
    ...tune,
    controller: { ...tune.controller, gains: [{ ...Kp!, low: 0, high: 40 }, ...others] },
  } as GainsPart;
  const gains = (value: string) => ({ kind: 'gains' as const, gains: { Kp: value, Ki: '1', Kd: '1' } });

  test.each(['41', '-0.1', '1e3', '−2'])('are refused before they cost a try: %s', (value) => {
    expect(() => readAnswer(part, student, gains(value))).toThrow(
      /^Kp = .* is outside what is allowed, from 0 to 40\.$/,
    );
  });

  test.each(['0', '40', '12.5'])('and %s is not one', (value) => readAnswer(part, student, gains(value)));
});

test('a choice gives one try unless it says otherwise', () => {
  const choice = { kind: 'choice' } as ChoicePart;
  expect(attemptsOf({ attempts: 5 }, choice)).toBe(1);
  expect(attemptsOf({ attempts: 5 }, { ...choice, attempts: 2 })).toBe(2);
  expect(attemptsOf({ attempts: 5 }, tune)).toBe(5);
});

test.each(['1/((s+1)*(s+3)*(s+8))', '(s+2)/(s*(s+0.001)*(s+40))', '1e-6/((s+1e-4)*(s^2+2e-4*s+3e-8))', '1/(s*(s+2))'])(
  'a right sketch of %s can be made, on and off the axis',
  (of) => {
    for (const offAxis of [true, false]) {
      const part = locus({ of, offAxis });
      const answer = rightAnswerOf(part, model) as { kind: 'points'; text: string };
      expect([of, offAxis, checkAnswer(part, model, answer).met]).toEqual([of, offAxis, true]);
    }
  },
);
