/** @jest-environment jsdom */
import type { Answer, ClassSheet, Handed, Part, SheetCell, SheetRow } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { MemoryRouter } from 'react-router';
import { AnswerPanel } from '../src/classSheet/AnswerPanel';
import { choicesOf, inOrder, isChosen, type Order } from '../src/classSheet/filter';
import { FlockPlot } from '../src/classSheet/FlockPanel';
import { PartPanel } from '../src/classSheet/PartPanel';
import { SheetTable } from '../src/classSheet/SheetTable';
import { SlipList } from '../src/classSheet/SlipList';
import { answersTo, choiceCounts, pointsByTenth, summarise } from '../src/classSheet/summary';
import { answered, watchSizes } from './page';

beforeAll(watchSizes);

const part: Extract<Part, { kind: 'gains' }> = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: '2/(s^2 + 0.8*s)',
  output: 'Position',
  controller: {
    terms: 'PID',
    form: 'parallel',
    gains: (['Kp', 'Ki', 'Kd'] as const).map((name) => ({ name, start: 1, fine: 1, coarse: 5 })),
  },
  views: [],
  horizon: 5,
  nails: [
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.01, points: 1 },
  ],
};
const id = '00000000-0000-0000-0000-000000000000';

describe('the answer of one student', () => {
  const handed: Handed = {
    id,
    person: { id, name: 'Runa Skar', email: 'runa@harbour.example' },
    part,
    values: { K: '2' },
    systems: [],
    series: [],
    version: 1,
    attempt: 2,
    handedInAt: '2026-11-20T10:00:00Z',
    checked: true,
    // As a store that keeps no order gives it back.
    answer: { kind: 'gains', gains: { Kd: '3.2', Ki: '12', Kp: '40' } },
    trail: [{ gains: { Kd: '0', Ki: '0', Kp: '4' }, holding: 1, name: 'calm' }],
    verdict: { met: false, points: 1, outOf: 3, words: '1 of 2 nails holds.', checker: '1', items: [] },
    points: 1,
    outOf: 3,
    overrides: [],
    expected: null,
    corrected: null,
    comments: [],
    review: ['Overshoot: within 1 % of the limit.'],
    looked: false,
    returned: false,
    tries: [
      { id, attempt: 2, points: 1, counts: true },
      { id: 'first', attempt: 1, points: 0, counts: false },
    ],
  };
  const sent: { path: string; body: unknown }[] = [];
  const chosen: string[] = [];

  function show() {
    sent.length = 0;
    globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
      if (method === 'POST') sent.push({ path, body: body ? JSON.parse(body as string) : undefined });
      return answered(200, method === 'POST' ? {} : handed);
    }) as unknown as typeof fetch;
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter>
          <AnswerPanel submissionId={id} onClose={() => undefined} onChoose={(id) => chosen.push(id)} />
        </MemoryRouter>
      </QueryClientProvider>,
    );
  }

  test('lists gains and trail in the order of the ladder', async () => {
    show();
    const panel = await screen.findByRole('region', { name: 'Answer of Runa Skar' });
    const typed = [...panel.querySelectorAll('annotation')].map((node) => node.textContent);
    expect(typed).toEqual(['K', 'K_{p}', 'K_{i}', 'K_{d}']);
    const [head, stop] = within(screen.getByRole('region', { name: 'Trail' })).getAllByRole('row');
    expect(head!.textContent).toBe('TrailKpKiKdnails');
    expect([...stop!.children].map((cell) => cell.textContent)).toEqual(['1 calm', '4', '0', '0', '1 of 2']);
  });

  test('every try is at hand, a comment is sent, and what was to review is looked at', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: 'Try 1: 0' }));
    expect(chosen).toEqual(['first']);
    await userEvent.click(screen.getByRole('button', { name: 'Looked at' }));
    await userEvent.type(screen.getByLabelText('Comment to Runa Skar'), 'Look at Kd.');
    await userEvent.click(screen.getByRole('button', { name: 'Send' }));
    expect(sent).toEqual([
      { path: `/api/submissions/${id}/looks`, body: undefined },
      { path: `/api/submissions/${id}/comments`, body: { text: 'Look at Kd.' } },
    ]);
  });

  test('other points are set within the part’s, and only with a reason', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: /Change points/ }));
    const set = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Set points' });
    const points = screen.getByLabelText(/Points of 3/);
    await userEvent.type(screen.getByLabelText(/Reason/), 'Right by hand');
    await userEvent.clear(points);
    await userEvent.type(points, '4');
    expect(set().disabled).toBe(true);
    await userEvent.clear(points);
    await userEvent.type(points, '3');
    await userEvent.click(set());
    expect(sent).toEqual([{ path: `/api/submissions/${id}/overrides`, body: { points: 3, reason: 'Right by hand' } }]);
  });
});

