import { checkAnswer, examine, rightAnswerOf, solutionOf, wrongAnswersOf } from '../src/checks';
import { modelOf, type RangePart, rangesFromText } from '../src/index';
import { exercise } from './documents';

const nothing = modelOf({ systems: [], series: [] }, {});
const part: RangePart = {
  ...{ id: 'r', title: 'Range', prompt: '', points: 4 },
  ...{ kind: 'range', of: '2/(s*(s + 4)*(s + 6))', tolerancePercent: 2 },
};
/** Stable between two gains, unstable, and stable again. */
const twice = '(s + 2)^2/(s*(s + 0.2)*(s + 0.5)*(s + 40))';
const given = (text: string, of = part.of) => checkAnswer({ ...part, of }, nothing, { kind: 'range', text });

describe('ranges as they are typed', () => {
  test.each([
    ['0 < K < 42', [[0, 42]]],
    ['0<=k≤42', [[0, 42]]],
    ['42 > K > 0', [[0, 42]]],
    ['K < 42', [[0, 42]]],
    ['42 > K', [[0, 42]]],
    ['K > 3', [[3, Infinity]]],
    ['3 < K', [[3, Infinity]]],
    ['3 < K < ∞', [[3, Infinity]]],
    [
      '(0, 5) or (9, inf)',
      [
        [0, 5],
        [9, Infinity],
      ],
    ],
    [
      '[9; 1e3] ∪ [0; 5]',
      [
        [0, 5],
        [9, 1000],
      ],
    ],
    [
      '2..5, 7 to 8',
      [
        [2, 5],
        [7, 8],
      ],
    ],
    ['−3 < K < .5', [[0, 0.5]]],
    ['none', []],
    ['K > 0 and K < 42', [[0, 42]]],
    ['K<42, K>0', [[0, 42]]],
    ['K>3,K<8', [[3, 8]]],
    [
      'K > 2 and K < 9 or K > 20',
      [
        [2, 9],
        [20, Infinity],
      ],
    ],
    ['K > 3/2', [[1.5, Infinity]]],
    ['> 1.5', [[1.5, Infinity]]],
    ['< 7/2', [[0, 3.5]]],
    ['K ∈ (1.5, ∞)', [[1.5, Infinity]]],
    ['K in (0, 5)', [[0, 5]]],
    ['[0, 5[', [[0, 5]]],
    [
      ']0; 5[ ∪ ]9; +∞[',
      [
        [0, 5],
        [9, Infinity],
      ],
    ],
    [
      '(0, 5), (9, 12)',
      [
        [0, 5],
        [9, 12],
      ],
    ],
    [
      '0 < Kp < 5, 9 < Kp < 12',
      [
        [0, 5],
        [9, 12],
      ],
    ],
    ['(-3, 5)', [[0, 5]]],
    ['0 < K < 5 or 4 < K < 9', [[0, 9]]],
    ['no K', []],
    ['∅', []],
    ['None.', []],
  ])('%s', (text, ranges) => {
    expect(rangesFromText(text)).toEqual(ranges);
  });

  test.each([
    ['', 'Type the range first'],
    ['42', '“42” is not a range; write 0 < K < 42'],
    ['5 < K < 3', 'the lower end stands first'],
    ['K < -2', 'holds no gain above 0'],
    ['0 < K < 42x', 'is not a range'],
    ['0 < K < 5 and 9 < K < 12', 'together these hold for no gain'],
    ['K < 2, K > 9', 'together these hold for no gain'],
    ['0 < 5', 'is not a range'],
    ['and', 'is not a range'],
  ])('%j is refused', (text, words) => {
    expect(() => rangesFromText(text)).toThrow(words);
  });
});

describe('a range of stable gains', () => {
  test('is right within its tolerance, however it is written', () => {
    // s³ + 10 s² + 24 s + 2 K: stable up to K = 120.
    expect(given('0 < K < 120').met).toBe(true);
    expect(given('K < 122').met).toBe(true);
    expect(given('K < 123').met).toBe(false);
    expect(solutionOf(part, nothing)).toBe('0 < K < 120');
  });

  test('of several pieces needs every one of them', () => {
    const answer = rightAnswerOf({ ...part, of: twice }, nothing) as { kind: 'range'; text: string };
    expect(answer.text).toMatch(/^[\d.]+ < K < [\d.]+ or K > [\d.]+$/);
    expect(given(answer.text, twice).met).toBe(true);
    const [first] = answer.text.split(' or ');
    const half = given(first!, twice);
    expect([half.points, half.slip?.id]).toEqual([2, 'onlyFirst']);
    expect(half.words).toMatch(/^1 of 2 ranges are right\. K = 14 lies outside/);
  });

  test('may be empty', () => {
    expect(given('none', '1/(s - 1)^2').met).toBe(true);
    expect(given('K > 1', '1/(s - 1)^2').met).toBe(false);
    expect(given('none').words).toMatch(/^This is not the range\. K = 60 lies outside/);
  });

  test('with dead time ends where the first crossing does', () => {
    const late = 'exp(-s)/s';
    expect(given(`0 < K < ${Math.PI / 2}`, late).met).toBe(true);
  });

  test('every usual wrong answer is wrong and told its own slip', () => {
    for (const [of, ids] of [
      [part.of, ['turned', 'ownConstant']],
      ['4*(s + 1)/(s*(s - 1)*(s + 6))', ['turned', 'ownConstant', 'lowerEnd']],
    ] as const) {
      const wrong = wrongAnswersOf({ ...part, of }, nothing, undefined);
      expect(wrong.map(({ id }) => id)).toEqual(ids);
      for (const { answer, id } of wrong) {
        const verdict = checkAnswer({ ...part, of }, nothing, answer);
        expect([verdict.met, verdict.slip?.id]).toEqual([false, id]);
      }
    }
  });

  test('a loop that cannot be worked out keeps the exercise from being published', () => {
    expect(examine({ ...exercise, parts: [{ ...part, of: '1/(s + exp(-s))' }] })).toHaveLength(1);
    expect(examine({ ...exercise, parts: [part] })).toEqual([]);
  });
});
