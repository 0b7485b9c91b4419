/** @jest-environment jsdom */
import type { ClassSheet, Handed, Part, SheetCell } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { AnswerPanel } from '../src/classSheet/AnswerPanel';
import { SheetTable } from '../src/classSheet/SheetTable';
import { pointsByTenth, summarise } from '../src/classSheet/summary';

const part: Extract<Part, { kind: 'gains' }> = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: '2/(s^2 + s)',
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
    // As a store that keeps no order gives it back.
    answer: { kind: 'gains', gains: { Kd: '3.2', Ki: '12', Kp: '40' } },
    trail: [{ gains: { Kd: '0', Ki: '0', Kp: '4' }, holding: 1, name: 'calm' }],
    verdict: { met: false, points: 1, outOf: 3, words: '1 of 2 nails holds.', checker: '1', items: [] },
    points: 1,
    overrides: [],
    expected: null,
  };
  const sent: { path: string; body: unknown }[] = [];

  function show() {
    sent.length = 0;
    globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
      if (method === 'POST') sent.push({ path, body: JSON.parse(body as string) });
      return { ok: true, status: 200, json: async () => (method === 'POST' ? {} : handed) };
    }) as unknown as typeof fetch;
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter>
          <AnswerPanel submissionId={id} onClose={() => undefined} />
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

  test('other points are set within the part’s, and only with a reason', async () => {
    show();
    await userEvent.click(await screen.findByRole('button', { name: /Decide otherwise/ }));
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
  const cell = (points: number, look = false): SheetCell => ({
    submissionId: id,
    attempt: 1,
    version: 1,
    met: points === 3,
    points,
    outOf: 3,
    checked: true,
    look,
    items: [
      { id: 'over', met: points === 3, close: false },
      { id: 'offset', met: true, close: false },
    ],
  });
  const row = (name: string, own?: SheetCell) => ({
    person: { id: name, name },
    points: own ? own.points : null,
    cells: own ? { tune: own } : {},
  });
  const rows = [row('Aino', cell(1, true)), row('Bram'), row('Cato', cell(3))];
  const sheet = { parts: [part], outOf: 3, rows } as unknown as ClassSheet;

  test('the most points stand first, or the first name', async () => {
    render(<SheetTable sheet={sheet} chosen={undefined} onChoose={() => undefined} />);
    const names = () => screen.getAllByRole('rowheader').map((cell) => cell.textContent);
    expect(names()).toEqual(['Cato', 'Aino', 'Bram']);
    await userEvent.click(screen.getByRole('button', { name: 'Student' }));
    expect(names()).toEqual(['Aino', 'Bram', 'Cato']);
    expect(screen.getByRole('button', { name: 'Aino, Tune: 1 of 3 points, try 1' })).toBeTruthy();
  });

  test('counts who handed in, who wants a look, and the points by tenths', () => {
    expect(summarise(sheet)).toEqual({ handedIn: 2, look: 1 });
    const students = pointsByTenth(sheet).map((tenth) => tenth.students);
    expect(students).toEqual([0, 0, 0, 1, 0, 0, 0, 0, 0, 1]);
  });
});
