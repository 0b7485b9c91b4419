import fc from 'fast-check';
import { fitFraction, fitFrequency, fitStep } from '../src/design/fit';
import type { StructureName } from '../src/design/structures';
import {
  coefficientsOf,
  controllerOf,
  convertController,
  delayed,
  fractionOf,
  gainZeroPoleToLatex,
  isLoopStable,
  isSameFraction,
  leadLag,
  magnitudeAndPhase,
  marginsOf,
  matchPolynomial,
  respond,
  sensitivityPeak,
  systemOf,
  timeConstantToLatex,
  transferOf,
  tunedStart,
} from '../src/index';
import { type Matrix, multiplyMatrices } from '../src/rational/matrix';
import { addRational, negateRational, rational, rationalFromNumber, rationalToNumber } from '../src/rational/number';
import { coefficients, multiply, s } from '../src/rational/polynomial';
import { toParallel, weightedController } from '../src/system/controller';
import { fractionFromRoots, polynomialFromRoots, standardSecondOrder } from '../src/system/forms';
import { fractionOfStates, placePoles, statesOf, stateSpaceOf, structureOf } from '../src/system/stateSpace';
import { inSeries } from '../src/system/transfer';

const examples = [
  '1/(s+2)',
  '(s+3)/(s^2+3s+2)',
  '(2s^2+1)/((s+1)^3)',
  '5/(s^2+0.4s+9)',
  '(s-1)/(s^2*(s+4))',
  '(3s+1)/(s+2)',
];

describe('state space', () => {
  test.each(examples)('%s and back, in every form', (text) => {
    const fraction = fractionOf(text);
    for (const form of ['controllable', 'observable', 'modal'] as const) {
      const back = coefficientsOf(fractionOfStates(stateSpaceOf(statesOf(fraction, form))));
      const wanted = coefficientsOf(fraction);
      expect(back.denominator).toHaveLength(wanted.denominator.length);
      wanted.denominator.forEach((c, k) => expect(back.denominator[k]).toBeCloseTo(c, 9));
      const padded = (list: number[]) => [...new Array<number>(10 - list.length).fill(0), ...list];
      padded(wanted.numerator).forEach((c, k) => expect(padded(back.numerator)[k]).toBeCloseTo(c, 8));
    }
  });

  test('repeated pairs stand in Jordan blocks', () => {
    const { a, b, c } = statesOf(fractionOf('(s+7)/((s^2+2s+5)^2*(s+1)^2)'), 'modal');
    expect([a.length, b.length, c[0]!.length]).toEqual([6, 6, 6]);
    const back = fractionOfStates(stateSpaceOf({ a, b, c, d: [[0]] }));
    const [got, want] = [coefficientsOf(back), coefficientsOf(fractionOf('(s+7)/((s^2+2s+5)^2*(s+1)^2)'))];
    want.denominator.forEach((value, k) => expect(got.denominator[k]).toBeCloseTo(value, 9));
  });

  test('controllability and observability are exact and dual', () => {
    const plain = stateSpaceOf({
      a: [
        [0, 1],
        [-2, -3],
      ],
      b: [[0], [1]],
      c: [[1, 0]],
      d: [[0]],
    });
    expect(structureOf(plain)).toMatchObject({ order: 2, controllable: true, observable: true });
    // The zero at −1 cancels a pole: the controllable form hides it from the output, the observable from the input.
    const hidden = {
      a: [
        [0, 1],
        [-2, -3],
      ],
      b: [[0], [1]],
      c: [[1, 1]],
      d: [[0]],
    };
    expect(structureOf(stateSpaceOf(hidden))).toMatchObject({
      controllable: true,
      observable: false,
      observabilityRank: 1,
    });
    const dual = {
      a: [
        [0, -2],
        [1, -3],
      ],
      b: [[1], [1]],
      c: [[0, 1]],
      d: [[0]],
    };
    expect(structureOf(stateSpaceOf(dual))).toMatchObject({ controllable: false, observable: true });
  });

  test('placed poles are the poles of A − B·k', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 12, maxLength: 12 }),
        fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 3, maxLength: 3 }),
        (entries, poles) => {
          const a = [entries.slice(0, 3), entries.slice(3, 6), entries.slice(6, 9)];
          const b = entries.slice(9, 12).map((value) => [value]);
          const states = stateSpaceOf({ a, b, c: [[1, 0, 0]], d: [[0]] });
          if (!structureOf(states).controllable) return;
          const wanted = polynomialFromRoots(poles.map((re) => ({ re, im: 0 })));
          const k = placePoles(states, wanted);
          const closed: Matrix = multiplyMatrices(states.b, [k]).map((row, i) =>
            row.map((value, j) => addRational(states.a[i]![j]!, negateRational(value))),
          );
          expect(fractionOfStates({ ...states, a: closed }).denominator).toEqual(wanted);
        },
      ),
    );
  });

  test('several inputs and outputs are picked by number', () => {
    const states = stateSpaceOf({
      a: [
        [-1, 0],
        [0, -2],
      ],
      b: [
        [1, 0],
        [0, 1],
      ],
      c: [
        [1, 1],
        [0, 3],
      ],
      d: [
        [0, 0],
        [0, 5],
      ],
    });
    expect(isSameFraction(fractionOfStates(states, 0, 0), fractionOf('1/(s+1)'))).toBe(true);
    expect(isSameFraction(fractionOfStates(states, 1, 1), fractionOf('5+3/(s+2)'))).toBe(true);
    expect(() => fractionOfStates(states, 2, 0)).toThrow('2 inputs and 2 outputs');
  });
});