describe('the sheet', () => {
  const Table = ({ show = '', of = rows }: { show?: string; of?: typeof rows }) => {
    const [order, setOrder] = useState<Order>('points');
    const shown = inOrder(of as unknown as SheetRow[], order).filter((row) => isChosen(row, 'tune', show));
    const rest = { sheet, rows: shown, order, onOrder: setOrder };
    return <SheetTable {...rest} chosen={undefined} onChoose={() => undefined} />;
  };
  const names = () => screen.getAllByRole('rowheader').map((cell) => cell.textContent);

  const cell = (points: number, look = false): SheetCell => ({
    submissionId: id,
    attempt: 1,
    version: 1,
    met: points === 3,
    points,
    outOf: 3,
    checked: true,
    outOfTime: false,
    look,
    tries: [{ submissionId: id, attempt: 1, points }],
    items: [
      { id: 'over', met: points === 3, close: false },
      { id: 'offset', met: true, close: false },
    ],
    slip: null,
  });
  const row = (name: string, own?: SheetCell) => ({
    ...{ person: { id: name, name }, group: name === 'Aino' ? 'Mon' : '', studentNumber: '' },
    points: own ? own.points : null,
    cells: own ? { tune: own } : {},
  });
  const rows = [row('Aino', cell(1, true)), row('Bram'), row('Cato', cell(3))];
  const sheet = { parts: [part], outOf: 3, rows } as unknown as ClassSheet;

  test('the most points stand first, or the first name', async () => {
    render(<Table />);
    expect(names()).toEqual(['Cato', 'AinoMon', 'Bram']);
    await userEvent.click(screen.getByRole('button', { name: 'Student' }));
    expect(names()).toEqual(['AinoMon', 'Bram', 'Cato']);
    expect(screen.getByRole('button', { name: 'Aino, Tune: 1 of 3 points, try 1, to review' })).toBeTruthy();
  });

  test.each([
    ['none', ['Bram']],
    ['open', ['Bram']],
    ['review', ['AinoMon']],
    ['group Mon', ['AinoMon']],
    ['missed', ['AinoMon']],
    ['nail over', ['AinoMon']],
    ['', ['Cato', 'AinoMon', 'Bram']],
  ])('shown by “%s”', (show, expected) => {
    render(<Table show={show} />);
    expect(names()).toEqual(expected);
  });

  test('offers what there is to choose by', () => {
    const words = choicesOf(sheet, part).flatMap(({ choices }) => choices.map((choice) => choice.value));
    expect(words).toEqual(['', 'none', 'review', 'group Mon', 'open', 'missed', 'nail over', 'nail offset']);
  });

  test('of three hundred rows only those in sight are drawn, and all of them on paper', () => {
    const many = Array.from({ length: 300 }, (_, k) => row(`Sailor ${k}`, cell(1)));
    render(<Table of={many} />);
    expect(names().length).toBeLessThan(200);
    act(() => void window.dispatchEvent(new Event('beforeprint')));
    expect(names()).toHaveLength(300);
    act(() => void window.dispatchEvent(new Event('afterprint')));
    expect(names().length).toBeLessThan(200);
  });

  test('counts who handed in, who wants a look, and the points by tenths', () => {
    expect(summarise(sheet)).toEqual({ handedIn: 2, look: 1 });
    const students = pointsByTenth(sheet).map((tenth) => tenth.students);
    expect(students).toEqual([0, 0, 0, 1, 0, 0, 0, 0, 0, 1]);
  });
});

