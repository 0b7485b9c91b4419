import fc from 'fast-check';
import {
  curveOf,
  errorIntegrals,
  fractionOf,
  freeMotion,
  type Input,
  limitedLoop,
  measuresOfTransfer,
  peakOfResponse,
  respond,
  steadyStateOf,
  type Transfer,
  transferOf,
  unityFeedback,
} from '../src/index';

const at = (text: string | Transfer, input: Input, times: number[]) => {
  const motion = respond(typeof text === 'string' ? transferOf(text) : text, input);
  return times.map((time) => motion.at(time));
};
const times = [0.05, 0.3, 1, 2.7, 6];
const systems = [
  '2/(s^2+1.2s+4)',
  '(s+3)/((s+1)^2*(s+5))',
  '(2-s)/(s^2+2.5s+2)',
  '1/(s-0.3)',
  '5/(s*(s+2))',
  '3*exp(-0.4s)/(s+1)',
  '1e5/((s+1)(s+1e5))',
  '1/((s+1)(s+1.000001))',
];

function expectClose(found: readonly number[], wanted: readonly number[], share: number): void {
  const size = Math.max(...wanted.map(Math.abs), 1e-12);
  found.forEach((value, k) => expect(Math.abs(value - wanted[k]!)).toBeLessThanOrEqual(share * size));
}

describe('inputs', () => {
  test.each(systems)('%s: each response is the slope of the next', (text) => {
    const kinds = ['impulse', 'step', 'ramp', 'parabola'] as const;
    for (let k = 0; k + 1 < kinds.length; k++) {
      const [lower, upper] = [kinds[k]!, kinds[k + 1]!].map((kind) => respond(transferOf(text), { kind }));
      const slope = upper!.derivative();
      expectClose(
        times.map((time) => slope.at(time)),
        times.map((time) => lower!.at(time)),
        1e-9,
      );
    }
  });

  test('amplitude, time and levels', () => {
    const plain = at('2/(s^2+1.2s+4)', { kind: 'step' }, times);
    const later = times.map((time) => time + 1.5);
    expectClose(
      at('2/(s^2+1.2s+4)', { kind: 'step', amplitude: -3, at: 1.5 }, later),
      plain.map((y) => -3 * y),
      1e-12,
    );
    expect(at('2/(s^2+1.2s+4)', { kind: 'step', at: 1.5 }, [1.4])).toEqual([0]);
    expectClose(
      at('2/(s^2+1.2s+4)', { kind: 'levels', from: 4, to: 6, at: 1.5 }, later),
      plain.map((y) => 2 + 2 * y),
      1e-12,
    );
    expect(at('2/(s^2+1.2s+4)', { kind: 'levels', from: 4, to: 6, at: 1.5 }, [0, 1])).toEqual([2, 2]);
    expect(() => at('1/s', { kind: 'levels', from: 1, to: 2 }, [0])).toThrow('A system that integrates');
  });

  test('samples of a ramp are the ramp, held samples are steps', () => {
    const points = Array.from({ length: 30 }, (_, k) => 0.25 * k);
    const system = '2/(s^2+1.2s+4)';
    expectClose(
      at(system, { kind: 'samples', times: points, values: points }, times),
      at(system, { kind: 'ramp' }, times),
      1e-12,
    );
    const held = at(system, { kind: 'samples', times: [0, 1, 2], values: [1, -1, 0], hold: true }, times);
    const step = respond(transferOf(system));
    const sum = times.map((t) => step.at(t) - 2 * (t >= 1 ? step.at(t - 1) : 0) + (t >= 2 ? step.at(t - 2) : 0));
    expectClose(held, sum, 1e-12);
  });

  test('a motion from initial conditions starts there and keeps to the equation', () => {
    const motion = freeMotion(fractionOf('1/(s^3+2s^2+5s+4)'), [1, -2, 3]);
    const [first, second] = [motion.derivative(), motion.derivative().derivative()];
    expect([motion.at(0), first.at(0), second.at(0)].map((x) => Number(x.toFixed(9)))).toEqual([1, -2, 3]);
    const third = second.derivative();
    for (const t of times)
      expect(third.at(t) + 2 * second.at(t) + 5 * first.at(t) + 4 * motion.at(t)).toBeCloseTo(0, 9);
    expect(() => freeMotion(fractionOf('1/(s+1)'), [1, 2])).toThrow('1 numbers here');
  });

  test('an impulse leaves out its own impulse', () => {
    expectClose(at('(s+3)/(s+1)', { kind: 'impulse' }, [0, 1]), [2, 2 * Math.exp(-1)], 1e-12);
  });

  test('poles a millionth apart are as exact as one double pole', () => {
    const exact = (t: number) => 1 - (1 + t) * Math.exp(-t);
    expectClose(at('1/((s+1)(s+1.000001))', { kind: 'step' }, times), times.map(exact), 2e-6);
    // Between both the difference is of the order of the distance; a lost digit would show at 1e-8.
    const apart = respond(transferOf('1/((s+1)(s+1.00000001))'));
    times.forEach((t) => expect(Math.abs(apart.at(t) - exact(t))).toBeLessThan(2e-8));
  });
});