describe('other forms', () => {
  test('gain, zeros and poles; standard second order', () => {
    const fraction = fractionFromRoots(
      6,
      [{ re: -0.4, im: 0 }],
      [
        { re: -1.5, im: 2.5 },
        { re: -1.5, im: -2.5 },
      ],
    );
    expect(isSameFraction(fraction, fractionOf('6(s+0.4)/(s^2+3s+8.5)'))).toBe(true);
    expect(isSameFraction(standardSecondOrder(3, 0.3, rational(2n)), fractionOf('12/(s^2+1.2s+4)'))).toBe(true);
  });

  test.each([
    [
      '3/(s*(s+0.5)*(s^2+1.2s+4))',
      '\\frac{3}{\\left(s^{2}+1.2\\,s+4\\right)\\left(s+0.5\\right)s}',
      '\\frac{1.5}{\\left(1+0.3\\,s+0.25\\,s^{2}\\right)\\left(1+2\\,s\\right)s}',
    ],
    [
      '-(s-2)/(s+1)^2',
      '\\frac{-\\left(s-2\\right)}{\\left(s+1\\right)^{2}}',
      '\\frac{2\\,\\left(1-0.5\\,s\\right)}{\\left(1+s\\right)^{2}}',
    ],
    ['5', '5', '5'],
  ])('%s as gain, zeros and poles and by time constants', (text, gainZeroPole, timeConstants) => {
    const system = systemOf(fractionOf(text));
    expect(gainZeroPoleToLatex(system)).toBe(gainZeroPole);
    expect(timeConstantToLatex(system)).toBe(timeConstants);
  });
});

