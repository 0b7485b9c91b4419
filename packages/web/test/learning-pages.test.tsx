/** @jest-environment jsdom */
import type { Home, HomeRow, Practice, PracticeResult, StudentPart, Verdict } from '@nailset/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Hints } from '../src/bench/Hints';
import { PracticePage } from '../src/bench/PracticePage';
import { WorkingNote } from '../src/bench/WorkingNote';
import { HomeView } from '../src/course/HomeView';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';
import { type Answers, sentBy, visit } from './visit';

beforeAll(watchSizes);

const day = 86_400_000;
const inDays = (days: number): string => new Date(Date.now() + days * day).toISOString();

describe('the home of a student', () => {
  const part = (id: string, state: HomeRow['parts'][number]['state']) => ({ id, title: id.toUpperCase(), state });
  const row = (id: string, change: Partial<HomeRow>): HomeRow => ({
    ...{
      id,
      title: `Exercise ${id}`,
      dueAt: inDays(5),
      extended: null,
      points: null,
      outOf: 4,
      parts: [part('a', 'open')],
    },
    ...change,
  });
  const home = async (...exercises: HomeRow[]) => {
    const body: Home = { course: 'Harbour machinery', exercises };
    visit('/courses/c', '/courses/:id', <HomeView courseId="c" />, 'student', { '/courses/c/home': body });
    await screen.findByRole('heading', { level: 1, name: 'Harbour machinery' });
  };
  const titles = (region: string) =>
    within(screen.getByRole('region', { name: region }))
      .getAllByRole('link')
      .map((link) => /Exercise [a-z]+/.exec(link.textContent ?? '')?.[0]);

  test('the soonest due comes next, at its first open part; what is past or done stands below', async () => {
    await home(
      row('late', { dueAt: inDays(-1) }),
      row('far', { dueAt: inDays(9) }),
      row('none', { dueAt: null }),
      row('soon', { dueAt: inDays(2), parts: [part('a', 'met'), part('b', 'missed'), part('c', 'open')] }),
      row('done', { dueAt: inDays(1), parts: [part('a', 'met'), part('b', 'handedIn')] }),
    );
    const next = screen.getByRole('link', { name: 'Exercise soon: C' });
    expect(next.getAttribute('href')).toBe('/exercises/soon?part=c');
    expect(titles('Open')).toEqual(['Exercise soon', 'Exercise far', 'Exercise none']);
    expect(titles('Done or past')).toEqual(['Exercise late', 'Exercise done']);
  });

  test('where every part was tried, it goes on with one that is missed', async () => {
    await home(row('x', { parts: [part('a', 'met'), part('b', 'missed')] }));
    expect(screen.getByRole('link', { name: 'Exercise x: B' })).toBeTruthy();
  });

  test('points so far are those that are told', async () => {
    await home(row('a', { points: 3.5 }), row('b', { points: 0, outOf: 6 }), row('c', { points: null, outOf: 10 }));
    expect(screen.getByText(/so far/).textContent).toBe('3.5 of 10 points so far');
  });

  test('dates of one’s own say why', async () => {
    await home(row('a', { extended: 'Was at sea' }));
    expect(screen.getByText(/yours: Was at sea/)).toBeTruthy();
  });

  test('nothing to do is said', async () => {
    await home(row('a', { dueAt: inDays(-2), points: 4 }));
    expect(screen.getByText('Nothing is open at present.')).toBeTruthy();
    await home();
    expect(await screen.findByText('No exercises yet.')).toBeTruthy();
  });
});

const asked: StudentPart = {
  ...{ id: 'over', kind: 'number', title: 'Overshoot', prompt: 'How far?', points: 3, attempts: 3 },
  ...{ unit: '%', tolerancePercent: 3, hints: [0, 1] },
};

describe('hints', () => {
  const show = (told: string[], answers: Answers) =>
    visit(
      '/x',
      '/x',
      <Hints bench={benchWith([asked], { hints: [{ partId: 'over', texts: told }] })} part={asked} />,
      'student',
      answers,
    );

  test('the first is free, the next tells its cost, and after the last none is offered', async () => {
    show([], {});
    expect(screen.getByRole('button').textContent).toBe('A hint');
    document.body.innerHTML = '';
    show(['Look at the peak.'], {});
    expect(await screen.findByText('Look at the peak.')).toBeTruthy();
    expect(screen.getByRole('button').textContent).toBe('Another hint, for 1 point');
    document.body.innerHTML = '';
    show(['Look at the peak.', 'It is e to something.'], {});
    expect(screen.queryByRole('button')).toBeNull();
  });

  test('the next by number is asked for; a refusal is told', async () => {
    show(['Look at the peak.'], { 'POST /hints': new Error('not open') });
    await userEvent.click(screen.getByRole('button'));
    expect((await screen.findByRole('alert')).textContent).toBe('It is not open.');
    expect(sentBy('POST')[0]?.body).toEqual({ partId: 'over', number: 2 });
  });
});

