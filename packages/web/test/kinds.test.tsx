/** @jest-environment jsdom */
import type { Answer, Bench, StudentPart } from '@nailset/core';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useReducer } from 'react';
import { BenchSheet } from '../src/bench/BenchSheet';
import { workFrom, workReducer } from '../src/work/work';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const id = '00000000-0000-0000-0000-000000000000';
const heading = { title: 'Part', prompt: '', points: 2, attempts: 2 };
const bench = (part: StudentPart, more: Partial<Bench> = {}): Bench => benchWith([part], { attempts: 2, ...more });

function Sheet({ of, handIn = () => undefined }: { of: Bench; handIn?: (part: StudentPart, answer: Answer) => void }) {
  const [work, dispatch] = useReducer(workReducer, of, (start) => workFrom(start));
  return (
    <BenchSheet
      bench={of}
      work={work}
      dispatch={dispatch}
      handing={{ busy: false, error: undefined, closed: false, worth: '', handIn }}
    />
  );
}

const button = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Hand in' });
const status = () => screen.getByRole('status').textContent;

describe('a choice', () => {
  const options = [
    { id: 'a', text: 'It swings.' },
    { id: 'b', text: 'It creeps to $K$.' },
  ];
  const one: StudentPart = { ...heading, id: 'c', kind: 'choice', several: false, options };

  test('of one waits for it, and the last click counts', async () => {
    const handIn = jest.fn();
    render(<Sheet of={bench(one)} handIn={handIn} />);
    expect(status()).toBe('Choose one first.');
    expect(button().disabled).toBe(true);
    const [swings, creeps] = screen.getAllByRole('radio');
    await userEvent.click(swings!);
    await userEvent.click(creeps!);
    await userEvent.click(button());
    expect(handIn).toHaveBeenCalledWith(one, { kind: 'choice', chosen: ['b'] });
  });

  test('of several may be none, and a second click takes one back', async () => {
    const handIn = jest.fn();
    const several = { ...one, several: true };
    render(<Sheet of={bench(several)} handIn={handIn} />);
    const [first, second] = screen.getAllByRole('checkbox');
    await userEvent.click(first!);
    await userEvent.click(second!);
    await userEvent.click(first!);
    await userEvent.click(button());
    expect(handIn).toHaveBeenCalledWith(several, { kind: 'choice', chosen: ['b'] });
  });

  test('what is right is shown once it may be', () => {
    render(<Sheet of={bench(one, { solutions: [{ partId: 'c', text: 'It swings.' }] })} />);
    expect(screen.getByText('Right: It swings.')).toBeTruthy();
  });
});

describe('a prediction', () => {
  const line = (label: string) => ({ label, times: [0, 1, 2], values: [0, 1, 1] });
  const figure = { horizon: 2, input: line('input'), curves: [line('known')], afterwards: 1 };
  const part: StudentPart = {
    ...heading,
    attempts: 1,
    id: 'p',
    kind: 'number',
    unit: 's',
    tolerancePercent: 3,
    figure,
  };

  test('shows what is given and keeps the rest until it is committed', () => {
    const { rerender } = render(<Sheet of={bench(part)} />);
    expect(document.querySelectorAll('[data-curve]')).toHaveLength(1);
    expect(screen.getByText(/Say first, then see/)).toBeTruthy();
    const handedIn = [
      {
        id,
        partId: 'p',
        attempt: 1,
        version: 1,
        handedInAt: '2026-11-20T10:00:00Z',
        checked: true,
        outOfTime: false,
        comments: [],
        returned: false,
        answer: { kind: 'number' as const, text: '2' },
      },
    ];
    rerender(<Sheet of={bench(part, { handedIn, revealed: [{ partId: 'p', curves: [line('secret')] }] })} />);
    expect(document.querySelectorAll('[data-curve]')).toHaveLength(2);
    expect(screen.getByText('secret')).toBeTruthy();
    expect(screen.queryByText(/Say first, then see/)).toBeNull();
    expect(status()).toContain('All tries are used');
  });
});

