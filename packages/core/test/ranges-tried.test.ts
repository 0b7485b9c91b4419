import { must, type Part } from '@nailset/core';
import { checkAnswer, verdictAsShown } from '../src/checks';
import { modelOf, unityFeedback } from '../src/index';
import { mostSteps } from '../src/kinds';
import { respond } from '../src/response/respond';
import { within } from '../src/response/work';
import { transferOf } from '../src/system/transfer';

/** What is tried of a typed range, and what the student is shown of it. */

const nobody = modelOf({ systems: [], series: [] }, {});
const check = (of: string, text: string) => {
  const part: Part = { id: 'r', kind: 'range', title: 'Stable', prompt: '', points: 2, of, tolerancePercent: 1 };
  return checkAnswer(part, nobody, { kind: 'range', text });
};
const three = '1/(s*(s + 1)*(s + 6))'; // Stable for 0 < K < 42.

const loops: [of: string, text: string, stable: (gain: number) => boolean][] = [
  [three, '0 < K < 50', (K) => K > 0 && K < 42],
  [three, '0 < K < 30', (K) => K > 0 && K < 42],
  [three, 'K > 3', (K) => K > 0 && K < 42],
  [three, '10 < K < 100', (K) => K > 0 && K < 42],
  ['1/(s - 1)', '0 < K < 50', (K) => K > 1],
  ['1/(s - 1)', 'K < 1', (K) => K > 1],
  ['(s + 2)/(s*(s - 1.5))', 'K > 0', (K) => K > 1.5],
  ['1e9/(s*(s + 1e3)*(s + 6e3))', '0 < K < 50', (K) => K > 0 && K < 42],
  ['1e-9/(s*(s + 1e-3)*(s + 6e-3))', '0 < K < 50', (K) => K > 0 && K < 42],
  ['1e18/(s*(s + 1e9)*(s + 6e9))', '0 < K < 50e9', (K) => K > 0 && K < 42e9],
  ['1e-18/(s*(s + 1e-9)*(s + 6e-9))', '0 < K < 50e-9', (K) => K > 0 && K < 42e-9],
  ['exp(-0.5*s)/(s + 1)', '0 < K < 10', (K) => K > 0 && K < 3.806],
];

test.each(loops)('%s, typed %s: what is said and shown of a gain is so', (of, text, isStable) => {
  const { met, words, responses = [] } = check(of, text);
  expect(met).toBe(false);
  expect(responses.length).toBeGreaterThan(0);
  for (const { label, times, values } of responses) {
    const [, gain, place, verdict] = must(/^K = (\S+), (in your range|outside it): (stable|unstable)$/.exec(label));
    const K = Number(must(gain).replace('−', '-'));
    expect(verdict).toBe(isStable(K) ? 'stable' : 'unstable');
    expect(times).toHaveLength(values.length);
    // The curve is that of the closed loop with this gain, seen until it has settled or grown.
    const motion = respond(unityFeedback(transferOf(`${must(gain).replace('−', '-')}*(${of})`)));
    const at = Math.floor(times.length / 2);
    expect(values[at]).toBeCloseTo(motion.at(must(times[at])), 1);
    const late = values.slice(-Math.ceil(values.length / 4));
    if (verdict === 'unstable') expect(Math.max(...values.map(Math.abs))).toBeGreaterThan(3);
    else expect(Math.max(...late) - Math.min(...late)).toBeLessThan(0.06 * Math.max(...values.map(Math.abs)));
    // Where the place contradicts the gain, the words say it too.
    if ((place === 'in your range') !== (verdict === 'stable')) expect(words).toContain(`K = ${must(gain)} lies`);
  }
});

test('a range that is right tries nothing', () => {
  expect(check(three, '0 < K < 42').responses).toBeUndefined();
});

test('one gain inside and one outside, where there are both', () => {
  const places = (text: string) =>
    check(three, text).responses?.map(({ label }) => label.split(', ')[1]?.split(':')[0]);
  expect(places('0 < K < 50')).toEqual(['in your range', 'outside it']);
  expect(places('K > 0')).toEqual(['in your range']);
  expect(places('none')).toEqual(['outside it']);
});

test('a picture is small enough to be kept with the verdict', () => {
  for (const [of, text] of loops) expect(JSON.stringify(check(of, text).responses).length).toBeLessThan(8000);
});

test('what was tried is not told where the exercise tells no measured values', () => {
  const verdict = check(three, 'K > 3');
  expect(verdictAsShown(verdict, { measured: true, slip: true }).responses).toHaveLength(2);
  const bare = verdictAsShown(verdict, { measured: false, slip: true });
  expect(bare).not.toHaveProperty('responses');
  expect(JSON.stringify(bare)).not.toMatch(/stable/);
});

test.each([
  'exp(-0.001*s)/(s*(s + 1)*(s + 6))',
  'exp(-0.0001*s)/(s*(s + 1)*(s + 6))',
  'exp(-0.00001*s)/(s + 1)',
  '1/(s^2 + 1e-6*s + 1)',
])('%s, slow beside its dead time or its swinging: the verdict is made within a tenth of its work', (of) => {
  for (const text of ['0 < K < 50', 'K > 3', 'none', '0 < K < 1']) {
    const verdict = within(mostSteps / 10, () => check(of, text));
    expect(verdict.words).toMatch(/^This is not the range\.|^The range is right\./);
    for (const { times } of verdict.responses ?? []) expect(times.length).toBeLessThanOrEqual(161);
  }
});
