import fc from 'fast-check';
import { fractionOf, type Measures, measuresOf, stepResponse, systemOf } from '../src/index';

const denseSamples = 80_000;

/**
 * Measures found the slow way: many samples of the response, read as a person would read them off a plot. It knows
 * nothing of modes, monotone pieces or crossings.
 */
function readOff(text: string, until: number, samples = denseSamples): Partial<Measures> {
  const system = systemOf(fractionOf(text));
  const motion = stepResponse(system);
  const final = system.dcGain!;
  const step = until / samples;
  let [at10, at90, settled2, settled5] = [NaN, NaN, 0, 0];
  let [highest, highestAt, lowest] = [-Infinity, 0, 0];
  for (let k = 0; k <= samples; k++) {
    const time = k * step;
    const z = motion.at(time) / final;
    if (Number.isNaN(at10)) lowest = Math.min(lowest, z);
    if (z >= 0.1 && Number.isNaN(at10)) at10 = time;
    if (z >= 0.9 && Number.isNaN(at90)) at90 = time;
    if (Math.abs(z - 1) > 0.02) settled2 = time + step;
    if (Math.abs(z - 1) > 0.05) settled5 = time + step;
    if (z > highest) [highest, highestAt] = [z, time];
  }
  return {
    finalValue: final,
    riseTime: at90 - at10,
    settlingTime: settled2,
    settlingTime5: settled5,
    overshootPercent: Math.max(0, 100 * (highest - 1)),
    peakTime: highest > 1 + 1e-6 ? highestAt : null,
    undershootPercent: Math.max(0, -100 * lowest),
  };
}

function expectAlike(text: string, until: number): void {
  const found = measuresOf(systemOf(fractionOf(text)));
  const read = readOff(text, until);
  const resolution = (2.5 * until) / denseSamples;
  expect(found.stable).toBe(true);
  expect(found.finalValue).toBeCloseTo(read.finalValue!, 12);
  for (const name of ['riseTime', 'settlingTime', 'settlingTime5'] as const) {
    expect(Math.abs(found[name]! - read[name]!)).toBeLessThanOrEqual(resolution);
  }
  for (const name of ['overshootPercent', 'undershootPercent'] as const) {
    expect(Math.abs(found[name]! - read[name]!)).toBeLessThanOrEqual(1e-3);
  }
  // Where the top is flat, many samples are as high; the time of the peak is only compared where it stands out.
  if (found.overshootPercent! > 0.1)
    expect(Math.abs(found.peakTime! - read.peakTime!)).toBeLessThanOrEqual(until / 2000);
}

describe('measures agree with those read off a very dense plot', () => {
  test.each([
    ['little damping', '9/(s^2+0.6s+9)', 30],
    ['a zero in the left half-plane', '(4s+9)/(s^2+3s+9)', 10],
    ['a zero in the right half-plane', '(9-2s)/(s^2+3s+9)', 10],
    ['two zeros in the right half-plane', '(s^2-3s+9)/((s+1)(s+2)(s+3))', 20],
    ['fast and slow', '200/((s+1)(s+20)(s+10))', 12],
    ['a slow pole almost cancelled', '(s+0.52)*9/((s+0.5)(s^2+3s+9))', 30],
    ['two beating pairs', '81/((s^2+0.4s+9)(s^2+0.5s+9.6))*1.0667', 60],
    ['negative gain', '-5/(s^2+1.5s+6)', 15],
    ['a direct term', '(s^2+s+4)/(s^2+2s+4)', 10],
    ['a triple pole', '8/(s+2)^3', 12],
    ['order seven', '1/((s+1)^3*(s^2+s+2)(s^2+0.8s+5))', 40],
  ])('%s', (_name, text, until) => {
    expectAlike(text, until);
  });

  test('random second-order systems with a zero', () => {
    const zeta = fc.integer({ min: 2, max: 15 }).map((n) => n / 10);
    const wn = fc.integer({ min: 5, max: 40 }).map((n) => n / 10);
    const lead = fc.integer({ min: -8, max: 20 }).map((n) => n / 10);
    fc.assert(
      fc.property(zeta, wn, lead, (z, w, c) => {
        expectAlike(`(${c}*s + 1)/((s/${w})^2 + 2*${z}*s/${w} + 1)`, Math.max(60, 40 * z) / w);
      }),
      { numRuns: 12 },
    );
  });
});