describe('a trend table', () => {
  const part: StudentPart = {
    ...heading,
    id: 't',
    kind: 'trend',
    changes: [
      { id: 'kp', label: 'Kp up' },
      { id: 'kd', label: 'Kd up' },
    ],
    rows: [{ id: 'rise', label: 'Rise time' }],
  };

  test('can be handed in when every cell is filled', async () => {
    const handIn = jest.fn();
    render(<Sheet of={bench(part)} handIn={handIn} />);
    expect(status()).toBe('2 cells are still open.');
    const cell = (name: string) => within(screen.getByRole('radiogroup', { name }));
    await userEvent.click(cell('Rise time, Kp up').getByRole('radio', { name: 'goes down' }));
    expect(status()).toBe('One cell is still open.');
    await userEvent.click(cell('Rise time, Kd up').getByRole('radio', { name: 'stays' }));
    await userEvent.click(button());
    expect(handIn).toHaveBeenCalledWith(part, { kind: 'trend', cells: { 'rise/kp': 'down', 'rise/kd': 'same' } });
  });
});

describe('a curve to follow', () => {
  const times = Array.from({ length: 21 }, (_, k) => k / 4);
  const part: StudentPart = {
    ...heading,
    id: 'f',
    kind: 'curve',
    model: 'K*H',
    knobs: [{ symbol: 'K', unit: 'm', start: 1, fine: 0.1, coarse: 0.5, low: 0, high: 3 }],
    known: { H: '1/(s+1)' },
    target: { label: 'record', times, values: times.map((t) => 2 * (1 - Math.exp(-t))) },
    output: 'Level, m',
    horizon: 5,
    misfitPercent: 2,
  };

  test('tells its misfit on every nudge and stays on the ladder', async () => {
    render(<Sheet of={bench(part)} />);
    const nail = () => screen.getByRole('region', { name: 'Nails' }).querySelector('li')!;
    expect(nail().getAttribute('data-met')).toBe('false');
    await userEvent.click(screen.getByRole('button', { name: 'K up by 0.5' }));
    await userEvent.click(screen.getByRole('button', { name: 'K up by 0.5' }));
    expect(nail().getAttribute('data-met')).toBe('true');
    expect(status()).toContain('the model follows');
    for (let k = 0; k < 4; k++) await userEvent.click(screen.getByRole('button', { name: 'K up by 0.5' }));
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'K, typed' }).value).toBe('3');
  });

  test('keeps its last curve while a number is being typed', () => {
    render(<Sheet of={bench(part)} />);
    fireEvent.change(screen.getByRole('textbox', { name: 'K, typed' }), { target: { value: '-' } });
    expect(document.querySelectorAll('[data-curve=now]')).toHaveLength(1);
    expect(status()).toMatch(/K must be a number/);
    expect(button().disabled).toBe(true);
  });
});

