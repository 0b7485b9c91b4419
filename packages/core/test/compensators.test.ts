import { answerFromText, checkAnswer, examine, gainMapAt, searchOf, searchSettings } from '../src/checks';
import {
  fractionOf,
  type GainsPart,
  isSameFraction,
  ladderRange,
  lowestTerms,
  modelOf,
  numberFrom,
  type NumberPart,
  parse,
  parseFormula,
  Problem,
} from '../src/index';
import { controllerFrom, startOf } from '../src/loop/controller';
import { exercise, tune } from './documents';

const nothing = modelOf({ systems: [], series: [] }, {});
const rung = { start: 1, fine: 0.1, coarse: 1 };
const compensator: Extract<GainsPart['controller'], { terms: 'compensator' }> = {
  terms: 'compensator',
  form: 'factors',
  largestRatio: 10,
  proper: true,
  gains: [
    { name: 'K', ...rung, start: 4, low: 0, high: 400 },
    { name: 'z1', ...rung, start: -2, low: -20, high: -0.1, optional: true },
    { name: 'p1', ...rung, start: -20, low: -200, high: -0.1, optional: true },
    { name: 'zr', ...rung, start: -1, optional: true },
    { name: 'zi', ...rung, start: 2, optional: true },
    { name: 'pr', ...rung, start: -9, optional: true },
    { name: 'pi', ...rung, start: 1, optional: true },
  ],
};
const part: GainsPart = {
  ...tune,
  plant: '1/(s*(s + 2))',
  controller: compensator,
  views: ['locus'],
  nails: [
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 1 },
    { id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 1.2, points: 1 },
  ],
};
const made = (settings: Record<string, string>, of = compensator) => controllerFrom(of, settings, nothing.scope);
const same = (settings: Record<string, string>, text: string, of = compensator) =>
  isSameFraction(lowestTerms(made(settings, of).fraction), lowestTerms(fractionOf(parse(text), new Map())));

describe('a compensator', () => {
  test('is the product of the places that are there, exactly', () => {
    expect(same({ K: '4' }, '4')).toBe(true);
    expect(same({ K: '4', z1: '-2', p1: '-20' }, '4*(s + 2)/(s + 20)')).toBe(true);
    expect(same({ K: '0.1', zr: '-1', zi: '2', pr: '-9', pi: '1' }, '(s^2 + 2*s + 5)/(10*(s^2 + 18*s + 82))')).toBe(
      true,
    );
    expect(startOf(compensator)).toEqual({ K: '4' });
  });

  test('written by its corners keeps its level at low frequency', () => {
    const corners = { ...compensator, form: 'corners' as const };
    expect(same({ K: '3', z1: '-2', p1: '-20' }, '3*(1 + s/2)/(1 + s/20)', corners)).toBe(true);
    expect(same({ K: '3', pr: '-9', pi: '1' }, '3*82/(s^2 + 18*s + 82)', corners)).toBe(true);
    const free = {
      ...corners,
      gains: [
        { name: 'K', ...rung },
        { name: 'z1', ...rung },
      ],
    } as typeof corners;
    expect(() => made({ K: '1', z1: '0' }, free)).toThrow(/no corner frequency/);
  });

  test('keeps within what the exercise allows, and says what does not', () => {
    expect(() => made({ K: '4', z1: '-1', p1: '-20' })).toThrow('z1 and p1 are 20 times apart; at most 10 is allowed.');
    expect(() => made({ K: '4', z1: '-2' })).toThrow(/at least as many poles as zeros/);
    expect(() => made({ K: '401' })).toThrow('K must lie between 0 and 400.');
    expect(() => made({ K: '4', z1: '2', p1: '-9' })).toThrow('z1 must lie between −20 and −0.1.');
    expect(() => made({})).toThrow(/K is empty/);
  });

  test('is judged by its nails like any controller, from a text as well', () => {
    const answer = answerFromText(part, 'K = 120, z1 = -2, p1 = -14');
    expect(answer).toEqual({ kind: 'gains', gains: { K: '120', z1: '-2', p1: '-14' } });
    const lead = checkAnswer(part, nothing, answer);
    const alone = checkAnswer(part, nothing, { kind: 'gains', gains: { K: '40' } });
    expect([lead.points, alone.points]).toEqual([2, 0]);
  });

  test('is searched for before publishing, its places included', () => {
    const search = searchSettings(
      searchOf({ ...part, controller: { ...compensator, gains: compensator.gains.slice(0, 3) } })!,
      [nothing],
    );
    let step = search.next();
    while (!step.done) step = search.next();
    const found = step.value.draws[0]!.settings!;
    expect(checkAnswer(part, nothing, { kind: 'gains', gains: found }).met).toBe(true);
  });

  test('with more settings than a grid can hold is searched all the same, on points that cover every one of them', () => {
    // Unstable by itself and with any gain alone.
    const hard: GainsPart = {
      ...part,
      plant: '1/(s^2 - s + 4)',
      nails: [{ id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 4, points: 1 }],
    };
    const search = searchSettings(searchOf(hard)!, [nothing]);
    const shares: number[] = [];
    let step = search.next();
    for (; !step.done; step = search.next()) shares.push(step.value);
    const found = step.value.draws[0]!.settings!;
    expect(Object.keys(found)).toHaveLength(7);
    expect(checkAnswer(hard, nothing, { kind: 'gains', gains: found }).met).toBe(true);
    expect(shares.length).toBeGreaterThan(20);
    expect(shares.every((share, k) => k === 0 || share >= shares[k - 1]!)).toBe(true);
    for (const { low, high } of step.value.map.axes) expect(low).toBeLessThan(high);
  });

  test('has a map around an answer, over the gains that it has', () => {
    const lead = gainMapAt(part, nothing, { K: '120', z1: '-2', p1: '-14' });
    expect(lead.axes.map(({ name }) => name)).toEqual(['K', 'z1', 'p1']);
    expect(lead.share).toBeGreaterThan(0);
    const alone = gainMapAt(part, nothing, { K: '40' });
    expect(alone.axes.map(({ name }) => name)).toEqual(['K']);
    // No gain alone is quick and calm enough: the poles have the real part −1 at most.
    expect(alone.share).toBe(0);
    expect(alone.held.every((count) => count >= 0)).toBe(true);
  });

  test('a ladder without limits keeps places of the s-plane on their side', () => {
    expect(ladderRange({ start: -9, coarse: 1 })).toEqual([-21, 0]);
    expect(ladderRange({ start: 2, coarse: 0.5 })).toEqual([0, 8]);
    expect(ladderRange({ start: 2, coarse: 0.5, low: 1, high: 3 })).toEqual([1, 3]);
  });

  test.each([
    [[{ name: 'z1' as const, ...rung }], /has a gain K/],
    [
      [
        { name: 'K' as const, ...rung },
        { name: 'zr' as const, ...rung },
      ],
      /zr and zi go together/,
    ],
    [
      [
        { name: 'K' as const, ...rung },
        { name: 'K' as const, ...rung },
      ],
      /K is there twice/,
    ],
  ])('that makes no sense is refused before publishing', (gains, words) => {
    const wrong = { ...part, controller: { ...compensator, gains } };
    expect(examine({ ...exercise, parts: [wrong] }).map(({ message }) => message)).toContainEqual(
      expect.stringMatching(words),
    );
  });

  test('does not go with limits of the effort', () => {
    const limited = { ...part, limits: { low: '-1', high: '1' } };
    expect(() => checkAnswer(limited, nothing, { kind: 'gains', gains: { K: '4' } })).toThrow(Problem);
  });
});

