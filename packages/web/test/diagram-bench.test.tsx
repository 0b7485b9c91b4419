/** @jest-environment jsdom */
import type { Attempt, Bench, StudentPart } from '@nailset/core';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useReducer } from 'react';
import { BenchSheet } from '../src/bench/BenchSheet';
import { sameAnswer } from '../src/kinds/students';
import type { Work } from '../src/loop/action';
import { workFrom, workReducer } from '../src/work/work';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const id = '00000000-0000-0000-0000-000000000000';
const equations = 'e = r - H*y\nu = C*e\ny = G*u';
const heading = { title: 'Loop', prompt: '', points: 2, attempts: 3, system: 'L', equations };
const overall: StudentPart = {
  ...heading,
  id: 'overall',
  kind: 'diagram',
  asked: [{ id: 'y', from: 'r', to: 'y', points: 2 }],
  tolerancePercent: 0,
};
const reduce: StudentPart = { ...heading, id: 'reduce', kind: 'reduction', from: 'r', to: 'y', typed: 'atOnce' };
const loops: StudentPart = { ...heading, id: 'loops', kind: 'paths', from: 'r', to: 'y', list: 'loops' };
const states: StudentPart = { ...heading, id: 'states', kind: 'states', tolerancePercent: 1 };

const bench = (part: StudentPart, more: Partial<Bench> = {}): Bench =>
  benchWith([part], { parameters: [{ symbol: 'K', meaning: '', unit: '', value: '2' }], ...more });

let work: Work;
let handed: unknown;
function Sheet({ of }: { of: Bench }) {
  const [now, dispatch] = useReducer(workReducer, of, (start) => workFrom(start));
  work = now;
  const handing = {
    busy: false,
    error: undefined,
    closed: false,
    worth: '',
    handIn: (_part: StudentPart, answer: unknown) => void (handed = answer),
  };
  return <BenchSheet bench={of} work={now} dispatch={dispatch} handing={handing} />;
}
const handIn = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' });

describe('a transfer function of a diagram', () => {
  test('is typed in the letters of the picture; others are refused at their place', async () => {
    render(<Sheet of={bench(overall)} />);
    const field = await screen.findByRole('textbox', { name: /^From r to y/ });
    expect(handIn().disabled).toBe(true);
    await userEvent.type(field, 'C*Q');
    expect(screen.getByText(/“Q” is not in the diagram; its letters: H, C, G/)).toBeTruthy();
    await userEvent.clear(field);
    await userEvent.type(field, 'K*C*G/(1+C*G*H)');
    await userEvent.click(handIn());
    expect(handed).toEqual({ kind: 'diagram', texts: { y: 'K*C*G/(1+C*G*H)' } });
  });

  test('what a slip was about is marked on the picture', async () => {
    const attempt: Attempt = {
      id,
      partId: 'overall',
      attempt: 1,
      version: 1,
      handedInAt: '2026-11-20T10:00:00Z',
      checked: true,
      outOfTime: false,
      comments: [],
      returned: false,
      answer: { kind: 'diagram', texts: { y: 'C*G' } },
      verdict: {
        checker: '3',
        met: false,
        points: 0,
        outOf: 2,
        words: 'y/r is not equal yet.',
        items: [],
        slip: { id: 'loop', words: 'As if the feedback to the first sum were missing.', place: ['e'] },
      },
    };
    render(<Sheet of={bench(overall, { handedIn: [attempt] })} />);
    const sum = await screen.findByText('As if the feedback to the first sum were missing.');
    expect(sum).toBeTruthy();
    await screen.findByRole('group', { name: 'Block diagram of Loop' });
    expect(document.querySelector('[data-shape=e] circle')!.getAttribute('stroke')).toBe('var(--color-brick)');
    expect(document.querySelector('[data-shape=y] rect')!.getAttribute('stroke')).toBe('var(--color-ink)');
  });
});