describe('controllers', () => {
  const numbers = fc.integer({ min: 1, max: 60 }).map((k) => rational(BigInt(k), 8n));

  test('every form that exists is the same controller', () => {
    fc.assert(
      fc.property(numbers, numbers, numbers, (Kp, Ti, Td) => {
        const series = { form: 'series', Kp, Ti, Td } as const;
        const parallel = toParallel(series);
        for (const form of ['parallel', 'ideal', 'series'] as const) {
          const back = toParallel(convertController(series, form));
          expect(back).toEqual(parallel);
        }
        const ideal = convertController(parallel, 'ideal') as Extract<
          typeof series | { form: 'ideal'; Ti: typeof Ti; Td: typeof Td; Kp: typeof Kp },
          { form: 'ideal' }
        >;
        expect(rationalToNumber(ideal.Ti)).toBeGreaterThanOrEqual(4 * rationalToNumber(ideal.Td) * (1 - 1e-12));
      }),
    );
  });

  test('with a filter every form is still the same controller, the series form with the filter in its own factor', () => {
    fc.assert(
      fc.property(numbers, numbers, numbers, numbers, (Kp, Ti, Td, Tf) => {
        const { Kp: P, Ki, Kd } = toParallel({ form: 'series', Kp, Ti, Td }, Tf);
        const [k, i, d, f] = [Kp, Ti, Td, Tf].map(rationalToNumber);
        const typed = fractionOf(`${k}*(1 + 1/(${i}*s))*(1 + ${d}*s/(${f}*s + 1))`);
        expect(isSameFraction(controllerOf({ Kp: P, Ki, Kd }, Tf), typed)).toBe(true);
        const again = toParallel(convertController({ form: 'parallel', Kp: P, Ki, Kd }, 'series', Tf), Tf);
        const sizes = [again.Kp, again.Ki, again.Kd].map(rationalToNumber);
        [P, Ki, Kd].map(rationalToNumber).forEach((size, n) => expect(sizes[n]).toBeCloseTo(size, 9));
      }),
    );
    const alone = convertController(
      { form: 'parallel', Kp: rational(2n), Ki: rational(1n), Kd: rational(0n) },
      'series',
    );
    expect(alone).toEqual({ form: 'series', Kp: rational(2n), Ti: rational(2n), Td: rational(0n) });
  });

  test('what an ideal controller cannot be in series form is said', () => {
    const ideal = { form: 'ideal', Kp: rational(2n), Ti: rational(1n), Td: rational(1n) } as const;
    expect(() => convertController(ideal, 'series')).toThrow('four times Td');
    const withoutIntegral = convertController(
      { form: 'parallel', Kp: rational(2n), Ki: rational(0n), Kd: rational(1n) },
      'series',
    );
    const hardlyIntegrating = {
      form: 'parallel',
      Kp: rational(6n),
      Ki: rational(1n, 10n ** 300n),
      Kd: rational(2n),
    } as const;
    const series = toParallel(convertController(hardlyIntegrating, 'series'));
    expect(rationalToNumber(series.Kp)).toBeCloseTo(6, 12);
    expect(rationalToNumber(series.Ki)).toBe(1e-300);
    expect(withoutIntegral).toEqual({ form: 'series', Kp: rational(2n), Ti: null, Td: rational(1n, 2n) });
  });

  test('filter and weights', () => {
    const gains = { Kp: rational(3n), Ki: rational(2n), Kd: rational(1n) };
    expect(isSameFraction(controllerOf(gains, rational(1n, 10n)), fractionOf('3+2/s+s/(0.1s+1)'))).toBe(true);
    const weighted = weightedController(
      gains,
      { proportional: rational(1n, 2n), derivative: rational(0n) },
      rational(1n, 10n),
    );
    expect(isSameFraction(weighted, fractionOf('1.5+2/s'))).toBe(true);
    expect(isSameFraction(leadLag(rational(2n), rational(1n), rational(10n)), fractionOf('2(s+1)/(s+10)'))).toBe(true);
  });

  test('matched gains give the wanted polynomial', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -8, max: 8 }), { minLength: 3, maxLength: 3 }), (poles) => {
        const plant = fractionOf('5/(s^2+4s+2)');
        const wanted = polynomialFromRoots(poles.map((re) => ({ re, im: 0 })));
        const gains = matchPolynomial(plant, 'PID', wanted);
        const { numerator, denominator } = controllerOf(gains);
        const fraction = {
          numerator: multiply(numerator, plant.numerator),
          denominator: multiply(denominator, plant.denominator),
        };
        if (gains.Ki.numerator === 0n) fraction.denominator = multiply(fraction.denominator, s);
        if (gains.Ki.numerator === 0n) fraction.numerator = multiply(fraction.numerator, s);
        const closed = { numerator: fraction.numerator, denominator: fraction.denominator };
        const sum = coefficients(closed.denominator).map((c, k, all) => {
          const above = coefficients(closed.numerator);
          return c + (above[k - all.length + above.length] ?? 0);
        });
        const scale = sum[0]!;
        coefficients(wanted).forEach((c, k) => expect(sum[k]! / scale).toBeCloseTo(c, 9));
      }),
    );
    expect(() =>
      matchPolynomial(
        fractionOf('1/(s+1)^3'),
        'PID',
        polynomialFromRoots([-1, -2, -3, -4].map((re) => ({ re, im: 0 }))),
      ),
    ).toThrow('4 coefficients');
  });

  test.each([
    ['exp(-1.2s)/(4s+1)', 'PI', undefined],
    ['exp(-1.2s)/(4s+1)', 'PID', 0.4],
    ['1/((s+1)(s+2)(s+3))', 'PID', undefined],
    ['2/(s*(s+0.6))', 'PD', 3],
    ['1/(s-1)', 'PI', 8],
    ['3/(s+1)', 'P', undefined],
  ] as const)('a tuned start for %s, %s', (plant, form, crossover) => {
    for (const wanted of [1.3, 1.6, 2]) {
      const found = tunedStart(transferOf(plant), form, {
        sensitivityPeak: wanted,
        ...(crossover ? { crossover } : {}),
      });
      const gains = {
        Kp: rationalFromNumber(found.gains.Kp),
        Ki: rationalFromNumber(found.gains.Ki),
        Kd: rationalFromNumber(found.gains.Kd),
      };
      const open = inSeries(delayed(controllerOf(gains)), transferOf(plant));
      expect(isLoopStable(open)).toBe(true);
      expect(sensitivityPeak(open).magnitude).toBeCloseTo(found.sensitivityPeak, 9);
      expect(magnitudeAndPhase(open, [found.crossover]).magnitudesDb[0]).toBeCloseTo(0, 6);
      expect(found.reached).toBe(found.missed === null);
      if (found.reached) expect(found.sensitivityPeak).toBeLessThanOrEqual(wanted * (1 + 1e-6));
      const { phaseMargins } = marginsOf(open);
      expect(found.phaseMarginDegrees).toBeCloseTo(Math.min(...phaseMargins.map((m) => Math.abs(m.degrees))), 9);
      // No term is next to nothing beside the others.
      const { Kp, Ki, Kd } = found.gains;
      expect(Kp).toBeGreaterThan(0.1 * Math.max(Ki / found.crossover, Kd * found.crossover));
      if (crossover) expect(found.crossover).toBe(crossover);
    }
  });

  test('what cannot be had is told', () => {
    const found = tunedStart(transferOf('1/(s+1)^4'), 'P', { crossover: 0.9, sensitivityPeak: 1.2 });
    expect(found).toMatchObject({
      reached: false,
      missed: expect.stringMatching(/at 0\.9 rad\/s .* above 1\.2\./) as string,
    });
  });

  test('bolder is faster', () => {
    const crossoverAt = (peak: number) =>
      tunedStart(transferOf('exp(-s)/(3s+1)'), 'PI', { sensitivityPeak: peak }).crossover;
    expect(crossoverAt(2)).toBeGreaterThan(crossoverAt(1.3));
    expect(() => tunedStart(transferOf('1/s'), 'P', { sensitivityPeak: 1 })).toThrow('more than 1');
  });
});

