/** @jest-environment jsdom */
import type { Attempt, Bench } from '@nailset/core';
import { act, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useReducer } from 'react';
import { BenchSheet, type HandingIn } from '../src/bench/BenchSheet';
import { Tries } from '../src/bench/Tries';
import { workFrom, workReducer } from '../src/work/work';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const tune: Extract<Bench['parts'][number], { kind: 'gains' }> = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: 'Nudge.',
  points: 3,
  plant: '2/(s^2 + 0.8*s)',
  families: [],
  output: 'Position, m',
  controller: {
    terms: 'PD',
    form: 'parallel',
    gains: [
      { name: 'Kp', start: 4, fine: 1, coarse: 5 },
      { name: 'Kd', start: 0, fine: 0.5, coarse: 2 },
    ],
  },
  views: ['plane'],
  attempts: 3,
  horizon: 5,
  nails: [
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.01, points: 1 },
  ],
};
const model = {
  id: 'model',
  kind: 'transferFunction',
  title: 'Model',
  prompt: '',
  points: 2,
  tolerancePercent: 1,
  attempts: 3,
} as const;
const guess = {
  id: 'guess',
  kind: 'number',
  title: 'Guess',
  prompt: '',
  points: 1,
  quantity: 'overshootPercent',
  unit: '%',
  tolerancePercent: 3,
  attempts: 3,
} as const;

const id = '00000000-0000-0000-0000-000000000000';
const bench = benchWith([tune, model, guess], {
  title: 'Ferry ramp',
  statement: 'The ramp.',
  layout: 'single',
  parameters: [{ symbol: 'b', meaning: 'gain', unit: 'm', value: '2' }],
});

const attempt = (change: Partial<Attempt>): Attempt => ({
  id,
  partId: 'tune',
  attempt: 1,
  version: 1,
  handedInAt: '2026-11-20T10:00:00Z',
  checked: true,
  outOfTime: false,
  comments: [],
  returned: false,
  answer: { kind: 'gains', gains: { Kp: '4', Kd: '0' } },
  ...change,
});

function Sheet({ of = bench, handing }: { of?: Bench; handing?: Partial<HandingIn> }) {
  const [work, dispatch] = useReducer(workReducer, of, (start) => workFrom(start));
  const full = { busy: false, error: undefined, closed: false, worth: '', handIn: () => undefined, ...handing };
  return <BenchSheet bench={of} work={work} dispatch={dispatch} handing={full} />;
}

const status = () => screen.getByRole('status').textContent;
const handInButton = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' });

