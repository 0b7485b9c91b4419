/** @jest-environment jsdom */
import type { ClassSheet, CoursePeople, ExerciseDates, PartAnswer, PartAnswers } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { AnswersPage } from '../src/classSheet/AnswersPage';
import { DatesDialog } from '../src/dates/DatesDialog';
import { Offer } from '../src/shared/ExpressionField';
import { answered, watchSizes } from './page';

beforeAll(watchSizes);

const sent: { ask: string; body: unknown }[] = [];
let replies: Record<string, unknown> = {};
const id = (k: number) => `00000000-0000-0000-0000-00000000000${k}`;

function show(address: string, path: string, view: React.ReactNode): void {
  sent.length = 0;
  globalThis.fetch = (async (asked: string, { method = 'GET', body }: RequestInit) => {
    const ask = `${method} ${asked.replace('/api', '')}`;
    sent.push({ ask, body: body ? JSON.parse(body as string) : undefined });
    return answered(200, replies[ask] ?? {});
  }) as unknown as typeof fetch;
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[address]}>
        <Routes>
          <Route path={path} element={view} />
          <Route path="/exercises/:exerciseId/again" element={<p>Checking again</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

describe('all answers to a part', () => {
  const answer = (k: number, name: string, attempt: number, change: Partial<PartAnswer>): PartAnswer => ({
    ...{ submissionId: id(k), personId: id(9), name, attempt, version: 1, handedInAt: '2026-11-20T10:00:00Z' },
    ...{ answer: { kind: 'number', text: String(k) }, values: {}, text: String(k), expected: '5 %' },
    ...{ checked: true, met: false, words: 'too low', slip: null, points: 0, outOf: 2, counts: true, review: [] },
    ...change,
  });
  const answers: PartAnswers = {
    answers: [
      answer(1, 'Aino Berg', 1, { counts: false }),
      answer(2, 'Aino Berg', 2, { met: true, points: 2 }),
      answer(3, 'Bram Oz', 1, { slip: 'A fraction, not per cent.' }),
      answer(4, 'Cato Lund', 1, { review: ['Guess: within 1 % of the limit.'] }),
    ],
  };
  const part = { id: 'n', kind: 'number', title: 'Guess', prompt: '', points: 2, formula: '5', unit: '%' };
  const sheet = { courseId: id(8), title: 'Ferry ramp', version: 2, parts: [part], rows: [] } as unknown as ClassSheet;

  beforeEach(async () => {
    replies = { 'GET /exercises/e/class': sheet, 'GET /exercises/e/parts/n/answers': answers };
    show('/exercises/e/answers/n', '/exercises/:exerciseId/answers/:partId', <AnswersPage />);
    await screen.findByText('Bram Oz');
  });
  const names = () => screen.getAllByRole('rowheader').map((cell) => cell.querySelector('a')!.textContent);

  test.each([
    ['counts', ['Aino Berg', 'Bram Oz', 'Cato Lund']],
    ['all', ['Aino Berg', 'Aino Berg', 'Bram Oz', 'Cato Lund']],
    ['missed', ['Aino Berg', 'Bram Oz', 'Cato Lund']],
    ['slip', ['Bram Oz']],
    ['review', ['Cato Lund']],
  ])('shown by “%s”', async (which, expected) => {
    await userEvent.selectOptions(screen.getByLabelText('Show'), which);
    expect(names()).toEqual(expected);
  });

  test('found by what was typed or by the slip', async () => {
    await userEvent.type(screen.getByLabelText(/Find a name/), 'fraction');
    expect(names()).toEqual(['Bram Oz']);
  });

  test('points of those that are chosen are set at once, with one reason; what is hidden is not chosen', async () => {
    await userEvent.click(screen.getByLabelText('Choose all'));
    await userEvent.selectOptions(screen.getByLabelText('Show'), 'slip');
    await userEvent.click(screen.getByRole('button', { name: 'Set points of 1 …' }));
    await userEvent.type(screen.getByLabelText('Reason'), 'The text misled.');
    await userEvent.click(screen.getByRole('button', { name: 'Set points' }));
    expect(sent.find(({ ask }) => ask.startsWith('POST'))).toEqual({
      ask: 'POST /exercises/e/points',
      body: { submissionIds: [id(3)], points: 2, reason: 'The text misled.' },
    });
  });

  test('those that are chosen are checked again against the newest version', async () => {
    await userEvent.click(screen.getByLabelText('Choose Cato Lund, try 1'));
    await userEvent.click(screen.getByRole('button', { name: 'Check again' }));
    await screen.findByText('Checking again');
    expect(sent.find(({ ask }) => ask.startsWith('POST'))!.body).toEqual({
      ...{ version: 2, partIds: [], submissionIds: [id(4)] },
    });
  });
});

describe('dates of some', () => {
  const seat = { email: 'e', studentNumber: '', removed: false, waiting: false, role: 'student' as const };
  const people = {
    people: [
      { ...seat, id: id(1), name: 'Aino Berg', group: 'Mon' },
      { ...seat, id: id(2), name: 'Gone Away', group: 'Mon', removed: true },
    ],
  } as unknown as CoursePeople;
  const dates: ExerciseDates = {
    ...{ visibleFrom: null, dueAt: '2026-12-01T17:00:00Z', late: null },
    extensions: [
      {
        ...{ id: id(5), personId: null, group: 'Mon', visibleFrom: null, dueAt: '2026-12-08T17:00:00Z' },
        ...{ late: { hours: 24, keepPercent: 50 }, reason: 'Ferry strike.', by: 'Marit', at: '2026-11-20T10:00:00Z' },
      },
    ],
  };

  test('are listed with their reason, taken away, and given to a group or one who is there', async () => {
    replies = { 'GET /exercises/e/dates': dates, 'GET /courses/c/people': people };
    show('/', '/', <DatesDialog exerciseId="e" courseId="c" />);
    await userEvent.click(screen.getByRole('button', { name: /Dates for some/ }));
    const [given] = within(await screen.findByRole('list', { name: 'Dates of some' })).getAllByRole('listitem');
    expect(given!.textContent).toMatch(/Group Mon: due Tue 8 Dec.*24 h late keep 50 %.*“Ferry strike\.”/);
    const options = within(screen.getByLabelText('For')).getAllByRole('option');
    expect(options.map((option) => option.textContent)).toEqual(['choose …', 'Mon', 'Aino Berg']);
    const give = screen.getByRole<HTMLButtonElement>('button', { name: 'Give these dates' });
    await userEvent.selectOptions(screen.getByLabelText('For'), `person ${id(1)}`);
    await userEvent.type(screen.getByLabelText('Reason'), 'Was ill.');
    expect(give.disabled).toBe(true);
    await userEvent.selectOptions(screen.getByLabelText('Late answers'), 'own');
    await userEvent.click(give);
    expect(sent.find(({ ask }) => ask.startsWith('POST'))).toEqual({
      ask: 'POST /exercises/e/extensions',
      body: {
        ...{ personIds: [id(1)], groups: [], visibleFrom: null, dueAt: null },
        ...{ late: { hours: 24, keepPercent: 50 }, reason: 'Was ill.' },
      },
    });
    await userEvent.click(screen.getByRole('button', { name: /Take away the dates of Group Mon/ }));
    expect(sent.some(({ ask }) => ask === `DELETE /exercises/e/extensions/${id(5)}`)).toBe(true);
  });
});

test('brackets that may have been forgotten are taken by a click', async () => {
  const taken: string[] = [];
  render(<Offer text="12/(s^2+1.6s+4)" onTake={(text) => taken.push(text)} />);
  await userEvent.click(screen.getByRole('button', { name: /Did you mean/ }));
  expect(taken).toEqual(['12/(s^2+1.6s+4)']);
});
