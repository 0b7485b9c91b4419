import { systemFrom } from '../src/formula/evaluate';
import { matrixFromNumbers } from '../src/rational/matrix';
import { rationalFromNumber } from '../src/rational/number';
import { fractionFromCoefficients } from '../src/system/forms';
import { controllableForm, fractionOfStates, stateSpaceOf, structureOf } from '../src/system/stateSpace';
import { systemOf } from '../src/system/system';
import { withoutDeadTime } from '../src/system/transfer';
import { feedbackOf } from '../src/system/transferAlgebra';
import { constantTransfer } from '../src/system/transferAlgebra';
import { type Design, leadDesign, matchedDesign, pairFor, tunedDesign } from '../src/working/fromSpecifications';
import { placement, similarStates, stateFacts, stateForm, statesText, withFeedback } from '../src/working/states';
import { randomNumbers } from './random';

const of = (text: string, numbers: Readonly<Record<string, number>> = {}) =>
  systemFrom(text, {
    names: new Map(Object.entries(numbers).map(([name, value]) => [name, constantTransfer(rationalFromNumber(value))])),
  });
/** The poles of the loop with a design. */
const poles = (plant: string, { formula, numbers }: Design) =>
  systemOf(withoutDeadTime(feedbackOf(of(`(${formula})*(${plant})`, numbers), of('1')), 'A loop')).poles;
const near = (all: readonly { re: number; im: number }[], re: number, im: number) =>
  Math.min(...all.map((pole) => Math.hypot(pole.re - re, Math.abs(pole.im) - im)));

describe('from specifications to gains', () => {
  test('overshoot and each time give ζ and ωn by the rules of course books', () => {
    const ten = (which: 'peakTime' | 'riseTime' | 'settlingTime') => pairFor({ overshootPercent: 10, time: 2, which });
    expect(ten('peakTime').zeta).toBeCloseTo(0.5912, 4);
    expect(ten('peakTime').wn).toBeCloseTo(Math.PI / (2 * Math.sqrt(1 - 0.59116 ** 2)), 3);
    expect(ten('riseTime').wn).toBeCloseTo(0.9, 9);
    expect(ten('settlingTime').wn).toBeCloseTo(4 / (0.59116 * 2), 3);
  });

  test.each([
    ['PD', '3/(s*(s + 2))', 0],
    ['PI', '2/(5*s + 1)', 0],
    ['PID', '4/(s^2 + 1.2*s + 4)', 1],
  ] as const)(
    '%s gains put the pair where the working says, and what else there is farther left',
    (form, plant, more) => {
      const wanted = { overshootPercent: 10, time: 1.5, which: 'settlingTime' as const };
      const design = matchedDesign(of(plant), form, wanted);
      const { zeta, wn } = pairFor(wanted);
      const found = poles(plant, design);
      expect(near(found, -zeta * wn, wn * Math.sqrt(1 - zeta ** 2))).toBeLessThan(1e-6 * wn);
      expect(found.filter(({ re }) => Math.abs(re + 5 * zeta * wn) < 1e-6 * wn)).toHaveLength(more);
      // Each number of the working is the number that is used.
      const said = design.steps.at(-1)!.latex;
      for (const value of Object.values(design.numbers)) expect(said).toContain(String(Number(value.toPrecision(5))));
    },
  );

  test('what the response does then is told with the zero that is to blame', () => {
    const { outcome, measures } = matchedDesign(of('3/(s*(s + 2))'), 'PD', {
      overshootPercent: 5,
      time: 1,
      which: 'peakTime',
    });
    expect(measures.overshootPercent).toBeGreaterThan(5.5);
    expect(outcome.join(' ')).toMatch(/wanted 5 %.*rules know no zeros/);
  });

  test('an offset that is left is told', () => {
    const design = matchedDesign(of('2/(s^2 + 2*s + 1)'), 'PD', { overshootPercent: 10, time: 2, which: 'peakTime' });
    expect(design.outcome.join(' ')).toMatch(/offset/);
  });

  test.each(['1/(s*(s + 1))', '5/(s*(s + 1)*(s + 8))', '2/s^2'])(
    'a lead puts a branch of %s through the wanted pole',
    (plant) => {
      const wanted = { overshootPercent: 12, time: 2.2, which: 'settlingTime' as const };
      const { zeta, wn } = pairFor(wanted);
      const found = poles(plant, leadDesign(of(plant), wanted));
      expect(near(found, -zeta * wn, wn * Math.sqrt(1 - zeta ** 2))).toBeLessThan(1e-6 * wn);
    },
  );

  test('a tuned start keeps the sensitivity peak with dead time as well', () => {
    const { numbers, measures, steps } = tunedDesign(of('2*exp(-0.5*s)/(5*s + 1)'), 'PI', 1.6);
    expect(Object.keys(numbers)).toEqual(['Kp', 'Ki']);
    expect(measures.stable).toBe(true);
    expect(steps[0]!.latex).toContain('M_s=1.6');
  });

  test.each<[string, () => unknown, RegExp]>([
    ['no overshoot', () => pairFor({ overshootPercent: 0, time: 1, which: 'peakTime' }), /between 0 and 100/],
    ['no time', () => pairFor({ overshootPercent: 10, time: 0, which: 'peakTime' }), /more than 0/],
    [
      'one pole',
      () => matchedDesign(of('1/(s + 1)'), 'P', { overshootPercent: 5, time: 1, which: 'peakTime' }),
      /one pole/,
    ],
    [
      'too few gains',
      () => matchedDesign(of('1/(s + 1)^3'), 'PI', { overshootPercent: 5, time: 9, which: 'peakTime' }),
      /No PI gains/,
    ],
    [
      'dead time',
      () => matchedDesign(of('exp(-s)/(s + 1)'), 'PI', { overshootPercent: 5, time: 9, which: 'peakTime' }),
      /dead time/,
    ],
    [
      'more than a lead gives',
      () => leadDesign(of('1/s^4'), { overshootPercent: 5, time: 1, which: 'peakTime' }),
      /up to 90/,
    ],
  ])('%s is refused in words', (_, work, words) => {
    expect(work).toThrow(words);
  });
});

