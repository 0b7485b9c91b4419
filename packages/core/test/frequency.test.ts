import fc from 'fast-check';
import { isStable } from '../src/frequency/stability';
import {
  bandwidthOf,
  closedLoopPeak,
  countEncirclements,
  delayed,
  fractionOf,
  isLoopStable,
  magnitudeAndPhase,
  marginsOf,
  plotFrequencies,
  sensitivityPeak,
  systemOf,
  transferOf,
  unityFeedback,
} from '../src/index';
import { lowestTerms } from '../src/rational/fraction';
import { add, isHurwitz } from '../src/rational/polynomial';

const root = fc.integer({ min: -40, max: 15 }).map((k) => k / 8);
const pair = fc.tuple(
  root,
  fc.integer({ min: 1, max: 40 }).map((k) => k / 8),
);
const factors = (roots: number[], pairs: [number, number][]) =>
  [...roots.map((a) => `(s-(${a}))`), ...pairs.map(([a, b]) => `((s-(${a}))^2+${b ** 2})`)].join('*') || '1';
/** Strictly proper or biproper loops with poles and zeros anywhere, some at the origin. */
const loop = fc
  .tuple(
    fc.array(root, { maxLength: 2 }),
    fc.array(pair, { maxLength: 1 }),
    fc.array(root, { maxLength: 2 }),
    fc.array(pair, { minLength: 1, maxLength: 2 }),
    fc.nat(2),
    fc.integer({ min: -30, max: 60 }),
  )
  .map(([zeros, zeroPairs, poles, pairs, origin, gain]) => {
    const extra = Math.max(0, zeros.length + 2 * zeroPairs.length - poles.length - 2 * pairs.length - origin);
    return `(${gain || 1})*${factors(zeros, zeroPairs)}/(s^${origin + extra}*${factors(poles, pairs)})`;
  });

describe('stability by the encirclement count', () => {
  test('agrees with Routh for every loop without dead time', () => {
    fc.assert(
      fc.property(loop, (text) => {
        const fraction = lowestTerms(fractionOf(text));
        const count = countEncirclements(fraction, 0);
        const characteristic = add(fraction.numerator, fraction.denominator);
        if (characteristic.integers.length < fraction.denominator.integers.length) return;
        expect(count.closedLoopUnstable === 0).toBe(isHurwitz(characteristic));
      }),
      { numRuns: 400 },
    );
  });

  test('with dead time agrees with the argument principle on the whole sum', () => {
    fc.assert(
      fc.property(loop, fc.integer({ min: 1, max: 40 }), (text, delay) => {
        const open = transferOf(`${text}*exp(-${delay / 20}*s)`);
        if (marginsOf(open).phaseMargins.some(({ degrees }) => Math.abs(degrees) < 0.01)) return;
        expect(isLoopStable(open)).toBe(isStable(unityFeedback(open)));
      }),
      { numRuns: 60 },
    );
  });

  test.each([
    ['5/(s-1)', true, 1, -1],
    ['0.5/(s-1)', false, 1, 0],
    ['20/(s^3+7s^2+10s)', true, 0, 0],
    ['90/(s^3+7s^2+10s)', false, 0, 2],
    ['4(s+1)/(s^2*(s+8))', true, 0, 0],
  ])('%s', (text, stable, openLoopUnstable, encirclements) => {
    expect(isLoopStable(transferOf(text))).toBe(stable);
    expect(countEncirclements(fractionOf(text), 0)).toMatchObject({ openLoopUnstable, encirclements });
  });

  test('a mode exactly on the axis is not stable, with dead time too', () => {
    expect(isLoopStable(transferOf('70/(s^3+7s^2+10s)'))).toBe(false);
    // L = (π/2)·e^(−s)/s passes exactly through −1.
    expect(isLoopStable(transferOf(`${Math.PI / 2}*exp(-s)/s`))).toBe(false);
    expect(isLoopStable(transferOf('1.57*exp(-s)/s'))).toBe(true);
    expect(isLoopStable(transferOf('1.571*exp(-s)/s'))).toBe(false);
  });

  test('hidden unstable modes and gains of one at high frequency make a loop unstable', () => {
    expect(isLoopStable(transferOf('(s-1)/((s-1)(s+2))'))).toBe(false);
    expect(isLoopStable(transferOf('(s-1)*exp(-0.1s)/((s-1)(s+2))'))).toBe(false);
    expect(isLoopStable(transferOf('(2s+1)/(s+1)'))).toBe(true);
    expect(isLoopStable(transferOf('(2s+1)*exp(-0.001s)/(s+1)'))).toBe(false);
    expect(isLoopStable(transferOf('(0.5s+1)*exp(-0.001s)/(s+1)'))).toBe(true);
  });
});

