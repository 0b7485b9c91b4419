import type { StudentPart } from '@nailset/core';
import { optionsOf, sharesOf, stepsOver, withVote } from '../src/lectern/votes';

const options = [
  { id: 'a', text: 'A' },
  { id: 'b', text: 'B' },
];

test('hands are counted one by one or typed, never below none', () => {
  let votes = withVote({}, 'a', 3);
  votes = withVote(votes, 'b', -1);
  expect(votes).toEqual({ a: 3, b: 0 });
  expect(withVote(votes, 'a', Number('many')).a).toBe(0);
  expect(withVote(votes, 'a', 2.6).a).toBe(3);
});

test('shares are of all hands, and nothing before the first', () => {
  expect(sharesOf(options, {})).toEqual([0, 0]);
  expect(sharesOf(options, { a: 3, b: 9 })).toEqual([0.25, 0.75]);
});

test('a choice is voted on by its own options, a loop by how it will change', () => {
  const choice = { kind: 'choice', options } as unknown as StudentPart;
  expect(optionsOf(choice)).toBe(options);
  expect(optionsOf({ kind: 'gains' } as StudentPart).map(({ id }) => id)).toEqual(['more', 'less', 'same']);
  expect(optionsOf({ kind: 'number' } as StudentPart)).toHaveLength(2);
});

test('a run goes from end to end in even steps, short to read', () => {
  expect(stepsOver({ low: 0, high: 1, count: 4 })).toEqual(['0', '0.3333', '0.6667', '1']);
});
