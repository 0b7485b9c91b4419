import fc from 'fast-check';
import { compareFractions } from '../src/checking/compare';
import { checkNails } from '../src/checking/nails';
import { checkAnswer, readAnswer, solutionOf } from '../src/checks';
import {
  type Answer,
  formatNumber,
  formatPoint,
  fractionOf,
  inPoints,
  modelOf,
  type Part,
  systemFrom,
} from '../src/index';
import { TransferSubject } from '../src/quantity/subject';
import { model, overshoot, pid, student, tune } from './documents';

const typed = (text: string): Answer => ({ kind: 'transferFunction', text });
const number = (text: string): Answer => ({ kind: 'number', text });
const gains = (Kp: string, Ki = '0', Kd = '0'): Answer => ({ kind: 'gains', gains: { Kp, Ki, Kd } });

describe('transfer functions', () => {
  // With K = 2, ζ = 0.3, ωn = 3: 18/(s² + 1.8 s + 9).
  test.each([
    '18/(s^2+1.8s+9)',
    '36/(2s^2+3.6s+18)',
    '2/(s^2/9 + 0.2s + 1)',
    'K*wn^2/(s^2+2zeta*wn*s+wn^2)',
    '18(s+4)/((s+4)(s^2+1.8s+9))',
    '2*9/(9 + 1.8 s + s^2)',
    '-18/(-s^2-1.8s-9)',
    '18.1/(s^2+1.81s+9.05)',
  ])('%s is right', (text) => {
    expect(checkAnswer(model, student, typed(text))).toMatchObject({ met: true, points: 4, outOf: 4 });
  });

  test.each([
    ['18/(s^2+0.9s+9)', /denominator, the term in s\./],
    ['18/(s^2+1.8s+3)', /denominator, the constant term/],
    ['9/(s^2+1.8s+9)', /up to a constant factor/],
    ['1/(s^2+1.8s+9)', /up to a constant factor/],
    ['18/(s+9)', /order 1/],
    ['(s+18)/(s^2+1.8s+9)', /degree 1/],
    ['(0.0001s+18)/(s^2+1.8s+9)', /degree 1/],
    ['18.4/(s^2+1.85s+9.2)', /numerator, the constant term; denominator/],
    ['18/(s^2-1.8s+9)', /the term in s/],
  ])('%s is not, and says where', (text, words) => {
    const verdict = checkAnswer(model, student, typed(text));
    expect(verdict).toMatchObject({ met: false, points: 0 });
    expect(verdict.words).toMatch(words);
  });

  test('a wrong answer tells how far its curve is off, an unstable one does not', () => {
    expect(checkAnswer(model, student, typed('9/(s^2+1.8s+9)')).curveDistance).toBeCloseTo(0.69, 1);
    expect(checkAnswer(model, student, typed('18/(s^2-1.8s+9)')).curveDistance).toBeUndefined();
  });

  test('words never hold an expected coefficient', () => {
    expect(checkAnswer(model, student, typed('1/(s^2+1)')).words).not.toMatch(/18|1\.8|9/);
  });

  test('equal forms are equal whatever they are multiplied by', () => {
    const want = fractionOf('18/(s^2+1.8s+9)');
    const factor = fc.integer({ min: -50, max: 50 }).filter((n) => n !== 0);
    fc.assert(
      fc.property(factor, factor, (k, root) => {
        const got = fractionOf(`18*(${k})*(s-(${root}))/((s-(${root}))*(${k})*(s^2+1.8s+9))`);
        expect(compareFractions(got, want, 0).differences).toEqual([]);
      }),
    );
  });

  test('improper answers are refused before they count', () => {
    expect(() => readAnswer(model, student, typed('s^3/(s+1)'))).toThrow(/more zeros than poles/);
  });
});

describe('numbers', () => {
  const expected = 100 * Math.exp((-Math.PI * 0.3) / Math.sqrt(1 - 0.09));

  test.each([`${expected}`, `${expected * 1.029} %`, `${expected * 0.971}%`, '37.2'])(
    '%s is within the tolerance',
    (text) => {
      expect(checkAnswer(overshoot, student, number(text)).met).toBe(true);
    },
  );

  test('outside says which way', () => {
    expect(checkAnswer(overshoot, student, number(`${expected * 1.1}`)).words).toContain('too high');
    expect(checkAnswer(overshoot, student, number('0.372')).words).toContain('too low');
  });

  test.each(['', 'many', '3s', '1/0', '12 s'])('“%s” is refused before it counts', (text) => {
    expect(() => readAnswer(overshoot, student, number(text))).toThrow();
  });

  test('the solution is the measure itself', () => {
    expect(solutionOf(overshoot, student)).toBe(`${formatNumber(expected)} %`);
  });
});

