/** @jest-environment jsdom */
import type { CorrectionPreview, Marks, Recheck, RosterPlan } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { CorrectionView } from '../src/corrections/CorrectionView';
import { changeOf, outcomes } from '../src/corrections/outcome';
import { MarkingDialog } from '../src/marks/MarkingDialog';
import { MyMarks } from '../src/marks/MyMarks';
import { percent } from '../src/marks/percent';
import { ListDialog } from '../src/people/ListDialog';
import { isFoundIn } from '../src/shared/found';
import { readText } from '../src/shared/readText';
import { answered, watchSizes } from './page';

beforeAll(watchSizes);

const sent: { ask: string; body: unknown }[] = [];
let replies: Record<string, unknown> = {};

function show(view: ReactNode): void {
  sent.length = 0;
  globalThis.fetch = (async (path: string, { method = 'GET', body }: RequestInit) => {
    const ask = `${method} ${path.replace('/api', '')}`;
    sent.push({ ask, body: body ? JSON.parse(body as string) : undefined });
    const reply = replies[ask] ?? {};
    if (reply instanceof Error) return answered(422, { error: { code: 'badRequest', message: reply.message } });
    return answered(200, reply);
  }) as unknown as typeof fetch;
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <Routes>
          <Route path="*" element={view} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

describe('a list of names', () => {
  const row = (line: number, change: RosterPlan['rows'][number]['change'], words: string) => ({
    ...{ line, email: `sailor${line}@harbour.example`, name: `Sailor ${line}` },
    ...{ studentNumber: null, group: null, change, words },
  });
  const plan: RosterPlan = {
    rows: [row(2, 'new', 'gets an account'), row(3, 'known', 'no change')],
    unread: [{ line: 4, text: 'nobody', problem: 'There is no e-mail.' }],
    links: [],
  };

  const lookAt = async (text: string) => {
    show(<ListDialog courseId="c1" />);
    await userEvent.click(screen.getByRole('button', { name: /Add from a list/ }));
    await userEvent.type(screen.getByLabelText('Paste the list'), text);
    await userEvent.click(screen.getByRole('button', { name: 'Look at it' }));
  };

  test('is looked at, and only then taken in; new people’s links are shown', async () => {
    const ask = 'POST /courses/c1/people/lists';
    replies = { [ask]: plan };
    await lookAt('sailor2@harbour.example');
    expect(await screen.findByText('1 new · 1 as they are · 1 not readable')).toBeTruthy();
    expect(
      within(screen.getByRole('list', { name: 'Not readable' })).getByText(/Line 4: There is no e-mail/),
    ).toBeTruthy();
    const link = { name: 'Sailor 2', email: 's@h', studentNumber: '', group: '', path: '/new-password#secret' };
    replies = { [ask]: { ...plan, links: [link] } };
    await userEvent.click(screen.getByRole('button', { name: 'Take in 1' }));
    expect(await screen.findByText(/new-password#secret/)).toBeTruthy();
    const uploads = sent.filter((each) => each.ask === ask).map(({ body }) => body as { apply: boolean });
    expect(uploads.map(({ apply }) => apply)).toEqual([false, true]);
  });

  test('is there to be mended: what was pasted stays, and the same file can be chosen again', async () => {
    const ask = 'POST /courses/c1/people/lists';
    replies = { [ask]: plan };
    await lookAt('sailor2@harbour');
    await userEvent.click(await screen.findByRole('button', { name: 'Another list' }));
    expect(screen.getByLabelText<HTMLTextAreaElement>('Paste the list').value).toBe('sailor2@harbour');
    // What cannot be read at all is refused, and the dialog stays where it is.
    replies = { [ask]: new Error('There is nothing in it.') };
    const file = Object.assign(new File([], 'class.csv'), { arrayBuffer: async () => new ArrayBuffer(0) });
    const looks = () => sent.filter((each) => each.ask === ask).length;
    for (const k of [2, 3]) {
      await userEvent.upload(screen.getByLabelText(/or choose files/), file);
      await waitFor(() => expect(looks()).toBe(k));
      expect(await screen.findByText('There is nothing in it.')).toBeTruthy();
    }
  });

  test.each([
    ['UTF-8', new Uint8Array([0x4a, 0xc3, 0xb6, 0x72, 0x67])],
    ['Windows’ Latin', new Uint8Array([0x4a, 0xf6, 0x72, 0x67])],
    ['UTF-16', new Uint8Array([0xff, 0xfe, 0x4a, 0, 0xf6, 0, 0x72, 0, 0x67, 0])],
  ])('a file in %s is read as it was written', async (_, bytes) => {
    const file = { arrayBuffer: async () => bytes.buffer } as unknown as Blob;
    expect((await readText(file)).replace('\uFEFF', '')).toBe('Jörg');
  });

  test.each([
    ['Jörg Ågren', 'agren jorg', true],
    ['李 明', '明', true],
    ['Ilse Okafor', 'ilse berg', false],
  ])('%s is found by “%s”: %s', (text, typed, found) => expect(isFoundIn(text, typed)).toBe(found));
});

describe('a correction', () => {
  const recheck = (name: string, before: number, after: number | null, byHand = false): Recheck => ({
    ...{ submissionId: name, personId: name, name, partId: 'a', attempt: 1, byHand },
    before: { points: before, outOf: 2, words: 'then', version: 1 },
    after: after === null ? null : { points: after, outOf: 2, words: 'now' },
    problem: after === null ? 'This version has no such part.' : null,
  });
  const rows = [
    recheck('Aino', 0, 2),
    recheck('Bram', 2, 0),
    recheck('Cato', 1, 1),
    recheck('Dara', 1, null),
    recheck('Edda', 0, 2, true),
  ];
  const preview: CorrectionPreview = {
    ...{ id: 'k', version: 2, state: 'ready', done: 5, total: 5, by: 'Marit', at: '2026-11-20T10:00:00Z' },
    ...{ counting: null, reason: '', givesBack: false, appliedAt: null, rows },
  };

  test('tells who gains, loses, stays and cannot be checked; points set by hand stay', () => {
    expect(rows.map((row) => changeOf(row).outcome)).toEqual(['gains', 'loses', 'stays', 'unread', 'stays']);
    expect(outcomes(rows)).toEqual({ gains: 1, loses: 1, stays: 2, unread: 1 });
  });

  test('is filtered, and counts only with a reason', async () => {
    replies = { 'GET /exercises/e/corrections/k': preview };
    show(<CorrectionView exerciseId="e" id="k" parts={[{ id: 'a', title: 'Model' }]} mayChange />);
    await userEvent.click(await screen.findByRole('button', { name: '1 lose' }));
    expect(screen.getAllByRole('rowheader').map((cell) => cell.textContent)).toEqual(['Bram']);
    await userEvent.click(screen.getByRole('button', { name: /Let it count/ }));
    const apply = screen.getByRole<HTMLButtonElement>('button', { name: 'Let it count' });
    expect(screen.getByText('1 gain points, nobody loses any.')).toBeTruthy();
    await userEvent.click(screen.getByLabelText('the newer'));
    expect(screen.getByText('1 gain points and 1 lose some.')).toBeTruthy();
    expect(apply.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText(/Reason/), 'The key was wrong.');
    await userEvent.click(apply);
    expect(sent.find(({ ask }) => ask.startsWith('POST'))).toEqual({
      ask: 'POST /exercises/e/corrections/k/application',
      body: { counting: 'newer', reason: 'The key was wrong.', givesBack: false },
    });
  });
});

describe('marks', () => {
  const marks: Marks = {
    course: 'Harbour machinery',
    marking: {
      sets: [
        { id: 'w', name: 'Weekly', weight: 30, best: 1 },
        { id: 'f', name: 'Final', weight: 70, best: null },
      ],
      exercises: { b: { set: 'f', weight: null, bonus: false } },
    },
    exercises: ['a', 'b', 'c'].map((id) => ({ id, title: `Exercise ${id}`, outOf: 4, dueAt: null, parts: [] })),
    rows: [
      {
        person: { id: 'p', name: 'Ilse', email: '', studentNumber: '', group: '' },
        cells: [
          { points: 4, outOf: 4, excused: null, open: false, parts: [], counting: 'counts' },
          { points: 2, outOf: 4, excused: null, open: false, parts: [], counting: 'counts' },
          { points: 1, outOf: 4, excused: null, open: false, parts: [], counting: 'dropped' },
        ],
        sets: [1, 0.5],
        total: 0.65,
      },
    ],
  };

  test('a student sees how their mark is made', async () => {
    replies = { 'GET /courses/c1/marks/mine': marks };
    show(<MyMarks courseId="c1" />);
    const weekly = within(await screen.findByRole('region', { name: 'Weekly' }));
    expect(weekly.getByText(/30 % of the total · the best 1 count/)).toBeTruthy();
    expect(weekly.getAllByRole('row').map((row) => row.textContent)).toEqual([
      'ExerciseHow it countsPoints',
      'Exercise acounts4 of 4 points',
      'Exercise cnot among the best1 of 4 points',
    ]);
    expect(screen.getByText('65.0 %')).toBeTruthy();
    expect([percent(null), percent(1), percent(0.8725)]).toEqual(['–', '100.0 %', '87.3 %']);
  });

  test('weights, sets and the best n are set together; what is not understood is not saved', async () => {
    show(<MarkingDialog courseId="c1" marks={marks} />);
    await userEvent.click(screen.getByRole('button', { name: /Weights/ }));
    const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
    const best = screen.getByLabelText('How many of Weekly count');
    await userEvent.clear(best);
    await userEvent.type(best, '0,5');
    expect(save.disabled).toBe(true);
    await userEvent.clear(best);
    await userEvent.type(best, '2');
    await userEvent.selectOptions(screen.getByLabelText('Set of Exercise c'), 'f');
    await userEvent.click(screen.getByRole('button', { name: 'Remove Final' }));
    await userEvent.click(save);
    expect(sent.at(-1)).toMatchObject({
      ask: 'PUT /courses/c1/marking',
      body: {
        sets: [{ id: 'w', best: 2 }],
        exercises: { b: { set: 'w' }, c: { set: 'w' } },
      },
    });
  });
});