describe('a reduction on the bench', () => {
  const part = (name: RegExp | string) => screen.findByRole('button', { name });

  test('offers the moves of what is chosen, asks what they give, and keeps a ledger that can be gone back', async () => {
    render(<Sheet of={bench(reduce)} />);
    await userEvent.click(await part('Block C: takes e, gives u'));
    await userEvent.click(await part('Block G: takes u, gives y'));
    const moves = within(screen.getByRole('region', { name: 'Moves' }));
    expect(moves.getAllByRole('button').map((button) => button.textContent)).toEqual(['Series: C and G']);
    await userEvent.click(moves.getByRole('button'));
    const field = screen.getByRole('textbox', { name: 'What does it give?' });
    await userEvent.type(field, 'C + G{Enter}');
    expect(screen.getByRole('alert').textContent).toMatch(/not what this step gives/);
    await userEvent.clear(field);
    await userEvent.type(field, 'G*C{Enter}');
    expect(work.answers['reduce']).toMatchObject({ steps: [{ kind: 'series', of: ['u', 'y'], gain: 'G*C' }] });

    await userEvent.click(await part('Block G*C: takes e, gives y'));
    await userEvent.click(screen.getByRole('button', { name: /^Loop around/ }));
    await userEvent.type(screen.getByRole('textbox', { name: 'What does it give?' }), 'C*G/(1+C*G*H){Enter}');
    expect(screen.getByText(/^One block is left/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.queryByText(/^One block is left/)).toBeNull();
    await userEvent.click(handIn());
    expect((handed as { steps: unknown[] }).steps).toHaveLength(2);
  });

  test('another move from an earlier step is another way; the first one is kept', async () => {
    render(<Sheet of={bench({ ...reduce, typed: 'no' })} />);
    await userEvent.click(await part('Block C: takes e, gives u'));
    await userEvent.click(screen.getByRole('button', { name: 'Series: C and G' }));
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    await userEvent.click(await part('Block C: takes e, gives u'));
    await userEvent.click(screen.getByRole('button', { name: 'Sum behind C' }));
    expect(work.answers['reduce']).toMatchObject({ steps: [{ kind: 'sumBehind' }] });
    await userEvent.click(screen.getByRole('button', { name: 'Way 1' }));
    expect(work.answers['reduce']).toMatchObject({ steps: [{ kind: 'series' }] });
    expect(screen.getByRole('button', { name: 'Way 1' })).toBeTruthy();
  });
});

test('loops are listed one a line and read back', async () => {
  render(<Sheet of={bench(loops)} />);
  await userEvent.type(await screen.findByRole('textbox', { name: /every loop/ }), '-C*G*H{Enter}C*(');
  const read = screen.getByRole('list', { name: 'As understood' });
  expect(read.textContent).toMatch(/never closed|stops where/);
  expect(work.answers['loops']).toEqual({ kind: 'paths', text: '-C*G*H\nC*(' });
});

test('state matrices want all four', async () => {
  render(<Sheet of={bench(states)} />);
  await userEvent.type(await screen.findByRole('textbox', { name: 'A' }), '0 1');
  expect(handIn().disabled).toBe(true);
  for (const name of ['B', 'C', 'D']) await userEvent.type(screen.getByRole('textbox', { name }), '1');
  await userEvent.click(handIn());
  expect(handed).toEqual({ kind: 'states', a: '0 1', b: '1', c: '1', d: '1' });
});

test('answers about diagrams are the same whatever their blanks', () => {
  const texts = (y: string) => ({ kind: 'diagram' as const, texts: { y } });
  expect(sameAnswer(texts('C * G'), texts('C*G'))).toBe(true);
  expect(sameAnswer(texts('C*G'), texts('G*C'))).toBe(false);
  const step = { kind: 'reduction' as const, steps: [{ kind: 'series' as const, of: ['u', 'y'] }] };
  expect(sameAnswer(step, { ...step, steps: [] })).toBe(false);
});