describe('states on the board', () => {
  const plant = stateSpaceOf({
    a: [
      [0, 1],
      [-4, -1.2],
    ],
    b: [[0], [4]],
    c: [[1, 0]],
    d: [[0]],
  });
  // Its second mode is neither reached nor seen.
  const hidden = stateSpaceOf({
    a: [
      [-1, 0],
      [0, -3],
    ],
    b: [[1], [0]],
    c: [[1, 0]],
    d: [[0]],
  });

  test('every form has the same response and as many states, with modes that cancel too', () => {
    for (const states of [plant, hidden]) {
      for (const form of ['controllable', 'observable'] as const) {
        const found = stateSpaceOf(stateForm(states, form));
        expect(found.a).toHaveLength(2);
        expect(fractionOfStates(found)).toEqual(fractionOfStates(states));
      }
    }
    expect(stateForm(hidden, 'modal').a).toEqual([[-1]]);
  });

  test('ranks stand with their matrices', () => {
    expect(stateFacts(plant)).toMatchObject({
      controllabilityRank: 2,
      observabilityRank: 2,
      controllability: [
        [0, 4],
        [4, -4.8],
      ],
    });
    expect(stateFacts(hidden)).toMatchObject({ controllable: false, observable: false, controllabilityRank: 1 });
  });

  test('a change of states keeps the response; one without an inverse is refused', () => {
    const found = stateSpaceOf(
      similarStates(
        plant,
        matrixFromNumbers(
          [
            [1, 1],
            [0, 2],
          ],
          'T',
        ),
      ),
    );
    expect(fractionOfStates(found)).toEqual(fractionOfStates(plant));
    expect(() =>
      similarStates(
        plant,
        matrixFromNumbers(
          [
            [1, 2],
            [2, 4],
          ],
          'T',
        ),
      ),
    ).toThrow(/no inverse/);
    expect(() => similarStates(plant, matrixFromNumbers([[1]], 'T'))).toThrow(/2 × 2/);
  });

  test('placed poles are where they were wanted, over random systems', () => {
    const next = randomNumbers(7);
    const value = () => Math.round(20 * next() - 10) / 4 || 1;
    for (let k = 0; k < 40; k++) {
      const order = 2 + (k % 3);
      const fraction = fractionFromCoefficients([value()], [1, ...Array.from({ length: order }, value)]);
      const states = controllableForm(fraction);
      const wanted = [
        { re: -2, im: 3 },
        { re: -2, im: -3 },
        { re: -5, im: 0 },
        { re: -7, im: 0 },
      ].slice(0, order);
      const { gains, steps } = placement(states, wanted);
      const closed = withFeedback(states, gains.map(rationalFromNumber));
      const found = systemOf(fractionOfStates(closed)).poles;
      for (const { re, im } of wanted) expect(near(found, re, Math.abs(im))).toBeLessThan(1e-6);
      // The check on the board is the wanted polynomial again.
      expect(steps.at(-1)!.latex.split('=')[1]).toBe(steps[0]!.latex.split('=')[1]);
    }
  });

  test('is typed again as it was', () => {
    expect(
      statesText({
        a: [
          [0, 1],
          [-4, -1.2],
        ],
        b: [[0], [4]],
        c: [[1, 0]],
        d: [[0]],
      }),
    ).toBe('states([0 1; -4 -1.2], [0; 4], [1 0], [0])');
    expect(structureOf(plant).controllable).toBe(true);
  });
});
