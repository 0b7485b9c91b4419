import type { SignalName } from '../src/exercise/names';
import { measuresOf, systemOf, transferOf, withDeadTime } from '../src/index';
import type { InputName } from '../src/loop/controlLoop';
import { LoopModel } from '../src/loop/model';
import { largestOf } from '../src/quantity/subject';
import { respond } from '../src/response/respond';
import { randomNumbers } from './random';

interface Loop {
  readonly plant: string;
  readonly gains: Record<string, string>;
  readonly limits?: { low: string; high: string; trackingTime?: string };
}

function subjectOf({ plant, gains, limits }: Loop, signal: SignalName = 'y', input: InputName = 'r') {
  const ladder = (name: 'Kp' | 'Ki' | 'Kd') => ({ name, start: 1, fine: 0.1, coarse: 1 });
  const model = new LoopModel(
    {
      plant,
      controller: { terms: 'PI', form: 'parallel', gains: [ladder('Kp'), ladder('Ki')] },
      horizon: 10,
      ...(limits ? { limits } : {}),
    },
    { names: new Map() },
  );
  return model.subject(model.loopWith(gains), signal, input);
}

describe('a loop with limits that it never meets', () => {
  test.each([
    ['1/(s+1)', { Kp: '4', Ki: '0.1' }],
    ['1/(s^2+0.02*s+1)', { Kp: '0.1', Ki: '0.001' }],
    ['2*exp(-0.3*s)/(s+1)', { Kp: '0.8', Ki: '0.5' }],
  ])('gives the linear result exactly: %s', (plant, gains) => {
    const limits = { low: '-10', high: '10' };
    for (const signal of ['y', 'e', 'u'] as const) {
      for (const input of ['r', 'd'] as const) {
        const [limited, linear] = [
          { plant, gains, limits },
          { plant, gains },
        ].map((of) => subjectOf(of, signal, input));
        expect(limited!.measures).toEqual(linear!.measures);
        expect(limited!.largest).toBe(linear!.largest);
      }
    }
  });

  test('settles however slow its last mode is', () => {
    const found = subjectOf({ plant: '1/(s+1)', gains: { Kp: '4', Ki: '0.1' }, limits: { low: '-10', high: '10' } });
    expect(found.measures.settlingTime).toBeCloseTo(114.058, 2);
  });
});

describe('a loop that meets its limits', () => {
  const slow = { plant: '1/(s+1)', gains: { Kp: '4', Ki: '0.1' } };

  test('and leaves them goes on in its own modes', () => {
    const found = subjectOf({ ...slow, limits: { low: '-2', high: '2' } });
    // Until y = 0.5 about, u is 2; then the slow mode at −0.0202 decides.
    expect(found.stable).toBe(true);
    expect(found.measures.finalValue).toBeCloseTo(1, 12);
    expect(found.measures.settlingTime).toBeCloseTo(113.774, 2);
  });

  test.each([
    ['without tracking', undefined],
    ['with tracking', '1'],
  ])('for good rests there, %s', (_how, trackingTime) => {
    const limits = { low: '-0.5', high: '0.5', ...(trackingTime ? { trackingTime } : {}) };
    const [y, u] = (['y', 'u'] as const).map((signal) => subjectOf({ ...slow, limits }, signal));
    expect([y!.stable, y!.measures.finalValue]).toEqual([true, expect.closeTo(0.5, 9)]);
    expect([u!.stable, u!.measures.finalValue, u!.largest]).toEqual([
      true,
      expect.closeTo(0.5, 9),
      expect.closeTo(0.5, 9),
    ]);
  });

  test('lightly damped settles', () => {
    const limits = { low: '-0.6', high: '1' };
    const found = subjectOf({ plant: '1/(s^2+0.02*s+1)', gains: { Kp: '0.5', Ki: '0.004' }, limits });
    expect(found.measures.settlingTime).toBeGreaterThan(1000);
  });

  test('and runs away from them does not settle', () => {
    const limits = { low: '-1.2', high: '0.5' };
    expect(subjectOf({ plant: '1/(s-1)', gains: { Kp: '4', Ki: '0.1' }, limits }).stable).toBe(false);
  });

  test('an effort that starts at its limit has its peak there', () => {
    const limits = { low: '-1', high: '1', trackingTime: '1' };
    const found = subjectOf({ plant: '1/(s^2+s+1)', gains: { Kp: '6', Ki: '0.8' }, limits }, 'u');
    expect(found.measures.peakValue).toBeNull();
    const free = subjectOf({ plant: '2/(s^2+s+1)', gains: { Kp: '6', Ki: '0.8' }, limits }, 'u');
    expect([free.measures.peakTime, free.measures.peakValue]).toEqual([0, 1]);
  });
});