describe('gains', () => {
  test('each nail has measured value, limit and points', () => {
    const verdict = checkAnswer(tune, student, gains('14', '4', '5'));
    expect(verdict).toMatchObject({ met: true, points: 4, outOf: 4, words: 'All 3 nails hold.' });
    const offset = verdict.items.find(({ id }) => id === 'offset')!;
    expect(offset).toMatchObject({ measured: 0, limit: 0.01, relation: 'atMost' });
  });

  test('what is missed is said in numbers', () => {
    const verdict = checkAnswer(tune, student, gains('14'));
    expect(verdict.points).toBe(1);
    expect(verdict.words).toMatch(
      /^1 of 3 nails hold\. Overshoot 7\d(\.\d)? %, limit 10 %: 6\d(\.\d)? percentage points too high\.$/,
    );
  });

  test('an unstable loop names its pole and holds no nail', () => {
    const verdict = checkAnswer(tune, student, gains('6', '60', '0.2'));
    expect(verdict).toMatchObject({ met: false, points: 0 });
    expect(verdict.words).toMatch(/^The loop is unstable: pole at .*±.*j\. No nail can hold\.$/);
    expect(verdict.items.every(({ measured }) => measured === null)).toBe(true);
  });

  test('an unstable mode hidden by the controller is found', () => {
    const controller = {
      ...pid,
      terms: 'PD' as const,
      gains: pid.gains.filter(({ name }) => name !== 'Ki'),
    };
    const part = { ...tune, plant: '1/((s-1)*(s+5))', controller };
    const verdict = checkAnswer(part, student, { kind: 'gains', gains: { Kp: '-10', Kd: '10' } });
    expect(verdict.points).toBe(0);
    expect(verdict.words).toContain('hidden because the controller cancels a pole of the plant');
    expect(verdict.slip?.id).toBe('hiddenMode');
    // The plant hides it itself: nobody's controller is to blame.
    const own = checkAnswer({ ...part, plant: '(s-1)/((s-1)*(s+5))' }, student, {
      kind: 'gains',
      gains: { Kp: '3', Kd: '0.1' },
    });
    expect(own.words).toContain('hidden because the plant cancels it itself');
    expect(own.slip).toBeUndefined();
  });

  test.each([gains('14', '', '3'), gains('x'), gains('1e400'), gains('1.500,5')])(
    'gains that are no numbers are refused',
    (answer) => {
      expect(() => readAnswer(tune, student, answer)).toThrow(/number|empty/);
    },
  );

  test('a gain that the controller does not have is refused', () => {
    expect(() => readAnswer(tune, student, { kind: 'gains', gains: { Kp: '1', Ki: '0', Kd: '0', Ti: '1' } })).toThrow(
      /no gain Ti/,
    );
  });

  test('an answer of another kind is refused', () => {
    expect(() => readAnswer(tune, student, typed('1/s'))).toThrow(/another kind/);
  });
});

describe('nails at their limit', () => {
  const subject = new TransferSubject(systemFrom('1/(s+1)', { names: new Map() }));
  const first = { stable: true, subject: () => subject, output: () => null };
  const settle = (limit: number, relation: 'atMost' | 'atLeast' = 'atMost') =>
    checkNails([{ id: 'n', quantity: 'settlingTime', relation, limit, points: 1 }], first)[0]!;
  const exact = Math.log(50);

  test('on the limit holds, just beyond does not', () => {
    expect(settle(exact)).toMatchObject({ met: true, close: true });
    expect(settle(exact * 0.9999)).toMatchObject({ met: false, close: true, points: 0 });
    // One per cent is close, and no more than that.
    expect(settle(exact / 1.009)).toMatchObject({ met: false, close: true });
    expect(settle(exact / 1.02)).toMatchObject({ met: false, close: false });
    expect(settle(exact * 1.02)).toMatchObject({ met: true, close: false });
    expect(settle(exact * 0.9)).toMatchObject({ met: false, close: false });
    expect(settle(exact * 1.1)).toMatchObject({ met: true, close: false });
  });

  test('at least is the other way round', () => {
    expect(settle(exact * 0.9, 'atLeast').met).toBe(true);
    expect(settle(exact * 1.1, 'atLeast').words).toMatch(/s too early\.$/);
  });

  test('a peak that is not there is missed, and said so', () => {
    const [item] = checkNails([{ id: 'n', quantity: 'peakTime', relation: 'atMost', limit: 1, points: 1 }], first);
    expect(item).toMatchObject({ met: false, measured: null });
    expect(item!.words).toContain('the response has none');
  });
});

