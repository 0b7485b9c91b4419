import fc from 'fast-check';
import { shakenBoom } from '../../server/src/demo/exercises/measured';
import { usualWrongAnswers } from '../src/checks';
import { refineTerms } from '../src/design/refine';
import { systemFrom } from '../src/formula/evaluate';
import { frequencyFunction } from '../src/frequency/bode';
import { misfitOfTerms, modelOfTerms, responseOfTerms, straightLines, termsOfSystem } from '../src/frequency/terms';
import { bode } from '../src/kinds/bode/bode';
import { bodeVerdict, settingsOfTerms, suggestedTerms } from '../src/kinds/bode/check';
import type { BodePart } from '../src/kinds/bode/part';
import { frequencyTarget } from '../src/kinds/bode/target';
import { checkAnswer } from '../src/kinds/index';
import { systemOf } from '../src/system/system';

const model = { scope: { names: new Map() }, series: [], values: {}, systems: [] } as never;
const part: BodePart = {
  ...{ id: 'b', kind: 'bode', title: 'b', prompt: '', points: 4, misfitDb: 0.5, misfitDegrees: 4 },
  target: { system: '6*(1 + s/20)/(s*(1 + s/2))', from: 0.1, to: 200 },
  terms: ['origin', 'poles', 'zeros'],
};
const measured = shakenBoom.parts[0] as BodePart;

describe('a model of terms', () => {
  const corner = fc.double({ min: 0.05, max: 200, noNaN: true });
  const damping = fc.double({ min: 0.02, max: 1, noNaN: true });

  test('is the transfer function that its terms stand for', () => {
    fc.assert(
      fc.property(corner, corner, corner, damping, corner, (K, p1, wp1, dp1, omega) => {
        const [k, p, w, d] = [K, p1, wp1, dp1].map((value) => value.toPrecision(6)) as [string, string, string, string];
        const text = `${k}/(s*(1 + s/${p})*(1 + 2*${d}*s/${w} + s^2/${w}^2))*exp(-0.01*s)`;
        const of = frequencyFunction(systemFrom(text, { names: new Map() }));
        const numbers = { K: Number(k), n: 1, p1: Number(p), wp1: Number(w), dp1: Number(d), L: 0.01 };
        const { db, degrees } = responseOfTerms(modelOfTerms(numbers), omega);
        expect(db).toBeCloseTo((20 / Math.LN10) * of.logMagnitude(omega), 6);
        expect(degrees).toBeCloseTo((180 / Math.PI) * of.phase(omega), 6);
      }),
    );
  });

  test('moving a corner leaves the level to its left', () => {
    const at = (p1: number) => responseOfTerms(modelOfTerms({ K: 5, p1, wz1: 40, dz1: 0.2 }), 1e-4).db;
    expect(at(3)).toBeCloseTo(at(30), 6);
    expect(at(3)).toBeCloseTo(20 * Math.log10(5), 6);
  });

  test('has straight lines that meet it far from its corners', () => {
    const terms = modelOfTerms({ K: 4, n: 1, p1: 2, wz1: 50, dz1: 0.3 });
    const lines = straightLines(terms, 1e-3, 1e6);
    expect(lines.map(({ omega }) => omega)).toEqual([1e-3, 2, 50, 1e6]);
    expect(lines[0]!.db).toBeCloseTo(responseOfTerms(terms, 1e-3).db, 3);
    expect(lines.at(-1)!.db).toBeCloseTo(responseOfTerms(terms, 1e6).db, 3);
  });

  test.each([
    [{ K: 0 }, 'K, the level'],
    [{ K: 1, p1: -2 }, 'p1, a corner frequency'],
    [{ K: 1, wp1: 2, dp1: 1.4 }, 'dp1, a damping ratio'],
    [{ K: 1, n: 0.5 }, 'whole number'],
    [{ K: 1, L: -1 }, 'dead time'],
  ])('refuses %j', (numbers, words) => {
    expect(() => modelOfTerms(numbers)).toThrow(words);
  });

  test('is read off a system, when each of its poles and zeros is a term', () => {
    const of = (text: string) => {
      const [term] = systemFrom(text, { names: new Map() }).numerator;
      const { denominator } = systemFrom(text, { names: new Map() });
      return termsOfSystem(systemOf({ numerator: term!.polynomial, denominator: denominator[0]!.polynomial }));
    };
    const found = of('10*(s + 20)/(s*(s^2 + 2s + 25))')!;
    expect(found).toMatchObject({ n: 1, z1: 20 });
    expect([found['K'], found['wp1'], found['dp1']].map((value) => Number(value!.toFixed(6)))).toEqual([8, 5, 0.2]);
    expect(of('(s - 1)/(s + 2)')).toBeNull();
    expect(of('-3/(s + 2)')).toBeNull();
    expect(of('1/(s^2 + 4)')).toBeNull();
  });
});

