/** @jest-environment jsdom */
import type { Answer, Bench, StudentPart } from '@nailset/core';
import { act, fireEvent, render, screen, within } from '@testing-library/react';
import { useReducer } from 'react';
import { MemoryRouter } from 'react-router';
import { BenchSheet } from '../src/bench/BenchSheet';
import { partsTogether } from '../src/bench/partState';
import { workFrom, workReducer } from '../src/work/work';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const heading = { prompt: 'How large?', points: 2, attempts: 3 };
const number = (id: string, title: string): StudentPart => ({
  ...{ ...heading, id, title, kind: 'number', unit: '%', tolerancePercent: 3 },
});
const choice: StudentPart = {
  ...{ ...heading, id: 'pick', title: 'Pick', kind: 'choice', several: false },
  options: [
    { id: 'a', text: 'left' },
    { id: 'b', text: 'right' },
  ],
};
const large: StudentPart = {
  ...{ ...heading, id: 'states', title: 'States', kind: 'states', tolerancePercent: 1 },
};
const figure = { horizon: 1, input: { label: '', times: [0, 1], values: [1, 1] }, curves: [], afterwards: 1 };

let handed: [string, Answer][];
function Sheet({ of }: { of: Bench }) {
  const [work, dispatch] = useReducer(workReducer, of, (start) => workFrom(start));
  return (
    <MemoryRouter>
      <BenchSheet
        bench={of}
        work={work}
        dispatch={dispatch}
        handing={{
          ...{ busy: false, error: undefined, closed: false, worth: '' },
          handIn: (part, answer) => handed.push([part.id, answer]),
        }}
      />
    </MemoryRouter>
  );
}
beforeEach(() => {
  handed = [];
});

const idsWith = (parts: StudentPart[], open: string, more: Partial<Bench> = {}) =>
  partsTogether(benchWith(parts, more), open).map(({ id }) => id);

describe('which parts stand on one sheet', () => {
  const parts = [number('a', 'A'), number('b', 'B'), large, choice, number('c', 'C')];
  test('small neighbours do, larger ones alone', () => {
    expect(idsWith(parts, 'b')).toEqual(['a', 'b']);
    expect(idsWith(parts, 'states')).toEqual(['states']);
    expect(idsWith(parts, 'c')).toEqual(['pick', 'c']);
  });
  test('a part with curves of its own is alone, as they may be a prediction', () => {
    const predicted: StudentPart = { ...number('b', 'B'), figure };
    expect(idsWith([number('a', 'A'), predicted, number('c', 'C')], 'b')).toEqual(['b']);
    expect(idsWith([number('a', 'A'), predicted, number('c', 'C')], 'a')).toEqual(['a']);
  });
  test('none do where the exercise says so', () => {
    expect(idsWith(parts, 'b', { layout: 'single' })).toEqual(['b']);
  });
});

describe('a sheet of several parts', () => {
  const parts = [number('a', 'First'), number('b', 'Second'), choice];
  const field = (title: string) =>
    within(screen.getByRole('region', { name: new RegExp(title) })).getByRole<HTMLInputElement>('textbox');

  test('typing in another part opens it and keeps what was typed, and Enter hands that part in', () => {
    render(<Sheet of={benchWith(parts)} />);
    const second = field('Second');
    act(() => second.focus());
    // The same field as before: a click must not take the focus away by drawing it anew.
    expect(field('Second')).toBe(second);
    fireEvent.change(second, { target: { value: '12' } });
    expect(screen.getByRole('button', { name: 'Hand in b)' })).toHaveProperty('disabled', false);
    fireEvent.keyDown(second, { key: 'Enter' });
    expect(handed).toEqual([['b', { kind: 'number', text: '12' }]]);
  });

  test('Enter hands in nothing that cannot be read', () => {
    render(<Sheet of={benchWith(parts)} />);
    const first = field('First');
    act(() => first.focus());
    fireEvent.change(first, { target: { value: '12 or so' } });
    fireEvent.keyDown(first, { key: 'Enter' });
    expect(handed).toEqual([]);
    expect(first.value).toBe('12 or so');
  });

  test('what came of the last try stands below its own field', () => {
    const verdict = {
      ...{ met: false, points: 0, outOf: 2, words: '12 %: too low; within 3 % counts.', items: [] },
    };
    const attempt = {
      ...{ id: 'x', partId: 'b', attempt: 1, version: 1, handedInAt: '2026-12-01T10:00:00Z', checked: true },
      ...{ outOfTime: false, comments: [], returned: false, points: 0 },
      answer: { kind: 'number' as const, text: '12' },
      verdict: verdict as unknown as NonNullable<Bench['handedIn'][number]['verdict']>,
    };
    render(<Sheet of={benchWith(parts, { handedIn: [attempt] })} />);
    expect(within(screen.getByRole('region', { name: /Second/ })).getByText(/too low/)).toBeTruthy();
    expect(within(screen.getByRole('region', { name: /First/ })).queryByText(/too low/)).toBeNull();
  });

  test('practice is offered for the part that may be practised', () => {
    render(<Sheet of={benchWith(parts, { practice: ['b'] })} />);
    expect(screen.queryByRole('link', { name: /Practise/ })).toBeNull();
    act(() => field('Second').focus());
    expect(screen.getByRole('link', { name: /Practise/ }).getAttribute('href')).toMatch(/practice\/b$/);
  });
});

test('a second try says what changed since the one before', () => {
  const item = (id: string, met: boolean) => ({
    ...{ id, label: id, unit: '', measured: null, limit: null, relation: 'equal' as const },
    ...{ met, close: false, points: met ? 1 : 0, outOf: 1, words: `${id}: ${met ? 'right' : 'wrong'}.` },
  });
  const attempt = (number: number, items: ReturnType<typeof item>[]): Bench['handedIn'][number] => ({
    ...{ id: String(number), partId: 'states', attempt: number, version: 1, handedInAt: '2026-12-01T10:00:00Z' },
    ...{ checked: true, outOfTime: false, comments: [], returned: false, points: 1 },
    answer: { kind: 'states', a: '1', b: '1', c: '1', d: '0' },
    verdict: { checker: '1', met: false, points: 1, outOf: 2, words: '', items },
  });
  const handedIn = [
    attempt(1, [item('First', true), item('Second', false), item('Third', false)]),
    attempt(2, [item('First', false), item('Second', true), item('Third', true)]),
  ];
  render(<Sheet of={benchWith([large], { handedIn })} />);
  expect(screen.getByText('Since try 1: Second and Third now right; First no longer.')).toBeTruthy();
});