describe('a part as the class answered it', () => {
  const answered = (name: string, answer: Answer, met: boolean, slip?: SheetCell['slip'], checked = true) => ({
    name,
    answer,
    cell: { submissionId: name, attempt: 1, version: 1, points: met ? 1 : 0, outOf: 1, met, checked, look: false },
    slip: slip ?? null,
  });
  const sheetOf = (of: Part, all: ReturnType<typeof answered>[]) =>
    ({
      parts: [of],
      systems: [],
      series: [],
      rows: all.map(({ name, cell, slip }) => ({
        person: { id: name, name },
        points: cell.points,
        cells: { [of.id]: { ...cell, slip, items: [] } },
      })),
      flock: all.map(({ name, answer }) => ({
        ...{ submissionId: name, personId: name, partId: of.id },
        ...{ values: {}, answer },
      })),
    }) as unknown as ClassSheet;
  const text = (kind: 'number' | 'points', value: string): Answer => ({ kind, text: value });
  const slip = { id: 'fraction', words: 'A fraction, not per cent.' };

  test('slips stand with the commonest first, what is not recognised last, and lead to their answers', async () => {
    const number: Part = {
      ...{ id: 'n', kind: 'number', title: 'Overshoot', prompt: '', points: 1 },
      ...{ formula: '1', unit: '%', tolerancePercent: 1 },
    };
    const other = { id: 'damped', words: 'The natural frequency, not the damped one.' };
    const sheet = sheetOf(number, [
      answered('Aino Berg', text('number', '7'), false),
      answered('Bram Oz', text('number', '2'), false, other),
      answered('Cato Lund', text('number', '0.2'), false, slip),
      answered('Dara Ito', text('number', '0.3'), false, slip),
      answered('Edda Roy', text('number', '20'), true),
      answered('Finn Aho', text('number', '9'), false, null, false),
    ]);
    const chosen: string[] = [];
    render(<SlipList part={number} sheet={sheet} chosen={undefined} onChoose={(id) => chosen.push(id)} />);
    const lines = within(screen.getByRole('region', { name: 'Slips' })).getAllByRole('listitem');
    expect(lines.map((line) => line.querySelector('b')!.textContent)).toEqual(['2', '1', '1']);
    expect(lines.map((line) => line.querySelector('span')!.textContent)).toEqual([
      slip.words,
      other.words,
      'missed in other ways',
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Answer of Dara Ito' }));
    expect(chosen).toEqual(['Dara Ito']);
  });

  test('options are counted, several of one student too', () => {
    const choice = {
      ...{ id: 'c', kind: 'choice' as const, title: 'Which?', prompt: '', points: 1, several: true },
      options: ['a', 'b', 'd'].map((id) => ({ id, text: `Option ${id}`, right: id === 'a' })),
    };
    const answers = [['a'], ['a', 'b'], []].map((chosen) => ({ answer: { kind: 'choice' as const, chosen } }));
    expect(choiceCounts(choice, answers)).toEqual([2, 1, 0]);
    render(
      <PartPanel
        part={choice}
        sheet={sheetOf(choice, [
          answered('Aino', { kind: 'choice', chosen: ['b'] }, false),
          answered('Bram', { kind: 'choice', chosen: ['b'] }, false),
        ])}
        chosen={undefined}
        onChoose={() => undefined}
      />,
    );
    const lines = within(screen.getByRole('region', { name: 'What was chosen' })).getAllByRole('listitem');
    expect(lines.map((line) => line.querySelector('b')!.textContent)).toEqual(['0', '2', '0']);
  });

  test('points of everyone lie in one plane; what cannot be read is left out', async () => {
    const points: Part = {
      ...{ id: 'p', kind: 'points', title: 'Poles', prompt: '', points: 1 },
      ...{ of: '1/(s+1)', what: 'poles', tolerancePercent: 1 },
    };
    const sheet = sheetOf(points, [
      answered('Aino Berg', text('points', '-1 ± 2j'), true),
      answered('Bram Oz', text('points', '-3'), false),
      answered('Cato Lund', text('points', 'left'), false),
    ]);
    const chosen: string[] = [];
    const { container } = render(
      <PartPanel part={points} sheet={sheet} chosen="Bram Oz" onChoose={(id) => chosen.push(id)} />,
    );
    expect(screen.getByText('Points of 3, 1 have them all')).toBeTruthy();
    const marks = [...container.querySelectorAll('[data-answer]')];
    expect(marks.map((mark) => mark.getAttribute('data-answer'))).toEqual(['Aino Berg', 'Aino Berg', 'Bram Oz']);
    // Whoever is chosen is drawn last, over the others.
    expect(marks.at(-1)!.classList.contains('fill-copper')).toBe(true);
    await userEvent.click(marks[0]!);
    expect(chosen).toEqual(['Aino Berg']);
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    const rows = screen.getAllByRole('row').map((line) => line.textContent);
    expect(rows).toEqual(['studentreal partimaginary partmet', 'Aino Berg−12yes', 'Aino Berg−1−2yes', 'Bram Oz−30no']);
  });

  test('answers keep the order of the class, with the numbers they were given for', () => {
    const sheet = sheetOf(part, [
      answered('Zoe', { kind: 'gains', gains: { Kp: '1' } }, true),
      answered('Aino', { kind: 'gains', gains: { Kp: '2' } }, false),
    ]);
    expect(answersTo(sheet, 'tune').map(({ name, met }) => [name, met])).toEqual([
      ['Zoe', true],
      ['Aino', false],
    ]);
    expect(answersTo(sheet, 'other')).toEqual([]);
  });
});

describe('the flock', () => {
  const names = Array.from({ length: 21 }, (_, k) => `Student ${k + 1}`);
  const answer: Answer = { kind: 'gains', gains: {} };
  const answers = names.map((name) => ({ submissionId: name, name, values: {}, answer, met: true }));
  // One of the class runs away.
  const curves = names.map((submissionId, k) => ({
    submissionId,
    curve: { times: Float64Array.from([0, 5]), values: Float64Array.from([0, k === 20 ? 400 : 1 + k / 100]) },
  }));
  const show = () =>
    render(
      <FlockPlot
        flock={{ part, horizon: 5, curves }}
        answers={answers}
        sheet={{ series: [] } as unknown as ClassSheet}
        chosen={undefined}
        onChoose={() => undefined}
      />,
    );

  test('has everyone in its table, by name', async () => {
    show();
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    const [heads] = screen.getAllByRole('row');
    expect(within(heads!).getAllByRole('columnheader')).toHaveLength(22);
    expect(heads!.textContent).toContain('Student 21');
  });

  test('Fit shows everyone; most of the class is one click away', async () => {
    const { container } = show();
    const ticks = () => container.querySelector('svg')!.textContent;
    expect(ticks()).not.toContain('400');
    await userEvent.click(screen.getByRole('button', { name: 'Fit' }));
    expect(ticks()).toContain('400');
    await userEvent.click(screen.getByRole('button', { name: 'Most' }));
    expect(ticks()).not.toContain('400');
  });
});