describe('dead time in loops', () => {
  /** y′ = (−y + K·(1 − y(t − T)))/tau by the method of steps with small Runge–Kutta steps on a grid that meets T. */
  function simulated(gain: number, tau: number, delay: number, until: number): (t: number) => number {
    const perDelay = 2000;
    const h = delay / perDelay;
    const values = [0];
    const past = (k: number) => (k < 0 ? null : values[k]!);
    for (let k = 0; k * h < until; k++) {
      const error = (offset: number) => {
        const at = k - perDelay + offset;
        // Just before the dead time is over, nothing has come through yet.
        if (at < 0 || (at === 0 && offset > 0)) return 0;
        const [low, high] = [past(Math.floor(at)), past(Math.ceil(at))];
        return 1 - (low! + high!) / 2;
      };
      const slope = (y: number, e: number) => (-y + gain * e) / tau;
      const y = values[k]!;
      const k1 = slope(y, error(0));
      const k2 = slope(y + (h / 2) * k1, error(0.5));
      const k3 = slope(y + (h / 2) * k2, error(0.5));
      const k4 = slope(y + h * k3, error(1));
      values.push(y + (h / 6) * (k1 + 2 * k2 + 2 * k3 + k4));
    }
    return (t) => values[Math.round(t / h)]!;
  }

  test.each([
    [1.5, 4, 1.2],
    [0.9, 1, 3],
    [-0.6, 0.5, 1],
    [3, 1, 0.5],
  ])('K = %d, τ = %d, T = %d agree with small steps', (gain, tau, delay) => {
    const motion = respond(unityFeedback(transferOf(`${gain}*exp(-${delay}*s)/(${tau}s+1)`)));
    // The input itself is delayed too: y moves first at T.
    const other = simulated(gain, tau, delay, 7 * delay);
    for (const share of [0.25, 1, 1.75, 3, 5.5, 6]) {
      const t = share * delay;
      expect(Math.abs(motion.at(t) - other(t))).toBeLessThan(1e-6);
    }
  });

  test('loops without a lag move in jumps', () => {
    const motion = respond(unityFeedback(transferOf('0.5*exp(-s)')));
    [0, 0.5, 0.25, 0.375].forEach((value, k) => expect(motion.at(k + 0.5)).toBeCloseTo(value, 9));
  });

  test('two dead times without a common unit', () => {
    const two = (a: string, b: string) => unityFeedback(transferOf(`0.4*exp(-${a}*s)/(s+1)+0.3*exp(-${b}*s)/(2s+1)`));
    const [exact, near] = [two('0.7', '1.1'), two('0.7000001', '1.1000001')];
    const [a, b] = [respond(exact), respond(near)];
    for (const t of [1, 3, 7]) expect(a.at(t)).toBeCloseTo(b.at(t), 5);
  });

  test('a sum of two delayed parts, without a loop', () => {
    const found = measuresOfTransfer(transferOf('exp(-s)/(s+1)+3*exp(-2.0001s)'));
    expect(found).toMatchObject({ stable: true, finalValue: 4, overshootPercent: 0 });
    expect(found.delayTime).toBeCloseTo(2.0001, 9);
    expect(found.settlingTime).toBeCloseTo(1 + Math.log(1 / 0.08), 9);
  });

  test('measures settle on the final value and see the dead time', () => {
    const found = measuresOfTransfer(unityFeedback(transferOf('0.5*exp(-3s)/(s+1)')));
    expect(found).toMatchObject({ stable: true, undershootPercent: 0 });
    expect(found.finalValue).toBeCloseTo(1 / 3, 12);
    expect(found.settlingTime).toBeGreaterThan(6);
    const open = measuresOfTransfer(transferOf('2*exp(-3s)/(s+1)'));
    expect(open.time63).toBeCloseTo(4, 9);
    expect(open.riseTime).toBeCloseTo(Math.log(9), 9);
    expect(open.settlingTime).toBeCloseTo(3 + Math.log(50), 9);
    expect(measuresOfTransfer(unityFeedback(transferOf('5*exp(-3s)/(s+1)'))).stable).toBe(false);
  });
});

