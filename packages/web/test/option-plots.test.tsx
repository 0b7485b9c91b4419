/** @jest-environment jsdom */
import type { ShownPlot, StudentPart } from '@nailset/core';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ChoiceBench } from '../src/kinds/choice/ChoiceBench';
import { benchStateFrom } from '../src/lectern/LecternLink';
import { optionFrame, OptionPlot } from '../src/plot/OptionPlot';
import { placeOn } from '../src/plot/pointer';
import { watchSizes } from './page';

beforeAll(watchSizes);

const step = (high: number): ShownPlot => ({ kind: 'step', lines: [{ x: [0, 1, 2], y: [0, high, 1] }], marks: [] });
const plane: ShownPlot = {
  kind: 'locus',
  lines: [{ x: [-1, -2, -300], y: [0, 1, 200] }],
  marks: [
    { what: 'pole', x: -4, y: 0 },
    { what: 'zero', x: 0, y: 3 },
  ],
};

describe('plots to choose from', () => {
  const part: Extract<StudentPart, { kind: 'choice' }> = {
    ...{ id: 'c', kind: 'choice', title: '', prompt: '', points: 1, attempts: 2, several: false },
    options: [
      { id: 'a', text: 'the first', plot: step(1.2) },
      { id: 'b', text: 'the second', plot: step(3) },
    ],
  };

  test('stand on the same axes, so that they can be compared', () => {
    const frame = optionFrame([step(1.2), step(3)]);
    expect(frame.x).toEqual([0, 2]);
    expect(frame.y[0]![1]).toBeGreaterThan(3);
    expect(frame.y[0]![0]).toBeLessThan(0);
  });

  test('planes hold their poles and zeros, with one scale on both axes; far ends leave them', () => {
    const { x, y } = optionFrame([plane]);
    expect(y[0]![1]).toBeCloseTo(1.35 * 4, 9);
    expect(x[1] - x[0]).toBeCloseTo(((y[0]![1] - y[0]![0]) * 250) / 160, 6);
    expect(x[0]).toBeLessThan(-4);
  });

  test('each has its table, and its option is chosen beside it', async () => {
    const dispatch = jest.fn();
    render(<ChoiceBench part={part} chosen={[]} solution={undefined} dispatch={dispatch} />);
    await userEvent.click(
      within(screen.getByRole('figure', { name: 'Step response B' })).getByRole('button', { name: 'Table' }),
    );
    const table = screen.getByRole('region', { name: 'Step response B in numbers' });
    expect(within(table).getAllByRole('row')[2]!.textContent).toBe('13');
    await userEvent.click(screen.getByRole('radio', { name: /^the second\. From 0 to / }));
    expect(dispatch).toHaveBeenCalledWith({ do: 'pick', part: 'c', option: 'b', several: false });
  });

  test('a Bode plot has two scales, a Nyquist plot its mirror image', () => {
    const line = { x: [0.1, 1, 10], y: [20, 10, -20] };
    const bode: ShownPlot = { kind: 'bode', lines: [line, { ...line, y: [0, -90, -180] }], marks: [] };
    const { container, unmount } = render(<OptionPlot title="Bode" plot={bode} frame={optionFrame([bode])} />);
    expect(container.querySelectorAll('[data-line]')).toHaveLength(2);
    expect(screen.getByText('20 dB')).toBeTruthy();
    unmount();
    const nyquist: ShownPlot = { kind: 'nyquist', lines: [{ x: [2, 0], y: [0, -1] }], marks: [] };
    const drawn = render(<OptionPlot title="N" plot={nyquist} frame={optionFrame([nyquist])} />).container;
    expect(drawn.querySelectorAll('path[stroke-dasharray]')).toHaveLength(1);
  });
});

test('a bench that was brought along is taken only when it is one', () => {
  const state = { part: 'a', values: { k: '2' }, settings: { Kp: '3' } };
  expect(benchStateFrom(state)).toEqual(state);
  for (const other of [null, 'a', { part: 'a' }, { ...state, settings: { Kp: 3 } }, { ...state, values: null }]) {
    expect(benchStateFrom(other)).toBeUndefined();
  }
});

test('a pointer on a magnified page is told in the picture’s own pixels', () => {
  const picture = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  picture.setAttribute('width', '400');
  picture.getBoundingClientRect = () => ({ left: 100, top: 50, width: 600, height: 300 }) as DOMRect;
  expect(placeOn(picture, { clientX: 400, clientY: 200 })).toEqual({ px: 200, py: 100 });
  picture.removeAttribute('width');
  expect(placeOn(picture, { clientX: 400, clientY: 200 })).toEqual({ px: 300, py: 150 });
});
