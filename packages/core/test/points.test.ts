import { checkAnswer, examine, rightAnswerOf, solutionOf, studentPart, wrongAnswersOf } from '../src/checks';
import { fractionOf, modelOf, parse, pointsFromText, type PointsPart, textOfPoints } from '../src/index';
import { angleError } from '../src/kinds/points/sketch';
import { exercise } from './documents';

const nothing = modelOf({ systems: [], series: [] }, {});
const part: PointsPart = {
  ...{ id: 'p', title: 'Points', prompt: '', points: 4 },
  kind: 'points',
  of: '(s + 3)/((s + 1)^2*(s^2 + 2*s + 5))',
  what: 'poles',
  tolerancePercent: 2,
};
const given = (change: Partial<PointsPart>, text: string) =>
  checkAnswer({ ...part, ...change }, nothing, { kind: 'points', text });
const slew = '1/(s*(s + 4)*(s + 6))';

describe('points as they are typed', () => {
  test.each([
    ['-2', [[-2, 0]]],
    [
      '−2, 3',
      [
        [-2, 0],
        [3, 0],
      ],
    ],
    ['3j', [[0, 3]]],
    ['-1+j*3.03', [[-1, 3.03]]],
    ['(-1+2j)', [[-1, 2]]],
    ['s = -1', [[-1, 0]]],
    ['s_1 = −2·j', [[0, -2]]],
    ['-2i', [[0, -2]]],
    ['j', [[0, 1]]],
    [
      '-1 ± 2j',
      [
        [-1, 2],
        [-1, -2],
      ],
    ],
    [
      '-1 +- 2j; .5',
      [
        [-1, 2],
        [-1, -2],
        [0.5, 0],
      ],
    ],
    ['-1+j2', [[-1, 2]]],
    [
      '± 4.9j',
      [
        [0, 4.9],
        [0, -4.9],
      ],
    ],
    ['1e-1 - 2.5e0j', [[0.1, -2.5]]],
    [
      '-13/3, 1/2 - 3/4j, −5j/2, j1/4',
      [
        [-13 / 3, 0],
        [0.5, -0.75],
        [0, -2.5],
        [0, 0.25],
      ],
    ],
  ])('%s', (text, expected) => {
    expect(pointsFromText(text).map(({ re, im }) => [re, im])).toEqual(expected);
  });

  test.each(['', 'two', '1+', '1 2', '--3', '1+2j+3', '1/0', '1/2/3', '2j/0', '1e999'])('“%s” is refused', (text) => {
    expect(() => pointsFromText(text)).toThrow(/is not a point|first/);
  });

  test('are written so that they are read again', () => {
    const points = [
      { re: -1, im: 2 },
      { re: 0, im: -3 },
      { re: 0.125, im: 0 },
      { re: 0, im: 0 },
    ];
    expect(pointsFromText(textOfPoints(points))).toEqual(points);
  });
});

describe('a set of points', () => {
  test('holds each as often as it is there, in any order', () => {
    expect(given({}, '-1±2j, -1, -1')).toMatchObject({ met: true, points: 4, words: 'All poles are right.' });
    expect(given({}, '-1, -1 + 2j, -1.01, -1 - 1.99j').met).toBe(true);
    expect(given({}, '-1, -1±2j')).toMatchObject({ met: false, points: 3 });
    expect(given({ what: 'zeros' }, '-3').met).toBe(true);
  });

  test('marks that stand for nothing take points away', () => {
    const verdict = given({}, '-1±2j, -1, -1, 4');
    expect(verdict.points).toBeCloseTo(3.2, 9);
    expect(verdict.words).toBe('4 of 4 poles are there, 1 marked that are none.');
    expect(given({ marking: 'allOrNothing' }, '-1±2j, -1, -1, 4').points).toBe(0);
  });

  test('of a locus: real break points and crossings', () => {
    expect(given({ of: slew, what: 'breakPoints' }, '-1.57').met).toBe(true);
    expect(given({ of: slew, what: 'axisCrossings' }, '±4.9j').met).toBe(true);
  });

  test.each([
    [{}, '1±2j, 1, 1', 'sign'],
    [{}, '-1+2j, -1, -1', 'conjugate'],
    [{}, '-3', 'zeros'],
    [{ what: 'zeros' as const }, '-1±2j, -1, -1', 'poles'],
    [{ of: slew, what: 'breakPoints' as const }, '-1.57, -5.1', 'offLocus'],
    [{ of: slew, what: 'axisCrossings' as const }, '4.9', 'realForImaginary'],
  ])('%j %s shows the slip %s', (change, text, slip) => {
    expect(given(change, text).slip?.id).toBe(slip);
  });

  test('every usual wrong answer of the table is wrong, and told its own slip', () => {
    for (const what of ['poles', 'zeros'] as const) {
      const own = { ...part, what };
      const wrong = wrongAnswersOf(own, nothing, undefined);
      expect(wrong.length).toBeGreaterThan(1);
      for (const { answer, id } of wrong) {
        const verdict = checkAnswer(own, nothing, answer);
        expect(verdict.met).toBe(false);
        expect(verdict.slip?.id ?? id).toBe(id);
      }
    }
  });
});