describe('measures stay with the shape of the response', () => {
  test('time and amplitude scale as they should, with and without dead time', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 30 }),
        fc.integer({ min: 2, max: 9 }),
        fc.constantFrom(0, 0.3),
        (k, zeta, delay) => {
          const of = (c: number, gain: number) =>
            measuresOfTransfer(transferOf(`${gain}*exp(-${delay * c}*s)/((${c}s)^2+${0.2 * zeta}*(${c}s)+1)`));
          const [plain, slow] = [of(1, 1), of(k, -3)];
          expect(slow.overshootPercent).toBeCloseTo(plain.overshootPercent!, 7);
          for (const name of ['riseTime', 'settlingTime', 'settlingTime5', 'delayTime', 'time63'] as const) {
            expect(slow[name]! / k).toBeCloseTo(plain[name]!, 7);
          }
        },
      ),
      { numRuns: 30 },
    );
  });

  test('settling is found on the last crossing, however weak the damping', () => {
    const found = measuresOfTransfer(transferOf('1/(s^2+0.002s+1)'));
    const y = respond(transferOf('1/(s^2+0.002s+1)'));
    expect(Math.abs(y.at(found.settlingTime!) - 1)).toBeCloseTo(0.02, 9);
    for (let k = 1; k < 2000; k++) expect(Math.abs(y.at(found.settlingTime! + k * 0.5) - 1)).toBeLessThan(0.02);
    expect(found.settlingTime).toBeGreaterThan(3900);
  });
});

describe('errors and efforts', () => {
  test('integrals of e^(−at) sin-free errors in closed form', () => {
    // 1/(1 + L) for L = a/s is s/(s + a): e = e^(−at).
    const error = unityFeedback(transferOf('2/s'));
    const found = errorIntegrals({ numerator: transferOf('s/1').numerator, denominator: error.denominator })!;
    expect(found.absolute).toBeCloseTo(1 / 2, 9);
    expect(found.squared).toBeCloseTo(1 / 4, 9);
    expect(found.timeWeighted).toBeCloseTo(1 / 4, 9);
  });

  test('the squared error of a second-order loop in closed form', () => {
    // e for L = w²/(s² + 2ζws): ∫e² = (4ζ² + 1)/(4ζw).
    for (const [zeta, w] of [
      [0.1, 3],
      [0.5, 2],
      [1, 0.7],
      [2, 5],
    ] as const) {
      const open = transferOf(`${w * w}/(s^2+${2 * zeta * w}*s)`);
      const found = errorIntegrals({ numerator: open.denominator, denominator: unityFeedback(open).denominator })!;
      expect(found.squared / ((4 * zeta ** 2 + 1) / (4 * zeta * w))).toBeCloseTo(1, 7);
    }
  });

  test('no integrals where the error stays or grows', () => {
    expect(errorIntegrals(transferOf('(s+1)/(s+2)'))).toBeNull();
    expect(errorIntegrals(transferOf('s/(s-2)'))).toBeNull();
  });

  test('the peak of a response', () => {
    expect(peakOfResponse(transferOf('6(s+1)/(s+2)'))).toEqual({ value: 6, time: 0 });
    const { value, time } = peakOfResponse(transferOf('-4/(s^2+0.8s+4)'))!;
    expect(value).toBeCloseTo(-1 - Math.exp((-Math.PI * 0.2) / Math.sqrt(0.96)), 9);
    expect(time).toBeCloseTo(Math.PI / (2 * Math.sqrt(0.96)), 9);
    expect(peakOfResponse(transferOf('3/(s+1)'))).toEqual({ value: 3, time: Infinity });
    expect(peakOfResponse(transferOf('1/s'))).toBeNull();
  });

  test('steady errors are the limits of the responses', () => {
    for (const [text, kind, name] of [
      ['8/(s^2+3s+2)', 'step', 'stepError'],
      ['10*exp(-0.05s)/(s^2+6s)', 'ramp', 'rampError'],
      ['(4s+4)/(s^3+5s^2)', 'parabola', 'parabolaError'],
    ] as const) {
      const open = transferOf(text);
      const y = respond(unityFeedback(open), { kind });
      const r = { step: 1, ramp: 40, parabola: 800 }[kind];
      expect(r - y.at(40)).toBeCloseTo(steadyStateOf(open)[name]!, 6);
    }
    expect(steadyStateOf(transferOf('s/(s+1)^2'))).toMatchObject({ type: -1, positionConstant: 0, stepError: 1 });
    expect(steadyStateOf(transferOf('-5/s'))).toMatchObject({ closedLoopStable: false, positionConstant: -Infinity });
  });
});