describe('the working', () => {
  const part = { id: 'over', title: 'Overshoot' };
  const show = (answers: Answers) => visit('/x', '/x', <WorkingNote exerciseId="e" part={part} />, 'student', answers);

  test('is fetched when it is wanted, and hidden again', async () => {
    show({ '/parts/over/working': [{ words: 'The damping ratio is', latex: '' }] });
    expect(sentBy('GET').some(({ path }) => path.endsWith('/working'))).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Show the working' }));
    expect(await screen.findByText('The damping ratio is')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Hide the working' }));
    expect(screen.queryByText('The damping ratio is')).toBeNull();
  });

  test('says so where there is none, and why where it is refused', async () => {
    show({ '/parts/over/working': [] });
    await userEvent.click(screen.getByRole('button'));
    expect(await screen.findByText('There is no working to this part.')).toBeTruthy();
    document.body.innerHTML = '';
    show({ '/parts/over/working': new Error('not told yet') });
    await userEvent.click(screen.getByRole('button'));
    expect((await screen.findByRole('alert')).textContent).toBe('It is not told yet.');
  });
});

describe('practice', () => {
  const drawn = (seed: string): Practice => ({
    seed,
    bench: benchWith([asked], { mayHandIn: true, statement: `Drawn with ${seed}.` }),
    tally: { done: 2, right: 1, slips: [] },
  });
  const verdict: Verdict = {
    ...{ checker: '1', met: false, points: 0, outOf: 3, words: '5 %: too low; within 3 % counts.' },
    items: [],
  };
  const result: PracticeResult = {
    verdict,
    solution: { partId: 'over', text: '16.3 %' },
    working: [{ words: 'It is e to the power of', latex: '' }],
    revealed: [],
    measured: [],
    tally: {
      ...{ done: 3, right: 1 },
      slips: [
        { words: 'The factor 2 is missing.', times: 2, shed: true },
        { words: 'ζ stands for ωn.', times: 3, shed: false },
      ],
    },
  };
  const page = async (answers: Answers) => {
    visit(
      '/exercises/e/practice/over',
      '/exercises/:exerciseId/practice/:partId',
      <PracticePage />,
      'student',
      answers,
    );
    await screen.findByText(/Drawn with|It is/);
  };

  test('an answer is checked with the numbers it belongs to, and everything is told', async () => {
    await page({ 'POST /practice': drawn('seed-one'), 'POST /practice/checks': result });
    expect(screen.getByText('1 of 2 right')).toBeTruthy();
    expect(screen.queryByText(/tries left/)).toBeNull();
    await userEvent.type(screen.getByRole('textbox'), '5');
    await userEvent.click(screen.getByRole('button', { name: 'Check' }));
    expect(await screen.findAllByText(/too low/)).not.toHaveLength(0);
    expect(sentBy('POST').at(-1)?.body).toEqual({
      ...{ seed: 'seed-one', partId: 'over', answer: { kind: 'number', text: '5' } },
    });
    expect(screen.getByText('Expected 16.3 %.')).toBeTruthy();
    expect(screen.getByText('It is e to the power of')).toBeTruthy();
    const soFar = within(screen.getByRole('region', { name: 'So far' }));
    expect(soFar.getByText('1 of 3 right')).toBeTruthy();
    expect(soFar.getByText('The factor 2 is missing.').className).toBe('line-through');
    expect(soFar.getByText(/3 times:/)).toBeTruthy();
  });

  test('another set of numbers is a fresh sheet', async () => {
    await page({ 'POST /practice': drawn('seed-one') });
    await userEvent.type(screen.getByRole('textbox'), '5');
    const asking = sentBy('POST').length;
    await userEvent.click(screen.getByRole('button', { name: 'Another set of numbers' }));
    await waitFor(() => expect(sentBy('POST')).toHaveLength(asking + 1));
    expect(sentBy('POST').at(-1)).toMatchObject({ body: { partId: 'over' } });
  });

  test('numbers are asked for once, and a refusal is told under a heading', async () => {
    await page({ 'POST /practice': new Error('not open to practice') });
    expect((await screen.findByRole('alert')).textContent).toContain('It is not open to practice.');
    expect(sentBy('POST')).toHaveLength(1);
    expect(screen.getByRole('heading', { level: 1 })).toBeTruthy();
  });
});