describe('the misfit', () => {
  test('counts every decade alike, and phases modulo a turn', () => {
    const omegas = [0.1, 0.2, 0.5, 1, 10, 100];
    const terms = modelOfTerms({ K: 10 });
    const flat = (db: number, angle: number) => ({
      ...{ omegas, magnitudesDb: omegas.map(() => db), phasesDegrees: omegas.map(() => angle) },
    });
    expect(misfitOfTerms(terms, flat(23, 0)).db).toBeCloseTo(3, 9);
    expect(misfitOfTerms(terms, flat(20, 362)).degrees).toBeCloseTo(2, 9);
    const oneDecadeOff = { omegas, magnitudesDb: [20, 20, 20, 20, 20, 26] };
    // A point at the end of three decades stands for half of the last one.
    expect(misfitOfTerms(terms, oneDecadeOff).db).toBeCloseTo(6 * Math.sqrt(0.5 / 3), 6);
  });
});

describe('refining', () => {
  test('finds the numbers of the model that made the points', () => {
    const truth = { K: 2.5, wp1: 3, dp1: 0.12, wz1: 9, dz1: 0.08 };
    const omegas = Array.from({ length: 41 }, (_, k) => 0.2 * 10 ** (k / 16));
    const all = omegas.map((omega) => responseOfTerms(modelOfTerms(truth), omega));
    const curve = { omegas, magnitudesDb: all.map(({ db }) => db), phasesDegrees: all.map(({ degrees }) => degrees) };
    const found = refineTerms({ K: 1, wp1: 3.4, dp1: 0.3, wz1: 6, dz1: 0.3 }, curve);
    for (const [name, value] of Object.entries(truth)) expect(found[name]! / value).toBeCloseTo(1, 3);
    expect(() => refineTerms(truth, curve)).toThrow('do not come nearer');
  });

  test('keeps the poles at the origin', () => {
    const curve = frequencyTarget(part, { names: new Map() });
    expect(refineTerms({ K: 3, n: 1, p1: 5, z1: 40 }, curve)).toEqual({ K: 6, n: 1, p1: 2, z1: 20 });
  });
});

describe('a part to match a Bode curve', () => {
  test('is right with the terms of its system, each half told on its own', () => {
    expect(suggestedTerms(part, model)).toEqual({ K: '6', n: '1', p1: '2', z1: '20' });
    const right = checkAnswer(part, model, { kind: 'bode', terms: { K: '6', n: '1', p1: '2.03', z1: '20' } });
    expect([right.met, right.points]).toEqual([true, 4]);
    const late = bode.check(part, model, { kind: 'bode', terms: { K: '6.2', n: '1', p1: '2' } });
    expect(late.met).toBe(false);
    expect(late.words).toMatch(/^Magnitude off by .* dB, limit 0\.5 dB: .* too much\. Phase off by/);
  });

  test('is solved from measured points', () => {
    const found = suggestedTerms(measured, model)!;
    expect(Object.keys(found)).toEqual(['K', 'wp1', 'dp1', 'wz1', 'dz1']);
    expect(Number(found['wp1'])).toBeCloseTo(7.4, 1);
    expect(checkAnswer(measured, model, { kind: 'bode', terms: found }).met).toBe(true);
    expect(suggestedTerms({ ...measured, terms: ['poles'] }, model)).toBeNull();
  });

  test('allows only the terms that are named', () => {
    expect(settingsOfTerms(part)).toEqual(['K', 'n', 'p1', 'p2', 'p3', 'z1', 'z2', 'z3']);
    expect(() => bode.read(part, model, { kind: 'bode', terms: { K: '1', wp1: '2' } })).toThrow('no wp1');
    expect(bode.fromText(part, 'K = 6, n = 1; p1 = 2')).toEqual({ kind: 'bode', terms: { K: '6', n: '1', p1: '2' } });
  });

  test('tells decibels, Hz and exchanged poles and zeros, each by its own words', () => {
    const told = usualWrongAnswers(part, model);
    expect(told.map(({ id, verdict }) => [id, verdict.slip?.id])).toEqual([
      ['decibels', 'decibels'],
      ['hertz', 'hertz'],
      ['upsideDown', 'upsideDown'],
    ]);
    const other = checkAnswer(part, model, { kind: 'bode', terms: { K: '1', n: '1', p1: '9' } });
    expect(other.slip).toBeUndefined();
  });

  test('without phases judges the magnitude alone', () => {
    const curve = { omegas: [1, 2, 4, 8, 16], magnitudesDb: [20, 20, 20, 20, 20] };
    const verdict = bodeVerdict(part, modelOfTerms({ K: 10, L: 1 }), curve);
    expect(verdict.items.map(({ id, outOf }) => [id, outOf])).toEqual([['magnitude', 4]]);
    expect(verdict.met).toBe(true);
  });

  test('refuses a target that cannot be drawn', () => {
    const at = (target: BodePart['target']) => () => frequencyTarget({ target }, { names: new Map() });
    expect(at({ system: '1/s', from: 2, to: 1 })).toThrow('lower to a higher');
    const omegas = [1, 2, 3, 4, 5];
    expect(at({ name: 't', omegas, magnitudesDb: [1, 2, 3, 4, 5, 6] })).toThrow('as many values');
    expect(at({ name: 't', omegas: [1, 2, 2, 4, 5], magnitudesDb: omegas })).toThrow('rising frequencies');
  });
});
