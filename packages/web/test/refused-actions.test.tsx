/** @jest-environment jsdom */
import type { ClassSheet, Draft, Handed, PartAnswers, Shelf } from '@nailset/core';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { ExerciseMenu } from '../src/builder/ExerciseMenu';
import { AnswerPanel } from '../src/classSheet/AnswerPanel';
import { AnswersPage } from '../src/classSheet/AnswersPage';
import { LogPage } from '../src/course/LogPage';
import { ShelfView } from '../src/course/ShelfView';
import { Header } from '../src/page/Header';
import { Unforeseen } from '../src/page/Unforeseen';
import { copyText } from '../src/shared/copyText';
import { watchSizes } from './page';
import { type Answers, visit } from './visit';

beforeAll(watchSizes);

/** What was asked for and not done is said, also where no form stands to say it. */

const gone = new Error('unavailable');
const press = async (name: string | RegExp) => userEvent.click(await screen.findByRole('button', { name }));
const choose = async (name: string) => userEvent.click(await screen.findByRole('menuitem', { name }));
const show = (view: ReactElement, answers: Answers) => visit('/here', '/here', view, 'instructor', answers);

test('who could not be signed out is told to be still signed in', async () => {
  show(<Header crumbs={[]} />, { 'DELETE /session': gone });
  await press('Account of Marit Solano');
  await choose('Sign out');
  await screen.findByText('You are still signed in. It is unavailable.');
});

test.each([
  ['Duplicate', { 'POST /exercises/e/copies': gone }, 'Not duplicated. It is unavailable.'],
  ['Archive', { 'PATCH /exercises/e': gone }, 'Not archived. It is unavailable.'],
])('%s in the builder', async (action, answers, words) => {
  const draft = { id: 'e', courseId: 'c', version: 1 } as Draft;
  show(<ExerciseMenu draft={draft} disabled={false} onTakeBack={() => undefined} />, answers);
  await press('More');
  await choose(action);
  await screen.findByText(words);
});

test('an exercise that does not come back to the shelf', async () => {
  const archived = { id: 'e', title: 'Old winch', archived: true, version: 1 } as Shelf['exercises'][number];
  const shelf: Shelf = { course: 'Harbour machinery', joinCode: 'QUAY2026', exercises: [archived] };
  show(<ShelfView courseId="c" role="instructor" />, { '/courses/c/shelf': shelf, 'PATCH /exercises/e': gone });
  await screen.findByText('Archived, 1');
  await userEvent.click(screen.getByText('Back on the shelf'));
  await screen.findByText('It is unavailable.');
});

test('a course that is not archived', async () => {
  const answers = { '/courses/c/log': [], 'PATCH /courses/c': gone };
  visit('/courses/c/log', '/courses/:courseId/log', <LogPage />, 'instructor', answers);
  await press('Archive …');
  await press('Archive');
  await screen.findByText('It is unavailable.');
});

const part = { id: 'n', kind: 'number', title: 'Guess', prompt: '', points: 2, formula: '5', unit: '%' };
const given = { systems: [], series: [], answer: { kind: 'number', text: '4' }, values: {}, points: 0, outOf: 2 };

test('an answer that was looked at, and is not noted so', async () => {
  const handed = {
    ...{ id: 's', person: { id: 'p', name: 'Runa Skar', email: 'runa@harbour.example' }, part, ...given },
    ...{ version: 1, attempt: 1, handedInAt: '2026-11-20T10:00:00Z', checked: true, trail: [], overrides: [] },
    ...{ verdict: { met: false, points: 0, outOf: 2, words: '4: too low.', checker: '1', items: [] } },
    ...{ expected: null, corrected: null, comments: [], review: ['Guess: close.'], looked: false, returned: false },
    tries: [{ id: 's', attempt: 1, points: 0, counts: true }],
  } as unknown as Handed;
  const panel = <AnswerPanel submissionId="s" onClose={() => undefined} onChoose={() => undefined} />;
  show(panel, { '/submissions/s': handed, 'POST /looks': gone });
  await press('Looked at');
  await screen.findByText('It is unavailable.');
});

test('answers that are not checked again', async () => {
  const sheet = { courseId: 'c', title: 'Ferry ramp', version: 2, parts: [part], rows: [] } as unknown as ClassSheet;
  const answer = {
    ...{ submissionId: 's', personId: 'p', name: 'Cato Lund', attempt: 1, version: 1, text: '4', expected: '5' },
    ...{ handedInAt: '2026-11-20T10:00:00Z', checked: true, met: false, words: 'too low', slip: null, counts: true },
    ...{ review: [], ...given },
  } as unknown as PartAnswers['answers'][number];
  visit('/exercises/e/answers/n', '/exercises/:exerciseId/answers/:partId', <AnswersPage />, 'instructor', {
    '/exercises/e/class': sheet,
    '/parts/n/answers': { answers: [answer] },
    'POST /corrections': gone,
  });
  await userEvent.click(await screen.findByLabelText('Choose Cato Lund, try 1'));
  await press('Check again');
  await screen.findByText('It is unavailable.');
});

describe('what nothing else tells', () => {
  const failed = (type: string, what: object) =>
    act(() => void window.dispatchEvent(Object.assign(new Event(type), what)));
  const told = () => screen.queryByRole('alert')?.textContent;

  test('is told at the foot of the page, until it is closed', async () => {
    render(<Unforeseen />);
    failed('unhandledrejection', { reason: new Error('no such column') });
    expect(told()).toMatch(/^That did not work: no such column/);
    await press('Close');
    expect(told()).toBeUndefined();
    failed('error', { error: new TypeError('x is not a function') });
    expect(told()).toMatch(/x is not a function/);
  });

  test('a piece that is missing after a new release is no riddle', () => {
    render(<Unforeseen />);
    const reason = new TypeError('Failed to fetch dynamically imported module: /assets/savePlot-1.js');
    failed('unhandledrejection', { reason });
    expect(told()).toMatch(/^A piece of this page could not be loaded\. .* load the page again\./);
  });

  test('what browsers only remark is not told', () => {
    render(<Unforeseen />);
    failed('error', { error: undefined, message: 'ResizeObserver loop completed' });
    expect(told()).toBeUndefined();
  });
});

test('what the browser does not let a page copy is shown to be copied', async () => {
  const shown: string[] = [];
  window.prompt = (_, text) => (shown.push(text ?? ''), null);
  // Without HTTPS there is no clipboard at all.
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: undefined });
  expect([await copyText('a link'), shown]).toEqual([false, ['a link']]);
  const taken: string[] = [];
  // There the older way is tried first; jsdom has none.
  document.execCommand = () => taken.push((document.activeElement as HTMLTextAreaElement).value) > 0;
  expect([await copyText('older'), taken.splice(0), shown.length]).toEqual([true, ['older'], 1]);
  expect(document.querySelector('textarea')).toBeNull();
  const clipboard = { writeText: async (text: string) => void taken.push(text) };
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: clipboard });
  expect([await copyText('a link'), taken, shown.length]).toEqual([true, ['a link'], 1]);
});