describe('margins', () => {
  test('at each the loop is at the limit of stability', () => {
    fc.assert(
      fc.property(loop, (text) => {
        const { gainMargins, phaseMargins } = marginsOf(transferOf(text));
        const at = (omega: number) => magnitudeAndPhase(transferOf(text), [omega]);
        for (const { omega, gain } of gainMargins) {
          const { magnitudesDb, phasesDegrees } = at(omega);
          expect(20 * Math.log10(gain) + magnitudesDb[0]!).toBeCloseTo(0, 6);
          expect(Math.cos((phasesDegrees[0]! * Math.PI) / 180)).toBeCloseTo(-1, 9);
        }
        for (const { omega, degrees } of phaseMargins) {
          const { magnitudesDb, phasesDegrees } = at(omega);
          expect(magnitudesDb[0]).toBeCloseTo(0, 6);
          expect(Math.cos(((phasesDegrees[0]! + 180 - degrees) * Math.PI) / 180)).toBeCloseTo(1, 9);
          expect(degrees).toBeGreaterThan(-180);
          expect(degrees).toBeLessThanOrEqual(180);
        }
      }),
      { numRuns: 150 },
    );
  });

  test('the delay margin is where stability ends', () => {
    for (const text of ['20/(s^3+7s^2+10s)', '5/(s-1)', '3(s+2)/(s^2+0.4s+4)', '2*exp(-0.2s)/(3s+1)']) {
      const { delayMargin } = marginsOf(transferOf(text));
      expect(isLoopStable(transferOf(`${text}*exp(-${delayMargin! * 0.999}*s)`))).toBe(true);
      expect(isLoopStable(transferOf(`${text}*exp(-${delayMargin! * 1.001}*s)`))).toBe(false);
    }
    expect(marginsOf(transferOf('0.5/(s+1)')).delayMargin).toBe(Infinity);
    expect(marginsOf(transferOf('(2s+1)/(s+1)')).delayMargin).toBe(0);
    expect(marginsOf(transferOf('90/(s^3+7s^2+10s)')).delayMargin).toBeNull();
  });

  test('with dead time no crossing is missed', () => {
    // K·e^(−Ts)/(s+1) is real and negative where ωT + atan ω is an odd multiple of π.
    const { gainMargins } = marginsOf(transferOf('4*exp(-0.5s)/(s+1)'));
    gainMargins.slice(0, 20).forEach(({ omega }, k) => {
      expect(0.5 * omega + Math.atan(omega)).toBeCloseTo((2 * k + 1) * Math.PI, 8);
    });
    expect(gainMargins.length).toBeGreaterThan(20);
  });
});