describe('what formulas say of a locus', () => {
  const value = (formula: string) => numberFrom(parseFormula(formula), nothing.scope);
  const L = '1/(s*(s + 4)*(s + 6))';

  test.each([
    [`centroid(${L})`, -10 / 3],
    [`asymptoteAngle(${L})`, 60],
    [`asymptoteAngle(${L}, 3)`, 300 - 360],
    [`breakPoint(${L})`, (-20 + Math.sqrt(400 - 288)) / 6],
    [`crossingGain(${L})`, 240],
    [`crossingFrequency(${L})`, Math.sqrt(24)],
    [`highestStableGain(${L})`, 240],
    [`lowestStableGain(${L})`, 0],
    [`lowestStableGain((s + 1)/(s*(s - 1)))`, 1],
    [`branches(${L})`, 3],
    ['unstablePoles(1/((s - 1)*(s + 2)))', 1],
    ['encirclements(3/(s - 1))', -1],
    ['encirclements(300/(s*(s + 4)*(s + 6)))', 2],
    ['gainForDamping(1/(s*(s + 2)), 0.5)', 4],
    ['departureAngle((s + 2)/(s^2 + 2*s + 2))', 180 - 90 + 45],
  ])('%s', (formula, expected) => {
    expect(value(formula)).toBeCloseTo(expected, 9);
  });

  test('what is not there is said', () => {
    expect(() => value('breakPoint(1/(s + 1))')).toThrow(/no number 1/);
    expect(() => value('centroid(exp(-s)/(s + 1))')).toThrow(/dead time/);
    expect(() => value('highestStableGain(1/(s - 1)^2)')).toThrow(/no positive gain/);
  });
});

describe('slips about a locus', () => {
  const asked = (formula: string, unit: string, text: string) => {
    const number: NumberPart = {
      ...{ id: 'n', title: '', prompt: '', points: 1 },
      kind: 'number',
      formula,
      unit,
      tolerancePercent: 1,
    };
    return checkAnswer(number, nothing, { kind: 'number', text }).slip?.id;
  };
  const L = '2*(s + 3)/(s*(s + 4)*(s + 6))';

  test.each([
    [`centroid(${L})`, 'rad/s', '3.5', 'sign'],
    [`centroid(${L})`, 'rad/s', '-2.333', 'dividedByN'],
    [`centroid(${L})`, 'rad/s', '-6.5', 'zerosAdded'],
    [`centroid(${L})`, 'rad/s', '-5', 'zerosForgotten'],
    ['breakPoint(1/(s*(s + 4)*(s + 6)))', 'rad/s', '-5.097', 'offLocus'],
    ['crossingGain(2/(s*(s + 4)*(s + 6)))', '', '240', 'ownConstant'],
    ['departureAngle((s + 2)/(s^2 + 2*s + 2))', '°', '-45', 'turnedRound'],
    ['encirclements(3/(s - 1))', '', '1', 'sign'],
  ])('%s %s answered %s is %s', (formula, unit, text, slip) => {
    expect(asked(formula, unit, text)).toBe(slip);
  });
});
