import type { StudentPart } from '@nailset/core';
import { knobsOfTerms, refined, termAdditions, termsLatex, termsResponses, withoutTerm } from '../src/kinds/bode/terms';
import { readFrequencyTable, readTable } from '../src/shared/readTable';

type Bode = Extract<StudentPart, { kind: 'bode' }>;
const omegas = [0.1, 0.3, 1, 3, 10, 30, 100];
const part: Bode = {
  ...{ id: 'b', kind: 'bode', title: '', prompt: '', points: 2, attempts: 5, misfitDb: 0.5 },
  terms: ['poles', 'polePairs'],
  target: {
    name: 'points',
    omegas,
    magnitudesDb: omegas.map((omega) => 20 * Math.log10(5 / Math.hypot(1, omega / 2))),
  },
};

describe('terms on the ladder', () => {
  test('can be added one by one, a pair with its damping, as many as there are names', () => {
    const labels = (settings: Record<string, string>) => termAdditions(part, settings).map(({ label }) => label);
    expect(labels({ K: '1' })).toEqual(['a pole', 'a pair of poles']);
    const [pole, pair] = termAdditions(part, { K: '1', p1: '2' });
    expect(Object.keys(pole!.settings)).toEqual(['p2']);
    expect(Object.keys(pair!.settings)).toEqual(['wp1', 'dp1']);
    expect(labels({ K: '1', p1: '1', p2: '2', p3: '3' })).toEqual(['a pair of poles']);
  });

  test('go again, a pair as a whole', () => {
    expect(withoutTerm({ K: '1', wp1: '3', dp1: '0.2', p1: '9' }, 'dp1')).toEqual({ K: '1', p1: '9' });
    expect(withoutTerm({ K: '1', p1: '9' }, 'p1')).toEqual({ K: '1' });
  });

  test('have rungs that go with their size', () => {
    const rung = (text: string) => {
      const { fine, coarse } = knobsOfTerms(part, { K: text }).find(({ name }) => name === 'K')!;
      return [fine, coarse];
    };
    expect(rung('3')).toEqual([0.05, 0.5]);
    expect(rung('400')).toEqual([5, 50]);
    expect(rung('0.02')).toEqual([0.0005, 0.005]);
  });

  test('follow the points when they are right, and are refined to them', () => {
    const responses = termsResponses(part);
    expect(responses({ K: '5', p1: '2' })).toMatchObject({ verdict: { met: true } });
    expect(responses({ K: '5' })).toMatchObject({ verdict: { met: false } });
    expect(responses({ K: '5', z1: '2' })).toBeInstanceOf(Error);
    const found = refined(part, { K: '1', p1: '20' });
    expect(Number(found['p1'])).toBeCloseTo(2, 3);
    expect(Number(found['K'])).toBeCloseTo(5, 3);
  });

  test('are written as factors of unit level', () => {
    const latex = (settings: Record<string, string>) => {
      const found = termsResponses({ ...part, terms: ['origin', 'poles', 'zeros', 'polePairs', 'deadTime'] })(settings);
      return 'model' in found ? termsLatex(found.model) : found.message;
    };
    expect(latex({ K: '5' })).toBe('5');
    expect(latex({ K: '5', n: '2', p1: '4' })).toBe('\\frac{5}{s^{2}\\left(1+\\frac{s}{4}\\right)}');
    expect(latex({ K: '5', z1: '4', L: '0.1' })).toBe('5\\left(1+\\frac{s}{4}\\right)\\,e^{-0.1\\,s}');
    expect(latex({ K: '2', wp1: '3', dp1: '0.25' })).toContain('1+0.5\\,\\frac{s}{3}+\\frac{s^2}{3^2}');
  });
});

describe('a table of a frequency response', () => {
  const rows = (unit: string, of: (k: number) => string) => [unit, ...[1, 2, 3, 4, 5].map((k) => of(k))].join('\n');

  test('is taken in rad/s, decibels and degrees', () => {
    const found = readFrequencyTable(rows('omega, magnitude, phase', (k) => `${k},${-k},${-10 * k}`));
    expect(found).toEqual({
      ...{ omegas: [1, 2, 3, 4, 5], magnitudesDb: [-1, -2, -3, -4, -5], phasesDegrees: [-10, -20, -30, -40, -50] },
    });
  });

  test('its heading may say Hz and ratio; phases may be missing', () => {
    const { omegas: found, magnitudesDb, phasesDegrees } = readFrequencyTable(rows('f in Hz;ratio', (k) => `${k};0,1`));
    expect(found[0]).toBeCloseTo(2 * Math.PI, 6);
    expect(magnitudesDb).toEqual([-20, -20, -20, -20, -20]);
    expect(phasesDegrees).toBeUndefined();
  });

  test.each([
    ['a,b', 'No row with a frequency and a magnitude'],
    [rows('w,dB', (k) => `${5 - k},1`), 'frequencies must rise, above 0'],
    ['1,2\n2,3', 'at least five rows'],
    [rows('w,ratio', (k) => `${k},0`), 'Ratios must be more than 0'],
    [rows('w,dB', (k) => (k === 3 ? '3,' : `${k},1`)), 'Row 4 has no frequency and magnitude'],
  ])('%j is refused', (text, words) => {
    expect(() => readFrequencyTable(text)).toThrow(words);
  });

  test('a table over time is read by the same rules', () => {
    expect(() => readTable('0,1\n1,x')).toThrow('Row 2 has no time and value.');
    expect(readTable('t;y\n0;1,5\n2;3')).toEqual({ times: [0, 2], values: [1.5, 3] });
  });
});
