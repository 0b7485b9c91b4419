import { closesAt, type Disclosed, Disclosure } from '../src/checks';
import type { Part, Verdict } from '../src/index';
import { exercise, tune } from './documents';

const shows = { measured: true, slip: true };
const rules = { late: null, verdict: 'atOnce', shows } as const;
const due = new Date('2026-11-20T18:00:00Z');
const hours = (count: number) => new Date(due.getTime() + count * 3_600_000);
const number: Part = {
  ...{ id: 'n', title: 'N', prompt: '', kind: 'number', points: 2 },
  ...{ formula: '2', unit: '', tolerancePercent: 1 },
};
const verdict = (met: boolean): Verdict => ({
  met,
  points: met ? 2 : 0,
  outOf: 2,
  words: 'so',
  items: [],
  checker: '9',
});
const attempt = (more: Partial<Disclosed> = {}): Disclosed => ({
  ...{ partId: 'n', verdict: verdict(false), checked: true, override: null, points: 0 },
  ...more,
});
const document = (more: object) =>
  ({ ...exercise, attempts: 3, solution: 'solved', parts: [number], ...more }) as never;
const now = (rule: object = {}, at = hours(-1)) => new Disclosure({ ...rules, ...rule }, due, at);

test('an exercise closes when it is due, or so many hours later; without a date never', () => {
  expect(closesAt({ late: null }, due)).toEqual(due);
  expect(closesAt({ late: { hours: 48, keepPercent: 50 } }, due)).toEqual(hours(48));
  expect(closesAt({ late: null }, null)).toBeNull();
  expect([now({}, hours(-0.01)).closed, now({}, hours(0.01)).closed]).toEqual([false, true]);
  expect(now({ late: { hours: 48, keepPercent: 50 } }, hours(47)).closed).toBe(false);
  expect(new Disclosure(rules, null, hours(1e5)).closed).toBe(false);
});

test('while verdicts are kept back nothing of them is told, not even that a check ran out of time', () => {
  const kept = now({ verdict: 'afterDue' });
  expect(kept.ofAttempt(attempt({ override: { points: 2, reason: 'fine' }, points: 2 }))).toEqual({
    ...{ checked: true, outOfTime: false },
  });
  expect(kept.ofAttempt(attempt({ verdict: null }))).toEqual({ checked: true, outOfTime: false });
  expect(kept.ofPart(attempt({ verdict: verdict(true), points: 2 }))).toBe('handedIn');
  const told = now({ verdict: 'afterDue' }, hours(1));
  expect(told.ofAttempt(attempt())).toMatchObject({ verdict: { met: false }, points: 0 });
  expect(told.ofAttempt(attempt({ verdict: null }))).toEqual({ checked: true, outOfTime: true });
});

test('a part stands by its best attempt; a decision of staff goes before the verdict', () => {
  const told = now();
  expect(told.ofPart(undefined)).toBe('open');
  expect(told.ofPart(attempt({ verdict: null, checked: false }))).toBe('handedIn');
  expect(told.ofPart(attempt())).toBe('missed');
  expect(told.ofPart(attempt({ verdict: verdict(true), points: 1 }))).toBe('met');
  expect(told.ofPart(attempt({ override: { points: 2, reason: '' }, points: 2 }))).toBe('met');
  expect(told.ofPart(attempt({ verdict: verdict(true), override: { points: 1, reason: '' }, points: 1 }))).toBe(
    'missed',
  );
});

describe('expected answers are told', () => {
  const right = attempt({ verdict: verdict(true), points: 2 });
  test.each([
    ['never', hours(99), [right], false],
    ['afterDue', hours(-1), [right], false],
    ['afterDue', hours(1), [], true],
    ['solved', hours(-1), [], false],
    ['solved', hours(-1), [attempt(), attempt()], false],
    ['solved', hours(-1), [attempt(), attempt(), attempt()], true],
    ['solved', hours(-1), [right], true],
  ])('%s, at %s, after %j: %s', (solution, at, attempts, told) => {
    expect(now({}, at).solutions(document({ solution }), attempts)).toBe(told);
  });

  test('all together or none: another part that is open keeps them back, one with many right answers does not', () => {
    const both = (other: Part) => now().solutions(document({ parts: [number, other] }), [right]);
    expect(both({ ...number, id: 'm' })).toBe(false);
    expect(both({ ...tune, id: 'g' })).toBe(true);
  });

  test('not while verdicts are kept back: that they are there would tell that everything is right', () => {
    expect(now({ verdict: 'afterDue' }).solutions(document({}), [right])).toBe(false);
  });
});

test('a prediction is shown once it cannot be changed any more; other curves are no prediction', () => {
  const curve = { label: 'y', system: '1/(s+1)', afterwards: true };
  const predicted: Part = { ...number, figure: { horizon: 5, curves: [curve] } };
  expect(now().prediction(predicted, [])).toBe(false);
  expect(now().prediction(predicted, [attempt()])).toBe(true);
  expect(now({}, hours(1)).prediction(predicted, [])).toBe(true);
  expect(now({}, hours(1)).prediction(number, [attempt()])).toBe(false);
});

describe('practice', () => {
  const drawn = { symbol: 'K', meaning: '', unit: '', draw: { kind: 'range', from: 1, to: 9, step: 1 } };
  const may = (more: object, attempts: readonly Disclosed[] = [], at = hours(-1), rule: object = {}) =>
    now(rule, at).practice(document({ parameters: [drawn], ...more }), number, attempts);

  test('waits until the part is solved, out of tries, or closed, unless the exercise says otherwise', () => {
    expect(may({})).toBe(false);
    expect(may({}, [attempt()])).toBe(false);
    expect(may({}, [attempt({ verdict: verdict(true), points: 2 })])).toBe(true);
    expect(may({}, [attempt(), attempt(), attempt()])).toBe(true);
    expect(may({}, [], hours(1))).toBe(true);
    expect(may({ practice: 'always' })).toBe(true);
    expect(may({ practice: 'never' }, [attempt({ verdict: verdict(true), points: 2 })], hours(1))).toBe(false);
  });

  test('a right answer whose verdict is kept back opens nothing, which would tell it', () => {
    const solved = [attempt({ verdict: verdict(true), points: 2 })];
    expect(may({}, solved, hours(-1), { verdict: 'afterDue' })).toBe(false);
  });

  test('another part that is solved opens nothing', () => {
    expect(may({}, [attempt({ partId: 'other', verdict: verdict(true), points: 2 })])).toBe(false);
  });

  test('without numbers that are drawn there are no others', () => {
    const fixed = { ...drawn, draw: { kind: 'fixed', value: 3 } };
    expect(may({ practice: 'always', parameters: [fixed] })).toBe(false);
    expect(may({ practice: 'always', parameters: [] })).toBe(false);
  });
});
