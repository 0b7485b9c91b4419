/** @jest-environment jsdom */
import type { Bench, Draft, ExerciseDocument, StudentPart } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useReducer } from 'react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { newExercise, newPart } from '../src/builder/newExercise';
import BodeBench from '../src/kinds/bode/BodeBench';
import { termsResponses } from '../src/kinds/bode/terms';
import { settingsOf } from '../src/kinds/students';
import LecternPage from '../src/lectern/LecternPage';
import { workFrom, workReducer } from '../src/work/work';
import { answered, watchSizes } from './page';
import { heightAt } from './paths';

beforeAll(() => {
  watchSizes();
  SVGElement.prototype.setPointerCapture = () => undefined;
});

describe('the lectern', () => {
  const choice = newPart('choice', ['tune'], { system: 'G' });
  const document: ExerciseDocument = {
    ...newExercise(),
    title: 'Ferry ramp, before everyone',
    parts: [choice, newPart('transferFunction', ['tune', choice.id], { system: 'G' }), ...newExercise().parts],
  };
  const open = async (of = document, state?: unknown) => {
    const draft = { document: of } as Draft;
    globalThis.fetch = (async () => answered(200, draft)) as unknown as typeof fetch;
    render(
      <QueryClientProvider client={new QueryClient()}>
        <MemoryRouter initialEntries={[{ pathname: '/exercises/e1/lectern', state }]}>
          <Routes>
            <Route path="/exercises/:exerciseId/lectern" element={<LecternPage />} />
          </Routes>
        </MemoryRouter>
      </QueryClientProvider>,
    );
    await screen.findByRole('heading', { level: 1 }).catch(() => undefined);
  };
  const question = () => within(screen.getByRole('region', { name: 'Question' }));
  const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));

  test('shows the statement with the first question alone', async () => {
    await open();
    expect(question().getByText(/A ferry ramp follows/)).not.toBeNull();
    expect(screen.getByRole('button', { name: 'Previous' })).toHaveProperty('disabled', true);
    await press('Next');
    expect(screen.getByText('2 of 3')).not.toBeNull();
    expect(question().queryByText(/A ferry ramp follows/)).toBeNull();
  });

  test('hands are counted for each question, and the right option is told only when it is revealed', async () => {
    await open();
    const counts = () => question().getAllByLabelText<HTMLInputElement>(/^Hands for/);
    fireEvent.change(counts()[0]!, { target: { value: '12' } });
    fireEvent.change(counts()[1]!, { target: { value: '4' } });
    await userEvent.click(question().getAllByLabelText(/^One hand more for/)[1]!);
    expect(counts()[1]!.value).toBe('5');
    const right = () => question().queryByText(/✓/);
    expect(right()).toBeNull();
    await press('Reveal');
    expect(right()).not.toBeNull();
    await press('Next');
    await press('Previous');
    expect(
      counts()
        .map(({ value }) => value)
        .slice(0, 2),
    ).toEqual(['12', '5']);
    await press('Hide');
    expect(right()).toBeNull();
  });

  test('what is expected is typeset after the reveal', async () => {
    await open();
    await press('Next');
    expect(screen.queryByText('Expected')).toBeNull();
    await press('Reveal');
    const expected = screen.getByText('Expected').parentElement!;
    expect(expected.querySelector('annotation')!.textContent).toContain('frac');
  });

  test('a bench that is brought along opens at its part, with its own numbers and gains', async () => {
    const part = document.parts[2]!.id;
    await open(document, { part, settings: { Kp: '7', Kd: '1.5' }, values: { a: '1.8', b: '3' } });
    expect(screen.getByText('3 of 3')).not.toBeNull();
    await press('Reveal');
    expect(document.parts).toHaveLength(3);
    expect(window.document.body.textContent).toMatch(/Kp 7/);
  });

  test('an exercise that cannot be worked out says why', async () => {
    await open({ ...document, guards: ['a > 100'] });
    expect(await screen.findByText(/cannot be shown yet/)).not.toBeNull();
  });
});