describe('the bench for gains', () => {
  test('shows every nail with measured value and limit, and the loop in words for screen readers', () => {
    render(<Sheet />);
    const nails = within(screen.getByRole('region', { name: 'Nails' })).getAllByRole('listitem');
    expect(nails.map((nail) => nail.getAttribute('data-met'))).toEqual(['false', 'true']);
    expect(nails[0]!.textContent).toMatch(/Overshoot.*at most 10 %/);
    expect(screen.getByRole('group', { name: /^Position, m after a step: final value 1, rise time/ })).toBeTruthy();
    expect(status()).toMatch(/^1 of 2 nails hold\. Overshoot/);
  });

  test('a rung nudges its gain and no other', async () => {
    render(<Sheet />);
    await userEvent.click(screen.getByRole('button', { name: 'Kd up by 2' }));
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Kd, typed' }).value).toBe('2');
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Kp, typed' }).value).toBe('4');
    expect(status()).toBe('All 2 nails hold.');
  });

  test('hands in what is on the bench', async () => {
    const handIn = jest.fn();
    render(<Sheet handing={{ handIn }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Kd up by 2' }));
    await userEvent.click(handInButton());
    expect(handIn).toHaveBeenCalledWith(tune, { kind: 'gains', gains: { Kp: '4', Kd: '2' } });
  });

  test('a stop is put on the trail after a moment of rest', () => {
    jest.useFakeTimers();
    render(<Sheet />);
    expect(screen.getByText(/The trail of your stops appears here/)).toBeTruthy();
    act(() => jest.advanceTimersByTime(1000));
    expect(screen.getByRole('row', { name: /^1 now .*4 0/ })).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Kp up by 5' }));
    act(() => jest.advanceTimersByTime(500));
    expect(screen.queryByRole('row', { name: /9 0/ })).toBeNull();
    act(() => jest.advanceTimersByTime(600));
    expect(screen.getByRole('row', { name: /^2 now .*9 0/ })).toBeTruthy();
    expect(document.querySelectorAll('[data-curve=first]')).toHaveLength(1);
    jest.useRealTimers();
  });

  test.each([
    [
      'all tries are used',
      { handedIn: [1, 2, 3].map((n) => attempt({ id: `${id.slice(0, -1)}${n}`, attempt: n })) },
      {},
      'All tries are used',
    ],
    ['the same was handed in before', { handedIn: [attempt({})] }, {}, 'This is what you handed in.'],
    ['the due date has passed', {}, { closed: true }, 'The due date has passed.'],
  ])('nothing can be handed in when %s', (_name, change, handing, words) => {
    render(<Sheet of={{ ...bench, ...change }} handing={handing} />);
    expect(handInButton().disabled).toBe(true);
    expect(status()).toContain(words);
  });

  test('after full marks the next part that is open is a click away', async () => {
    const verdict = { met: true, points: 3, outOf: 3, words: 'All hold.', checker: '1', items: [] };
    const solved = [attempt({ verdict }), attempt({ id: `${id.slice(0, -1)}1`, partId: 'model', verdict })];
    render(<Sheet of={{ ...bench, handedIn: solved }} />);
    await userEvent.click(screen.getByRole('button', { name: /Tune$/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Next open part' }));
    expect(screen.getByRole('button', { name: /Guess$/ }).getAttribute('aria-current')).toBe('step');
    expect(screen.queryByRole('button', { name: 'Next open part' })).toBeNull();
  });

  test('tries that were given back count as not used, and after a correction the same may be handed in again', () => {
    const handedIn = [1, 2, 3].map((n) => attempt({ id: `${id.slice(0, -1)}${n}`, attempt: n, returned: n < 3 }));
    render(<Sheet of={{ ...bench, version: 2, handedIn }} />);
    expect(screen.getByText('2 tries left')).toBeTruthy();
    expect(handInButton().disabled).toBe(false);
    expect(screen.getAllByText(/given back/)).toHaveLength(2);
  });

  test('a comment and what was checked again stand with the try', () => {
    const corrected = { version: 1, reason: 'The key was wrong.', at: '2026-11-21T10:00:00Z' };
    const comments = [{ text: 'Look at Kd.', by: 'Bram Ozturk', at: '2026-11-21T10:00:00Z' }];
    render(<Sheet of={{ ...bench, handedIn: [attempt({ corrected, comments })] }} />);
    expect(screen.getByText(/Checked again .*: The key was wrong\./)).toBeTruthy();
    expect(screen.getByText('Bram Ozturk: Look at Kd.')).toBeTruthy();
  });

  test('says what a late answer is worth while it is taken', () => {
    render(<Sheet handing={{ worth: 'Late: keeps 50 % of its points.' }} />);
    expect(status()).toMatch(/Late: keeps 50 % of its points\.$/);
    expect(handInButton().disabled).toBe(false);
  });

  test('gains that are not allowed never take the plot away, not even when the page opens with them', () => {
    const limited = {
      ...tune,
      controller: { ...tune.controller, gains: tune.controller.gains.map((gain) => ({ ...gain, low: 0, high: 10 })) },
      plant: 'Kp',
    };
    const trail = [{ gains: { Kp: '5', Kd: '1' }, holding: 0 }];
    const answer = { kind: 'gains' as const, gains: { Kp: 'many', Kd: '2' } };
    const saved = [{ partId: 'tune', answer, trail, savedAt: '', revision: 1 }];
    render(<Sheet of={{ ...bench, parts: [{ ...limited, plant: tune.plant } as typeof tune], saved }} />);
    expect(document.querySelectorAll('[data-curve=now]')).toHaveLength(1);
    expect(status()).toContain('Kp must be a number');
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Kp, typed' }).value).toBe('many');
  });

  test('Fit shows all that is drawn, unstable curves too', async () => {
    const trail = [{ gains: { Kp: '-3', Kd: '0' }, holding: 0 }];
    const answer = { kind: 'gains' as const, gains: { Kp: '4', Kd: '2' } };
    const saved = [{ partId: 'tune', answer, trail, savedAt: '', revision: 1 }];
    render(<Sheet of={{ ...bench, saved }} />);
    const plot = () => screen.getByRole('group', { name: /^Position, m after a step/ }).textContent;
    // The first curve runs away downwards.
    expect(plot()).not.toMatch(/−\d/);
    await userEvent.click(screen.getAllByRole('button', { name: 'Fit' })[0]!);
    expect(plot()).toMatch(/−\d/);
  });

  test('an error of the server stands in the bar', () => {
    render(<Sheet handing={{ error: 'No connection to Nailset.' }} />);
    expect(screen.getByRole('alert').textContent).toBe('No connection to Nailset.');
  });

  test('a plant that cannot be used is told instead of a plot', () => {
    const broken = { ...bench, parts: [{ ...tune, plant: 's^2/(s+1)' }] };
    render(<Sheet of={broken} />);
    expect(screen.getAllByText(/more zeros than poles/).length).toBeGreaterThan(0);
    expect(handInButton().disabled).toBe(true);
  });
});

describe('the bench for what is typed', () => {
  const open = (name: string) => userEvent.click(screen.getByRole('button', { name: new RegExp(name) }));

  test('a fraction is read with the student’s own numbers', async () => {
    render(<Sheet />);
    await open('Model');
    expect(status()).toBe('Type your answer first.');
    await userEvent.type(screen.getByRole('textbox'), 'b/(s^2+2s+5)');
    expect(screen.getByText(/−1 ± 2j/)).toBeTruthy();
    expect(screen.getByText('0.4')).toBeTruthy();
    expect(handInButton().disabled).toBe(false);
  });

  test('a fraction with a slip of the pen cannot be handed in', async () => {
    render(<Sheet />);
    await open('Model');
    await userEvent.type(screen.getByRole('textbox'), 'b/(s^2+2s');
    expect(status()).toBe('A bracket opened here is never closed.');
    expect(handInButton().disabled).toBe(true);
  });

  test('a number takes its unit, and keeps the curve back until it may be seen', async () => {
    const { rerender } = render(<Sheet />);
    await open('Guess');
    await userEvent.type(screen.getByRole('textbox'), '12.5 %');
    expect(handInButton().disabled).toBe(false);
    expect(document.querySelector('[data-curve]')).toBeNull();
    const solutions = [
      { partId: 'guess', text: '16.3 %', curve: { label: '', times: [0, 1, 2], values: [0, 1.1, 1] } },
    ];
    rerender(<Sheet of={{ ...bench, solutions }} />);
    expect(screen.getByText(/Expected 16.3 %/)).toBeTruthy();
    expect(document.querySelectorAll('[data-curve=now]')).toHaveLength(1);
  });
});

describe('what was handed in', () => {
  const verdict = (points: number, met: boolean): NonNullable<Attempt['verdict']> => ({
    checker: '1',
    met,
    points,
    outOf: 3,
    words: '',
    items: [
      {
        id: 'over',
        label: 'Overshoot',
        unit: '%',
        measured: 20,
        limit: 10,
        relation: 'atMost',
        met,
        close: false,
        points,
        outOf: 3,
        words: 'Overshoot 20 %, limit 10 %: 10 points too high.',
      },
    ],
  });

  test('the newest try stands open, with words, and older ones folded', () => {
    render(
      <Tries
        version={2}
        attempts={[
          attempt({ verdict: verdict(0, false) }),
          attempt({ attempt: 2, version: 2, verdict: verdict(3, true) }),
        ]}
      />,
    );
    expect(screen.getByText('Try 2')).toBeTruthy();
    expect(screen.getByText('3 of 3 points')).toBeTruthy();
    expect(screen.getByText('Try 1: 0 of 3 points')).toBeTruthy();
    expect(screen.getByText(/version 1/)).toBeTruthy();
  });

  test('a decision of the instructor replaces the points and gives the reason', () => {
    render(
      <Tries
        version={1}
        attempts={[attempt({ verdict: verdict(0, false), override: { points: 2, reason: 'Right on paper.' } })]}
      />,
    );
    expect(screen.getByText('2 of 3 points')).toBeTruthy();
    expect(screen.getByText(/Points set to 2 by your instructor: Right on paper\./)).toBeTruthy();
  });

  test('without a verdict it is said to be recorded', () => {
    render(<Tries version={1} attempts={[attempt({})]} />);
    expect(screen.getByText('Recorded. The verdict follows later.')).toBeTruthy();
  });
});