describe('points sketched on a locus', () => {
  const sketch = { of: slew, what: 'locus' as const, count: 3, toleranceDegrees: 5 };
  const fraction = fractionOf(parse(slew), new Map());

  test('are judged by the angle condition', () => {
    expect(angleError(fraction, { re: -2, im: 0 })).toBeCloseTo(0, 9);
    expect(angleError(fraction, { re: -5, im: 0 })).toBeCloseTo(180, 9);
    expect(angleError(fraction, { re: -4, im: 0 })).toBe(0);
    expect(angleError(fraction, { re: 0, im: Math.sqrt(24) })).toBeCloseTo(0, 6);
    const verdict = given(sketch, '-1, 4.9j, -3+3j');
    expect(verdict.items.map(({ met }) => met)).toEqual([true, true, false]);
    expect(verdict.items[2]!.words).toMatch(/^−3 \+ 3j: the angle is .*° off; 5° counts\.$/);
  });

  test('fewer than asked for leave their share open', () => {
    expect(given(sketch, '-1').points).toBeCloseTo(4 / 3, 9);
    expect(given({ ...sketch, of: `-${slew}` }, '-5, 2, -7').points).toBeCloseTo((4 / 3) * 2, 9);
  });

  test('the answer for the key is right', () => {
    const own = { ...part, ...sketch };
    expect(checkAnswer(own, nothing, rightAnswerOf(own, nothing)!).met).toBe(true);
  });
});

describe('stretches of the real axis', () => {
  const axis = { of: slew, what: 'realAxis' as const };

  test('are marked by any point in them', () => {
    const verdict = given(axis, '-1, -3, -100');
    expect(verdict.met).toBe(true);
    expect(verdict.items.map(({ label }) => label)).toEqual(['left of −6', '−4 to 0']);
  });

  test('each that is missing, wrong or off the axis is told', () => {
    const verdict = given(axis, '-5, -1, 2j');
    expect(verdict.items.map(({ words }) => words)).toEqual([
      '−6 to −4: not on the locus.',
      '−4 to 0: on the locus.',
      '2j: not on the real axis.',
      'A stretch is missing.',
    ]);
    expect(verdict.points).toBeCloseTo(1, 9);
  });

  test('a pole is in none of them', () => {
    expect(given(axis, '-4').items.every(({ met }) => !met)).toBe(true);
  });

  test('of an even count are a slip', () => {
    expect(given(axis, '-5, 3').slip?.id).toBe('evenCount');
    expect(given(axis, '-5').slip).toBeUndefined();
  });

  test('the key names them, and its answer is right', () => {
    const own = { ...part, ...axis };
    expect(solutionOf(own, nothing)).toBe('left of −6; −4 to 0');
    expect(checkAnswer(own, nothing, rightAnswerOf(own, nothing)!).met).toBe(true);
    // Through a double pole the locus goes on: both sides of it count.
    expect(given({ ...axis, of: '(s + 5)/(s*(s + 1)*(s + 2)^2)' }, '-0.5, -3, -20').items).toHaveLength(3);
  });
});

describe('asymptotes', () => {
  const rays = { of: slew, what: 'asymptotes' as const, toleranceDegrees: 4 };
  const meeting = -10 / 3;

  test('are judged by where they meet and by their angles, wherever the points on them lie', () => {
    expect(given(rays, `${meeting}, -9, ${meeting + 1}+1.732j, ${meeting + 10}-17.32j`).met).toBe(true);
    const verdict = given(rays, `${meeting}, -9, ${meeting + 1}+1.2j`);
    expect(verdict.items.map(({ words }) => words)).toEqual([
      '−3.33333: they meet here.',
      '180°: an asymptote.',
      '50.2°: no asymptote leaves this way.',
      'An asymptote is missing.',
    ]);
  });

  test('one asymptote counts once', () => {
    const verdict = given(rays, `${meeting}, -9, -12, -20`);
    expect(verdict.items.filter(({ met }) => met)).toHaveLength(2);
  });

  test('every usual wrong answer is wrong and told its own slip', () => {
    const own = { ...part, ...rays, of: '(s + 2)/(s*(s + 4)*(s + 6)*(s + 7))' };
    const wrong = wrongAnswersOf(own, nothing, undefined);
    expect(wrong.map(({ id }) => id)).toEqual(['sign', 'dividedByPoles', 'otherSide']);
    for (const { answer, id } of wrong) {
      const verdict = checkAnswer(own, nothing, answer);
      expect([verdict.met, verdict.slip?.id]).toEqual([false, id]);
    }
    expect(checkAnswer(own, nothing, rightAnswerOf(own, nothing)!).met).toBe(true);
    expect(solutionOf(own, nothing)).toBe('meeting at −5, at −60°, 60°, 180°');
  });

  test('are not there where as many zeros as poles are', () => {
    const none = { ...part, what: 'asymptotes' as const, of: '(s + 2)/(s + 1)' };
    expect(examine({ ...exercise, parts: [none] })[0]!.message).toMatch(/^There are none/);
  });
});

test('the student gets the loop where its poles are not what is asked, and nothing else', () => {
  const shown = (what: PointsPart['what']) => studentPart(exercise, { ...part, what }, {}, nothing.scope);
  expect(shown('breakPoints')).toMatchObject({ loop: '((s+3)/(s^4+4*s^3+10*s^2+12*s+5))' });
  expect(shown('poles')).not.toHaveProperty('loop');
});

test('a set that is empty is found before publishing', () => {
  const none = { ...part, what: 'breakPoints' as const, of: '1/(s + 1)' };
  expect(examine({ ...exercise, parts: [none] }).map(({ message }) => message)[0]).toMatch(
    /^There are none of these points here\./,
  );
});