test('a check is pure: again and again the same verdict', () => {
  const answer = gains('14', '6', '3.1');
  expect(checkAnswer(tune, student, answer)).toEqual(checkAnswer(tune, student, answer));
});

test('numbers for people', () => {
  expect([0.16234, 12.44, 1234.5, 0.00001234, 1e-12, -0.5, Infinity].map(formatNumber)).toEqual([
    '0.162',
    '12.4',
    '1235',
    '1.23e−5',
    '0',
    '−0.5',
    '∞',
  ]);
  expect(formatPoint({ re: -0.4, im: 2.1 })).toBe('−0.4 ± 2.1j');
  expect(formatPoint({ re: -3, im: 0 })).toBe('−3');
  expect(formatPoint({ re: 0, im: 1 })).toBe('± 1j');
});

describe('points', () => {
  test.each([
    [100.5, '100.5 points'],
    [0.1 + 0.2, '0.3 points'],
    [1 / 3, '0.33 points'],
    [1, '1 point'],
    [1234.25, '1234.25 points'],
  ])('%d keep the decimals that they have: %s', (value, words) => expect(inPoints(value)).toBe(words));

  test('shares of a whole leave no dust', () => {
    const part: Part = {
      ...{
        id: 'poles',
        title: 'Poles',
        prompt: '',
        kind: 'points',
        points: 0.7,
        of: '1/((s+1)*(s+2)*(s+4))',
        what: 'poles',
      },
      ...{ tolerancePercent: 2 },
    };
    const verdict = checkAnswer(part, student, { kind: 'points', text: '-1, -2, -4' });
    expect([verdict.points, verdict.outOf]).toEqual([0.7, 0.7]);
  });
});

describe('angles', () => {
  const angle = (formula: string, more = {}): Part => ({
    ...{ id: 'a', title: 'Angle', prompt: '', kind: 'number', points: 1, formula, unit: '°', tolerancePercent: 2 },
    ...more,
  });
  const met = (of: Part, text: string) => checkAnswer(of, student, number(text)).met;

  test.each([
    ['0.001', '0.9', true],
    ['0.001', '1.2', false],
    ['-135', '225', true],
    ['-135', '225.8°', true],
    ['179.6', '-179.9', true],
    ['-135', '-45', false],
    ['-135', '-135 deg', true],
    ['300', '303', false],
  ])('of %s, answered %s: %s', (formula, text, right) => expect(met(angle(formula), text)).toBe(right));

  test('within what the part says, in degrees or radians', () => {
    expect(met(angle('-135', { toleranceAbsolute: 3 }), '222.5')).toBe(true);
    const radians = angle('-pi/2', { unit: 'rad' });
    expect(met(radians, '4.712')).toBe(true);
    expect(met(radians, '4.68')).toBe(false);
    expect(checkAnswer(angle('-135'), student, number('225')).words).toBe('225 °: right, within 1 °.');
  });
});

describe('a factor that cancels for one student’s numbers', () => {
  // With b = a the zero cancels a pole.
  const part: Part = { ...model, expected: 'K*(s+a)/((s+b)*(s^2+1.8*s+9.13))', tolerancePercent: 1 };
  const own = (b: string) => modelOf({ systems: [], series: [] }, { K: '2', a: '1.37', b });
  const met = (text: string, b = '1.37') => checkAnswer(part, own(b), typed(text)).met;

  test.each([
    '2(s+1.37)/((s+1.37)(s^2+1.8s+9.13))',
    '2/(s^2+1.8s+9.13)',
    '(2s+2.74)/(s^3+3.17s^2+11.6s+12.5)',
    '(2s+2.74)/(s^3 + 3.17 s^2 + 11.6 s + 12.51)',
    '2(s+1.37)/((s+1.37)(s^2+1.8s+9.13))',
  ])('may be kept, rounded, or taken out: %s', (text) => expect(met(text)).toBe(true));

  test('is no excuse for another system', () => {
    expect(met('(2s+2.74)/(s^3+3.17s^2+12.6s+12.5)')).toBe(false);
    expect(met('(2s+2.9)/(s^3+3.17s^2+11.6s+12.5)')).toBe(false);
    expect(met('2/(s^2+1.8s+9.13)', '1.5')).toBe(false);
  });
});