describe('actuator limits', () => {
  const controller = { Kp: 4, Ki: 2, Kd: 1, filterTime: 0.1 };
  const plant = fractionOf('2/(s^2+1.2s)');

  /** The same loop with small Heun steps. */
  function simulated(low: number, high: number, tracking: number | null, delay: number, until: number) {
    const h = 2e-5;
    const past: number[] = [];
    let [x, v, i, d] = [0, 0, 0, 0];
    const slopes = (X: number, V: number, I: number, D: number, k: number) => {
      const demand = 4 * (1 - X) + I + (1 / 0.1) * (1 - X - D);
      const u = Math.min(high, Math.max(low, demand));
      const acting = delay > 0 ? (past[k - Math.round(delay / h)] ?? 0) : u;
      return [
        V,
        -1.2 * V + 2 * acting,
        2 * (1 - X) + (tracking ? (u - demand) / tracking : 0),
        (1 - X - D) / 0.1,
        u,
      ] as const;
    };
    for (let k = 0; k * h < until - h / 2; k++) {
      const a = slopes(x, v, i, d, k);
      past.push(a[4]);
      const b = slopes(x + h * a[0], v + h * a[1], i + h * a[2], d + h * a[3], k);
      [x, v, i, d] = [
        x + (h / 2) * (a[0] + b[0]),
        v + (h / 2) * (a[1] + b[1]),
        i + (h / 2) * (a[2] + b[2]),
        d + (h / 2) * (a[3] + b[3]),
      ];
    }
    return x;
  }

  test.each([
    [1, null, 0],
    [1, 0.5, 0],
    [0.4, 2, 0],
    [1, 0.5, 0.2],
  ])('±%d, tracking time %p, dead time %d agree with small steps', (limit, trackingTime, deadTime) => {
    const { output, effort } = limitedLoop({
      plant,
      deadTime,
      controller: { ...controller, limits: { low: -limit, high: limit }, trackingTime },
      reference: { kind: 'step' },
      horizon: 6,
    });
    for (const t of [1, 3, 6])
      expect(Math.abs(output.at(t) - simulated(-limit, limit, trackingTime, deadTime, t))).toBeLessThan(3e-4);
    for (let t = 0; t < 6; t += 0.05) expect(Math.abs(effort.at(t))).toBeLessThanOrEqual(limit * (1 + 1e-9));
  });

  test('without limits it is the linear loop', () => {
    const { output, effort, error } = limitedLoop({
      plant,
      deadTime: 0,
      controller,
      reference: { kind: 'step' },
      horizon: 5,
    });
    const linear = respond(unityFeedback(transferOf('(4+2/s+s/(0.1s+1))*2/(s^2+1.2s)')));
    for (const t of [0.2, 1, 2.5, 5]) {
      expect(output.at(t)).toBeCloseTo(linear.at(t), 6);
      expect(error.at(t)).toBeCloseTo(1 - linear.at(t), 6);
    }
    expect(effort.at(0)).toBeCloseTo(4 + 10, 9);
  });

  test('a disturbance and set-point weights act where they should', () => {
    const { output } = limitedLoop({
      plant,
      deadTime: 0,
      controller: { ...controller, proportionalWeight: 0, derivativeWeight: 0 },
      reference: { kind: 'step', amplitude: 0 },
      disturbance: { kind: 'step', amplitude: 0.5, at: 1 },
      horizon: 8,
    });
    const linear = respond(transferOf('0.5*(2/(s^2+1.2s))/(1+(4+2/s+s/(0.1s+1))*2/(s^2+1.2s))'));
    for (const t of [1.3, 2, 4]) expect(output.at(t)).toBeCloseTo(linear.at(t - 1), 6);
  });

  test('anti-windup overshoots less', () => {
    const highest = (trackingTime: number | null) => {
      const { output } = limitedLoop({
        plant,
        deadTime: 0,
        controller: { ...controller, limits: { low: -0.3, high: 0.3 }, trackingTime },
        reference: { kind: 'step' },
        horizon: 20,
      });
      return Math.max(...Array.from({ length: 400 }, (_, k) => output.at(k * 0.05)));
    };
    expect(highest(0.5)).toBeLessThan(highest(null) - 0.1);
  });
});

describe('curves to draw', () => {
  test('never miss a peak and stay small', () => {
    for (const text of ['1/(s^2+0.1s+1)', '50(s+1)/((s+50)(s^2+s+4))', '3*exp(-0.7s)/(s+1)']) {
      const motion = respond(transferOf(text));
      const curve = curveOf(motion, 20, 1e-3);
      expect(curve.times.length).toBeLessThan(1200);
      for (let k = 0; k < 2000; k++) {
        const t = (20 * (k + 0.5)) / 2000;
        const i = curve.times.findIndex((time) => time >= t);
        const [a, b] = [i - 1, i];
        const share = (t - curve.times[a]!) / (curve.times[b]! - curve.times[a]!);
        const drawn = curve.values[a]! + share * (curve.values[b]! - curve.values[a]!);
        const nearJump = text.includes('exp') && Math.abs(t - 0.7) < 0.2;
        if (!nearJump) expect(Math.abs(drawn - motion.at(t))).toBeLessThan(5e-3);
      }
    }
  });
});