describe('Bode', () => {
  test('phases are continuous and end where the degrees say', () => {
    const { phasesDegrees } = magnitudeAndPhase(
      transferOf('5(s+1)/(s*(s^2+0.02s+1)*(s-3))'),
      plotFrequencies(systemOf(fractionOf('1/(s^2+0.02s+1)')), 3000),
    );
    for (let k = 1; k < phasesDegrees.length; k++)
      expect(Math.abs(phasesDegrees[k]! - phasesDegrees[k - 1]!)).toBeLessThan(15);
    const ends = (text: string) =>
      [...magnitudeAndPhase(transferOf(text), [1e-6, 1e6]).phasesDegrees].map((degrees) => Math.round(degrees) + 0);
    expect(ends('1/(s*(s+3))')).toEqual([-90, -180]);
    expect(ends('-2/(s+1)')).toEqual([-180, -270]);
    expect(ends('1/(1-s)')).toEqual([0, 90]);
    expect(ends('(1-s)/(1+s)')).toEqual([0, -180]);
    expect(ends('s/(s+1)')).toEqual([90, 0]);
  });

  test('a loop with dead time is followed in its phase', () => {
    const closed = unityFeedback(transferOf('0.8*exp(-2s)/(s+1)'));
    const omegas = Array.from({ length: 400 }, (_, k) => 0.02 * (k + 1));
    const { phasesDegrees, magnitudesDb } = magnitudeAndPhase(closed, omegas);
    omegas.forEach((omega, k) => {
      // L/(1 + L) from L alone.
      const [re, im] = [0.8 * Math.cos(2 * omega), -0.8 * Math.sin(2 * omega)];
      const size = Math.hypot(re, im) / Math.hypot(1 + re, omega + im);
      expect(magnitudesDb[k]).toBeCloseTo(20 * Math.log10(size), 9);
      if (k > 0) expect(Math.abs(phasesDegrees[k]! - phasesDegrees[k - 1]!)).toBeLessThan(30);
    });
  });

  test('extreme frequencies and orders neither overflow nor underflow', () => {
    const { magnitudesDb } = magnitudeAndPhase(transferOf('1/(s+1)^30'), [1e-20, 1e20]);
    expect(magnitudesDb[0]).toBeCloseTo(0, 9);
    expect(magnitudesDb[1]).toBeCloseTo(-30 * 400, 6);
  });
});

describe('peaks and bandwidth', () => {
  test('second order in closed form', () => {
    const zeta = 0.2;
    const peak = closedLoopPeak(transferOf('4/(s^2+0.8s)'));
    expect(peak.magnitude).toBeCloseTo(1 / (2 * zeta * Math.sqrt(1 - zeta ** 2)), 10);
    expect(peak.omega).toBeCloseTo(2 * Math.sqrt(1 - 2 * zeta ** 2), 10);
    const u = 1 - 2 * zeta ** 2;
    expect(bandwidthOf(transferOf('4/(s^2+0.8s+4)'))).toBeCloseTo(2 * Math.sqrt(u + Math.sqrt(u * u + 1)), 10);
  });

  test('the sensitivity peak is one over the distance to −1, with dead time too', () => {
    for (const text of ['20/(s^3+7s^2+10s)', '1.5*exp(-1.2s)/(4s+1)', '2*exp(-0.3s)/(s*(s+3))']) {
      const of = magnitudeAndPhase(
        transferOf(text),
        Array.from({ length: 20_000 }, (_, k) => 0.001 * (k + 1)),
      );
      let least = Infinity;
      of.magnitudesDb.forEach((db, k) => {
        const size = 10 ** (db / 20);
        const angle = (of.phasesDegrees[k]! * Math.PI) / 180;
        least = Math.min(least, Math.hypot(1 + size * Math.cos(angle), size * Math.sin(angle)));
      });
      expect(sensitivityPeak(transferOf(text)).magnitude).toBeCloseTo(1 / least, 4);
    }
  });

  test('a peak that is only approached lies at infinity; no end of the band neither', () => {
    expect(sensitivityPeak(delayed(fractionOf('-0.5(s+1)/(s+3)')))).toMatchObject({ magnitude: 2, omega: Infinity });
    expect(bandwidthOf(transferOf('(1.5s+2)/(s+1)'))).toBe(Infinity);
    expect(bandwidthOf(transferOf('1/s'))).toBeNull();
  });
});
