import { dueStateAt, timeLeft } from '../src/page/due';
import { dayAndTime, toLocalInputs } from '../src/shared/time';

const due = '2026-12-01T17:00:00.000Z';
const closes = '2026-12-02T17:00:00.000Z';
const at = (iso: string) => new Date(iso).getTime();

test.each([
  ['2026-12-01T16:59:59Z', due, closes, 'open'],
  ['2026-12-01T17:00:01Z', due, closes, 'late'],
  ['2026-12-02T16:59:59Z', due, closes, 'late'],
  ['2026-12-02T17:00:06Z', due, closes, 'closed'],
  // Without a late rule it closes with the due date, after what was already on its way.
  ['2026-12-01T17:00:04Z', due, due, 'late'],
  ['2026-12-01T17:00:06Z', due, null, 'closed'],
  ['2026-12-01T17:00:06Z', null, null, 'none'],
] as const)('at %s, due %s and closed %s, it is %s', (now, dueAt, closesAt, state) => {
  expect(dueStateAt(at(now), dueAt, closesAt)).toBe(state);
});

test.each([
  [30_000, 'under a minute'],
  [5 * 60_000, '5 min'],
  [119 * 60_000, '119 min'],
  [5 * 3_600_000, '5 h'],
  [47 * 3_600_000, '47 h'],
  [49 * 3_600_000, '2 days'],
])('%d ms are %s', (milliseconds, words) => {
  expect(timeLeft(milliseconds)).toBe(words);
});

test('a date stands with its zone, and goes into its fields and back', () => {
  expect(dayAndTime(due)).toMatch(/^Tue 1 Dec, \d\d:00 \S+$/);
  const { date, time } = toLocalInputs(due);
  expect(new Date(`${date}T${time}`).toISOString()).toBe(due);
});