/** Largest |y| of plant K/(T·s + 1) with dead time under PI control. Method: Runge and Kutta's fourth order, small steps. */
function simulated(
  { K, T, delay, Kp, Ki }: Record<'K' | 'T' | 'delay' | 'Kp' | 'Ki', number>,
  input: InputName,
  limit = Infinity,
): number {
  const step = Math.min(T, delay || T) / 400;
  const lag = Math.round(delay / step);
  const [r, d] = input === 'r' ? [1, 0] : [0, 1];
  const past: number[] = [];
  let [y, integral, largest] = [0, 0, 0];
  const clipped = (u: number) => Math.max(-limit, Math.min(limit, u));
  for (let k = 0; k * step < 60 * T; k++) {
    past.push(clipped(Kp * (r - y) + integral));
    const delayedAt = (share: number) => {
      const at = k - lag + share;
      const low = Math.floor(at);
      const value = (index: number) => (index < 0 ? 0 : past[Math.min(index, past.length - 1)]!) + (index < 0 ? 0 : d);
      return lag === 0 ? clipped(Kp * (r - y) + integral) + d : value(low) + (at - low) * (value(low + 1) - value(low));
    };
    const slope = (of: number, share: number) => (K * delayedAt(share) - of) / T;
    const a = slope(y, 0);
    const b = slope(y + (step * a) / 2, 0.5);
    const c = slope(y + (step * b) / 2, 0.5);
    const e = slope(y + step * c, 1);
    const next = y + (step * (a + 2 * b + 2 * c + e)) / 6;
    integral += step * Ki * (r - (y + next) / 2);
    y = next;
    largest = Math.max(largest, Math.abs(y));
  }
  return largest;
}

describe('the largest value', () => {
  const random = randomNumbers(20);
  const between = (from: number, to: number) => Number((from + random() * (to - from)).toPrecision(3));
  const loops = Array.from({ length: 12 }, () => {
    const [K, T, delay] = [between(0.5, 3), between(1, 4), between(0.1, 0.6)];
    const Kp = between(0.3, 0.8) * (T / (K * delay));
    return { K, T, delay, Kp, Ki: Kp / (T * between(1, 4)) };
  });

  test.each(loops)('after a disturbance of a loop with dead time is found inside the pieces: %j', (loop) => {
    const { K, T, delay, Kp, Ki } = loop;
    const plant = `${K}*exp(-${delay}*s)/(${T}*s+1)`;
    const found = subjectOf({ plant, gains: { Kp: String(Kp), Ki: String(Ki) } }, 'y', 'd');
    expect(found.largest! / simulated(loop, 'd') - 1).toBeCloseTo(0, 2.5);
    // And never below what the response itself shows.
    const motion = respond(found.transfer);
    let seen = 0;
    for (let k = 0; k <= 3000; k++) seen = Math.max(seen, Math.abs(motion.at((12 * T * k) / 3000)));
    expect(found.largest!).toBeGreaterThanOrEqual(seen * (1 - 1e-6));
  });

  test.each(loops.slice(0, 6))('with limits too: %j', (loop) => {
    const { K, T, Kp, Ki } = loop;
    const limit = Number((1.3 / K).toPrecision(3));
    const of = { plant: `${K}/(${T}*s+1)`, gains: { Kp: String(Kp), Ki: String(8 * Ki) } };
    const found = subjectOf({ ...of, limits: { low: String(-limit), high: String(limit) } });
    expect(found.largest! / simulated({ ...loop, delay: 0, Ki: 8 * Ki }, 'r', limit) - 1).toBeCloseTo(0, 2.5);
  });

  test('of the loop that was found wrong', () => {
    const loop = { plant: '1.64*exp(-0.454*s)/(2.93*s+1)', gains: { Kp: '2.67', Ki: '0.267' } };
    expect(subjectOf(loop, 'y', 'd').largest).toBeCloseTo(0.362207, 5);
  });
});

test('the peak of a response that only rises is its final value, found at once', () => {
  expect(largestOf(transferOf('0.3/(s+1)'))).toBeCloseTo(0.3, 12);
});

test.each([
  ['starts beyond 10 % and falls below zero', '(s^2-2*s+2)/(s^2+s+1)', 0],
  ['starts at zero and goes the wrong way', '(2-s)/(s^2+s+1)', null],
])('undershoot of a response that %s', (_what, text, wanted) => {
  const found = measuresOf(systemOf(withDeadTime(transferOf(text))!.fraction)).undershootPercent!;
  if (wanted === null) expect(found).toBeGreaterThan(5);
  else expect(found).toBe(wanted);
});