describe('fitting', () => {
  const models: [StructureName, string, Record<string, number>][] = [
    ['firstOrder', '2/(3s+1)', { K: 2, T: 3 }],
    ['firstOrderDeadTime', '2*exp(-0.7s)/(3s+1)', { K: 2, T: 3, L: 0.7 }],
    ['twoLags', '1.5/((2s+1)(0.4s+1))', { K: 1.5, T1: 2, T2: 0.4 }],
    ['secondOrder', '5/(s^2+0.8s+4)', { K: 1.25, wn: 2, zeta: 0.2 }],
    ['secondOrderDeadTime', '-5*exp(-0.3s)/(s^2+0.8s+4)', { K: -1.25, wn: 2, zeta: 0.2, L: 0.3 }],
    ['integratorDeadTime', '0.4*exp(-1.5s)/s', { K: 0.4, L: 1.5 }],
  ];

  test.each(models)('%s from a step and from a frequency response, noise and all', (structure, text, wanted) => {
    const motion = respond(transferOf(text), { kind: 'step', amplitude: 2 });
    const times = Array.from({ length: 150 }, (_, k) => 0.1 * k);
    const values = times.map((time) => motion.at(time) + 0.004 * Math.sin(37 * time * time));
    const step = fitStep({ times, values, amplitude: 2 }, structure);
    const omegas = Array.from({ length: 50 }, (_, k) => 0.05 * 10 ** (k / 20));
    const { magnitudesDb, phasesDegrees } = magnitudeAndPhase(transferOf(text), omegas);
    const frequency = fitFrequency(
      { omegas, magnitudesDb: [...magnitudesDb], phasesDegrees: [...phasesDegrees] },
      structure,
    );
    for (const [name, value] of Object.entries(wanted)) {
      expect(Math.abs(step.parameters[name]! / value - 1)).toBeLessThan(0.02);
      expect(frequency.parameters[name]! / value).toBeCloseTo(1, 6);
    }
    expect(step.misfit.rms).toBeLessThan(0.0035);
    expect(step.misfit.largest).toBeGreaterThan(step.misfit.rms);
  });

  test('a fraction of given degrees', () => {
    const text = '3(s+2)/((s+0.5)(s^2+0.6s+9))';
    const omegas = Array.from({ length: 60 }, (_, k) => 0.05 * 10 ** (k / 22));
    const { magnitudesDb, phasesDegrees } = magnitudeAndPhase(transferOf(text), omegas);
    const { transfer, misfit } = fitFraction(
      { omegas, magnitudesDb: [...magnitudesDb], phasesDegrees: [...phasesDegrees] },
      1,
      3,
    );
    expect(misfit.largest).toBeLessThan(1e-9);
    const found = coefficientsOf({
      numerator: transfer.numerator[0]!.polynomial,
      denominator: transfer.denominator[0]!.polynomial,
    });
    const wanted = coefficientsOf(fractionOf(text));
    wanted.denominator.forEach((c, k) => expect(found.denominator[k]).toBeCloseTo(c, 7));
  });
});