describe('a loop with all its views', () => {
  const family = 'Family over a gain or parameter';
  const part: StudentPart = {
    ...heading,
    id: 'g',
    kind: 'gains',
    plant: '2/(s^2 + 0.8*s)',
    families: [
      { parameter: 'a', members: ['0.5', '2'].map((value) => ({ value, plant: `2/(s^2 + ${value}s)` })), sweep: [] },
    ],
    controller: {
      terms: 'PID',
      form: 'ideal',
      filterTime: '0.05',
      gains: [
        { name: 'Kp', start: 4, fine: 0.5, coarse: 2 },
        { name: 'Ti', start: 5, fine: 0.5, coarse: 2 },
        { name: 'Td', value: '0.5' },
      ],
    },
    output: 'Position, m',
    effort: 'Drive, kN',
    horizon: 5,
    views: ['effort', 'plane'],
    tunedStart: true,
    disturbance: { kind: 'levels', from: 0, to: 1, at: 3 },
    nails: [
      { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
      { id: 'peak', quantity: 'largestMagnitude', signal: 'u', relation: 'atMost', limit: 50, points: 1 },
    ],
  };

  test('draws effort and poles, and writes the controller in both forms', () => {
    render(<Sheet of={bench(part)} />);
    expect(screen.getByRole('img', { name: /^Drive, kN: largest/ })).toBeTruthy();
    expect(screen.getByRole('img', { name: /^Closed-loop poles: poles at/ })).toBeTruthy();
    const formulas = [...document.querySelectorAll('annotation')].map((node) => node.textContent);
    expect(formulas.find((text) => text?.startsWith('C(s)='))).toMatch(/4\\left\(1\+.*=.*4\+/);
    expect(screen.getByText('Largest value of the effort')).toBeTruthy();
    expect(screen.queryByRole('textbox', { name: 'Td, typed' })).toBeNull();
  });

  test('readings are set by a click, moved by keys and removed', () => {
    render(<Sheet of={bench(part)} />);
    fireEvent.click(screen.getByRole('group', { name: /^Position, m after a step/ }), { clientX: 300 });
    const reading = screen.getByRole('slider', { name: 'Reading on the curve' });
    const before = Number(reading.getAttribute('aria-valuenow'));
    fireEvent.keyDown(reading, { key: 'ArrowRight' });
    expect(Number(reading.getAttribute('aria-valuenow'))).toBeCloseTo(before + 5 / 200, 9);
    fireEvent.keyDown(reading, { key: 'Delete' });
    expect(screen.queryByRole('slider')).toBeNull();
    fireEvent.keyDown(document.body, { key: 'r' });
    expect(screen.getByRole('slider').getAttribute('aria-valuenow')).toBe('1.25');
  });

  test('shows the error, a family and no ghosts when asked', async () => {
    render(<Sheet of={bench(part)} />);
    await userEvent.selectOptions(screen.getByLabelText(family), 'Kp');
    expect(document.querySelectorAll('[data-curve^=family]')).toHaveLength(4);
    await userEvent.selectOptions(screen.getByLabelText(family), 'a');
    expect(
      [...document.querySelectorAll('[data-curve^=family]')].map((curve) => curve.getAttribute('data-curve')),
    ).toEqual(['family-a 0.5', 'family-a 2']);
    await userEvent.selectOptions(screen.getByLabelText('Signal shown'), 'e');
    expect(screen.getByText('Error, reference minus measured')).toBeTruthy();
    const ghosts = screen.getByRole('button', { name: 'Ghosts' });
    await userEvent.click(ghosts);
    expect(ghosts.getAttribute('aria-pressed')).toBe('false');
  });

  test('offers ways to start, drawn before one is taken', async () => {
    render(<Sheet of={bench(part)} />);
    await userEvent.click(screen.getByRole('button', { name: 'Ways to start' }));
    const offers = await screen.findAllByRole('button', { name: /^Start from/ });
    const curves = () => document.querySelectorAll('[data-curve^=start]');
    await waitFor(() => expect(curves()).toHaveLength(4));
    const rows = screen.getByRole('table', { name: 'Ways to start, calm to quick' }).querySelectorAll('tbody tr');
    const facts = Array.from(rows, (row) =>
      Array.from(row.querySelectorAll('td'), (cell) => parseFloat(cell.textContent)),
    );
    const crossovers = facts.map(([crossover]) => crossover!);
    expect(crossovers).toEqual([...crossovers].sort((a, b) => a - b));
    expect(facts.every(([, margin, peak]) => margin! > 20 && peak! > 1 && peak! < 3)).toBe(true);
    const typed = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Kp, typed' }).value;
    expect(typed()).toBe('4');
    await userEvent.click(offers[0]!);
    expect(Number(typed())).toBeGreaterThan(0);
    expect(typed()).not.toBe('4');
    expect(curves()).toHaveLength(0);
  });
});
