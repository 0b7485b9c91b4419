/** @jest-environment jsdom */
import type { ClassSheet, EnteredPlan, LogRow } from '@nailset/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { LogPage } from '../src/course/LogPage';
import { EnteredPage } from '../src/paper/EnteredPage';
import { watchSizes } from './page';
import { type Answers, sentBy, visit } from './visit';

beforeAll(watchSizes);

describe('the log of a course', () => {
  const row = (words: string, change: Partial<LogRow> = {}): LogRow => ({
    ...{ at: '2026-11-02T10:00:00Z', by: 'Marit Solano', words, reason: '', exercise: null, person: null },
    ...change,
  });
  const rows = [
    row('changed points to 3', { exercise: 'Crane', person: 'Kofi Lindqvist', reason: 'Units were unclear.' }),
    row('moved the due date', { exercise: 'Lighthouse' }),
    row('removed from the course', { person: 'Ilse Okafor' }),
  ];
  const open = async (role: 'instructor' | 'assistant', answers: Answers = {}) => {
    visit('/courses/c/log', '/courses/:courseId/log', <LogPage />, role, { '/courses/c/log': rows, ...answers });
    await screen.findByText(/changed points/);
  };
  const told = () =>
    screen
      .getAllByRole('row')
      .slice(1)
      .map((each) => within(each).getAllByRole('cell').at(-1)!.textContent);

  test('says who did what to whom, and why', async () => {
    await open('assistant');
    expect(told()).toEqual([
      'Crane: changed points to 3“Units were unclear.”',
      'Lighthouse: moved the due date',
      'removed from the course',
    ]);
  });

  test.each([
    ['kofi', ['Crane: changed points to 3“Units were unclear.”']],
    ['lighthouse', ['Lighthouse: moved the due date']],
    ['unclear', ['Crane: changed points to 3“Units were unclear.”']],
  ])('“%s” finds by any of it', async (text, expected) => {
    await open('assistant');
    await userEvent.type(screen.getByLabelText('Find in the log'), text);
    expect(told()).toEqual(expected);
  });

  test('what is not there is said', async () => {
    await open('assistant');
    await userEvent.type(screen.getByLabelText('Find in the log'), 'whale');
    expect(screen.getByText('Nothing fits.')).toBeTruthy();
  });

  test('assistants do nothing to the course', async () => {
    await open('assistant');
    for (const name of [/Rename/, /Copy/, /Archive/]) expect(screen.queryByRole('button', { name })).toBeNull();
  });

  test('a course is renamed; a name of blanks is none', async () => {
    await open('instructor');
    await userEvent.click(screen.getByRole('button', { name: 'Rename …' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Name of the course' }));
    const rename = dialog.getByRole<HTMLButtonElement>('button', { name: 'Rename' });
    await userEvent.clear(dialog.getByLabelText('Name'));
    await userEvent.type(dialog.getByLabelText('Name'), '  ');
    expect(rename.disabled).toBe(true);
    await userEvent.type(dialog.getByLabelText('Name'), 'Dock machinery');
    await userEvent.click(rename);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(sentBy('PATCH')).toMatchObject([{ body: { name: '  Dock machinery' } }]);
  });

  test('the next year’s is copied with its dates moved, and opened', async () => {
    await open('instructor', { 'POST /copies': { id: 'next' } });
    await userEvent.click(screen.getByRole('button', { name: 'Copy …' }));
    const dialog = within(await screen.findByRole('dialog', { name: 'Copy for the next year' }));
    const weeks = dialog.getByLabelText('Dates move by weeks');
    await userEvent.clear(weeks);
    await userEvent.type(weeks, 'a year');
    expect(dialog.getByText('A whole number is needed.')).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Copy' }).disabled).toBe(true);
    await userEvent.clear(weeks);
    await userEvent.type(weeks, '26');
    await userEvent.click(dialog.getByRole('button', { name: 'Copy' }));
    expect(await screen.findByText('Somewhere else')).toBeTruthy();
    expect(sentBy('POST')[0]?.body).toMatchObject({ name: 'Harbour machinery, next year', weeks: 26 });
  });

  test('archiving asks first', async () => {
    await open('instructor');
    await userEvent.click(screen.getByRole('button', { name: 'Archive …' }));
    expect(sentBy('PATCH')).toHaveLength(0);
    await userEvent.click(await screen.findByRole('button', { name: 'Archive' }));
    await waitFor(() => expect(sentBy('PATCH')).toMatchObject([{ body: { archived: true } }]));
  });
});

describe('answers from elsewhere', () => {
  const sheet = {
    courseId: 'c',
    title: 'Crane',
    parts: [{ id: 'a', title: 'Model' }],
    rows: [],
  } as unknown as ClassSheet;
  const row = (line: number, change: Partial<EnteredPlan['rows'][number]>): EnteredPlan['rows'][number] => ({
    ...{ line, name: `Sailor ${line}`, partId: 'a', part: 'Model', text: '2/(s+1)', problem: null, known: false },
    ...change,
  });
  const plan = (entered: number): EnteredPlan => ({
    rows: [row(2, {}), row(3, { known: true }), row(4, { problem: 'Nobody here is called “Nobody”.' }), row(5, {})],
    entered,
  });
  const open = async (answers: Answers) => {
    const at = '/exercises/e/entered';
    visit(at, '/exercises/:exerciseId/entered', <EnteredPage />, 'instructor', { '/class': sheet, ...answers });
    await userEvent.type(await screen.findByLabelText('The table'), 'e-mail;Model');
  };
  const look = () => userEvent.click(screen.getByRole('button', { name: 'Look at it' }));

  test('are looked at first: those that cannot be read come on top, and nothing is handed in', async () => {
    await open({ 'POST /entered': plan(0) });
    await look();
    expect((await screen.findByRole('status')).textContent).toBe('4 answers, 1 cannot be read');
    const lines = screen.getAllByRole('row').map((each) => within(each).queryAllByRole('cell')[0]?.textContent);
    expect(lines.slice(1)).toEqual(['4', '2', '3', '5']);
    expect(screen.getByText('entered before')).toBeTruthy();
    expect(sentBy('POST').map(({ body }) => (body as { apply: boolean }).apply)).toEqual([false]);
  });

  test('only what is new is handed in', async () => {
    await open({ 'POST /entered': plan(2) });
    await look();
    await userEvent.click(await screen.findByRole('button', { name: 'Hand in 2' }));
    expect(await screen.findByText(/^2 answers are handed in/)).toBeTruthy();
    expect(sentBy('POST').at(-1)?.body).toEqual({ text: 'e-mail;Model', apply: true });
  });

  test('going back keeps the table', async () => {
    await open({ 'POST /entered': plan(0) });
    await look();
    await userEvent.click(await screen.findByRole('button', { name: 'Change the table' }));
    expect(screen.getByLabelText<HTMLTextAreaElement>('The table').value).toBe('e-mail;Model');
  });

  test('a table that cannot be read says why, and stays', async () => {
    await open({ 'POST /entered': new Error('without a column for who') });
    await look();
    expect((await screen.findByText('It is without a column for who.')).getAttribute('role')).toBe('alert');
    expect(screen.getByLabelText<HTMLTextAreaElement>('The table').value).toBe('e-mail;Model');
  });
});