describe('a model over frequency', () => {
  type Bode = Extract<StudentPart, { kind: 'bode' }>;
  const omegas = [0.1, 0.3, 1, 3, 10, 30, 100];
  const part: Bode = {
    ...{ id: 'b', kind: 'bode', title: '', prompt: '', points: 2, attempts: 5, misfitDb: 0.5, refine: true },
    terms: ['poles', 'polePairs'],
    target: {
      name: 'shaking test',
      omegas,
      magnitudesDb: omegas.map((omega) => 20 * Math.log10(5 / Math.hypot(1, omega / 2))),
    },
  };
  const bench = { parts: [part], saved: [], handedIn: [] } as unknown as Pick<Bench, 'parts' | 'saved' | 'handedIn'>;
  const responses = termsResponses(part);
  function Worked() {
    const [work, dispatch] = useReducer(workReducer, bench, workFrom);
    const response = responses(settingsOf(work.answers['b']!)!);
    if (response instanceof Error) throw response;
    return <BodeBench {...{ part, work, dispatch, responses, response }} keys={false} />;
  }
  const typed = (name: string) => screen.getByRole<HTMLInputElement>('textbox', { name: `${name}, typed` });
  const circles = (mark: string) => document.querySelectorAll(`[data-mark=${mark}] circle`);
  const lineAt = (px: number) => heightAt(document.querySelector('[data-curve=magnitude]')!.getAttribute('d')!, px);

  test('stands beside the given points, which never move', async () => {
    render(<Worked />);
    const before = [...circles('magnitudes')].map((circle) => circle.getAttribute('cy'));
    expect(before).toHaveLength(omegas.length);
    expect(circles('phases')).toHaveLength(0);
    fireEvent.change(typed('K'), { target: { value: '5' } });
    expect([...circles('magnitudes')].map((circle) => circle.getAttribute('cy'))).toEqual(before);
  });

  test('its level is lifted by keys, a tenth of a decibel at a time', () => {
    render(<Worked />);
    const level = screen.getByRole('slider', { name: 'Level K' });
    const before = Number(typed('K').value);
    for (let k = 0; k < 2; k++) fireEvent.keyDown(level, { key: 'ArrowUp', shiftKey: true });
    expect(20 * Math.log10(Number(typed('K').value) / before)).toBeCloseTo(2, 2);
  });

  test('a corner is added, moved, and taken away; the level stays', async () => {
    render(<Worked />);
    fireEvent.change(typed('K'), { target: { value: '5' } });
    const left = Number(circles('magnitudes')[0]!.getAttribute('cx'));
    const level = lineAt(left);
    await userEvent.click(screen.getByRole('button', { name: 'Add a pole' }));
    const start = Number(typed('p1').value);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Corner of pole p1' }), { key: 'ArrowRight', shiftKey: true });
    expect(Number(typed('p1').value)).toBeCloseTo(start * 1.02 ** 10, 2);
    expect(Math.abs(lineAt(left) - level)).toBeLessThan(1);
    await userEvent.click(screen.getByRole('button', { name: 'Remove p1' }));
    expect(screen.queryByRole('textbox', { name: 'p1, typed' })).toBeNull();
    expect(lineAt(left)).toBeCloseTo(level, 6);
  });

  test('refining brings it to the points', async () => {
    render(<Worked />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a pole' }));
    await userEvent.click(screen.getByRole('button', { name: 'Refine all' }));
    expect(Number(typed('K').value)).toBeCloseTo(5, 3);
    expect(Number(typed('p1').value)).toBeCloseTo(2, 3);
    for (const circle of circles('magnitudes')) {
      const [x, y] = ['cx', 'cy'].map((name) => Number(circle.getAttribute(name)));
      expect(Math.abs(lineAt(x!) - y!)).toBeLessThan(3);
    }
  });

  test('what it comes to is typeset', () => {
    render(<Worked />);
    fireEvent.change(typed('K'), { target: { value: '5' } });
    expect([...document.querySelectorAll('annotation')].some(({ textContent }) => textContent.includes('G(s)='))).toBe(
      true,
    );
  });
});
