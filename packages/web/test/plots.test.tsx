/** @jest-environment jsdom */
import { curveOf, fractionOf, stepResponse, systemOf } from '@nailset/core';
import { act, fireEvent, render, renderHook, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FigurePlot } from '../src/bench/FigurePlot';
import { useProbing } from '../src/loop/useProbing';
import type { PlotCurve } from '../src/plot/curves';
import { frameAxes, frameWith } from '../src/plot/frame';
import type { Limit } from '../src/plot/limits';
import { PolePlane, reachOf } from '../src/plot/PolePlane';
import { ResponsePlot } from '../src/plot/ResponsePlot';
import { watchSizes } from './page';

beforeAll(watchSizes);

const step = (text: string) => curveOf(stepResponse(systemOf(fractionOf(text))), 10, 0.002);
const now: PlotCurve = { id: 'now', curve: step('4/(s^2+0.8s+4)'), look: 'now', label: 'now, 1.00' };
const first: PlotCurve = { id: 'first', curve: step('1/(s+1)'), look: 'first', label: 'first, 1.00' };
const frame = { tMax: 10, yMin: 0, yMax: 1.75 };
const limit = (met: boolean): Limit => ({
  id: 'over',
  met,
  words: 'overshoot ≤ 10 %',
  ground: { t0: 0, t1: Infinity, y0: 1.1, y1: Infinity },
  edge: { t0: 0, y0: 1.1, t1: Infinity, y1: 1.1 },
  pin: { t: 8, y: 1.1, up: true },
});
const draw = (change: Partial<Parameters<typeof ResponsePlot>[0]> = {}) =>
  render(
    <ResponsePlot
      title="Position, m"
      frame={frame}
      curves={[first, now]}
      summary="It rises and settles."
      {...change}
    />,
  );
const numbersOf = (path: Element) =>
  path
    .getAttribute('d')!
    .match(/-?\d+(\.\d+)?/g)!
    .map(Number);

test('twelve readings stand on a plot; the oldest gives way to one more', () => {
  const { result } = renderHook(useProbing);
  for (let k = 1; k <= 13; k++) act(() => result.current.onAdd(k));
  expect(result.current.probes.map(({ time }) => time)).toEqual(Array.from({ length: 12 }, (_, k) => k + 2));
  expect(new Set(result.current.probes.map(({ id }) => id)).size).toBe(12);
});

describe('a figure', () => {
  const samples = (text: string, label: string) => {
    const { times, values } = curveOf(stepResponse(systemOf(fractionOf(text))), 20, 0.002);
    return { label, times: [...times], values: [...values] };
  };
  const figure = {
    ...{ horizon: 20, afterwards: 0, input: { label: 'input', times: [0, 20], values: [1, 1] } },
    curves: [samples('4/(s^2+0.8s+4)', 'A'), samples('1/(s+1)', 'B')],
  };
  test('leaves the other curves as ghosts of the one that is read', () => {
    const { container } = render(<FigurePlot figure={figure} revealed={[]} committed={false} />);
    const look = (id: string) => container.querySelector(`[data-curve=${id}]`)!.getAttribute('class')!;
    const before = look('curve-1');
    fireEvent.change(screen.getByRole('combobox', { name: 'Curve that is read' }), { target: { value: 'curve-1' } });
    expect(look('curve-0')).toContain('stroke-ghost');
    expect(look('curve-1')).toBe(before);
    // Readings are of it: at 10 s B has risen to 1, where A still swings.
    fireEvent.keyDown(screen.getByRole('group', { name: /^Responses over 20 s/ }), { key: 'Enter' });
    expect(screen.getByRole('slider', { name: 'Reading on the curve' }).getAttribute('aria-valuetext')).toBe(
      '1 at 10 s',
    );
    fireEvent.change(screen.getByRole('combobox', { name: 'Curve that is read' }), { target: { value: '' } });
    expect(look('curve-0')).not.toContain('stroke-ghost');
  });
});

describe('the measures of a figure', () => {
  const line = (label: string, end: number) => ({ label, times: [0, 5, 10], values: [0, end, end] });
  const figure = {
    ...{ horizon: 10, afterwards: 0, input: { label: 'input', times: [0, 10], values: [1, 1] } },
    curves: [line('log', 0.5), line('A', 1), line('B', 2)],
  };
  const none = { restValue: 0, peakTime: null, peakValue: null, at: 0 };
  const measured = [
    null,
    { ...none, finalValue: 1, riseTime: 2.2, settlingTime: 3.9 },
    { ...none, finalValue: 2, riseTime: 4.4, settlingTime: 7.8, peakTime: 5.5, peakValue: 2.4 },
  ];
  const marks = (container: HTMLElement) => container.textContent;
  const toggle = () => screen.queryByRole('button', { name: 'Measures' });

  test('are offered once they are told', () => {
    const { rerender } = render(<FigurePlot figure={figure} revealed={[]} committed={false} />);
    expect(toggle()).toBeNull();
    rerender(<FigurePlot figure={figure} revealed={[]} measured={[null, null, null]} committed />);
    expect(toggle()).toBeNull();
    rerender(<FigurePlot figure={figure} revealed={[]} measured={measured} committed />);
    expect(toggle()).not.toBeNull();
  });

  test('are marked on the curve that is read, at first on one that has some', () => {
    const { container } = render(<FigurePlot figure={figure} revealed={[]} measured={measured} committed />);
    expect(marks(container)).not.toContain('settled');
    fireEvent.click(toggle()!);
    const read = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Curve that is read' });
    expect(read.selectedOptions[0]!.text).toBe('read A');
    expect(marks(container)).toContain('settled 3.9 s');
    fireEvent.change(read, { target: { value: 'curve-2' } });
    expect(marks(container)).toContain('settled 7.8 s');
    expect(marks(container)).toContain('peak 2.4 at 5.5 s');
    fireEvent.change(read, { target: { value: 'curve-0' } });
    expect(marks(container)).not.toContain('settled');
    // Asked for again where there are none, they are of one that has some.
    fireEvent.click(toggle()!);
    fireEvent.click(toggle()!);
    expect(read.selectedOptions[0]!.text).toBe('read A');
    expect(marks(container)).toContain('settled 3.9 s');
    // Of every curve at once there are none.
    fireEvent.change(read, { target: { value: '' } });
    expect(marks(container)).not.toContain('settled');
    expect(toggle()!.getAttribute('aria-pressed')).toBe('false');
  });
});

describe('a response plot', () => {
  test('has units on its axes, a name, and a sentence for those who cannot see it', () => {
    draw();
    expect(screen.getByRole('figure', { name: 'Position, m' })).toBeTruthy();
    const texts = within(screen.getByRole('img', { name: 'It rises and settles.' }));
    expect(texts.getByText('10 s')).toBeTruthy();
    expect(texts.getByText('1.6')).toBeTruthy();
  });

  test('is read in the middle by Enter, and typed ends are those of its axes', () => {
    const onAdd = jest.fn();
    const probing = { probes: [], onAdd, onMove: jest.fn(), onRemove: jest.fn() };
    draw({ frame: { ...frame, tMin: 2 }, probing, onView: jest.fn() });
    fireEvent.keyDown(screen.getByRole('group', { name: 'It rises and settles.' }), { key: 'Enter' });
    expect(onAdd.mock.calls).toEqual([[expect.closeTo(6, 6)]]);
    const typed = frameWith(frameWith(frame, 0, { from: 0.5, to: 4 }), 1, { from: -1, to: 2 });
    expect(frameAxes(typed, 'min')).toMatchObject([
      { unit: 'min', from: 0.5, to: 4, above: 0 },
      { from: -1, to: 2 },
    ]);
  });

  test('draws a curve from left to right at its true height', () => {
    const { container } = draw();
    const numbers = numbersOf(container.querySelector('[data-curve=first]')!);
    const heights = numbers.filter((_, k) => k % 2 === 1);
    const times = numbers.filter((_, k) => k % 2 === 0);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    // 400 high with 8 above and 22 below: 0 lies at 378, and 1 at 378 − 370/1.75.
    expect(heights[0]).toBeCloseTo(378, 1);
    expect(heights.at(-1)).toBeCloseTo(378 - 370 / 1.75, 0);
  });

  test('labels stand at the ends and do not cover each other', () => {
    draw({ reference: { times: Float64Array.of(0, 4), values: Float64Array.of(1, 1) } });
    const heights = ['now, 1.00', 'first, 1.00', 'reference'].map((text) =>
      Number(screen.getByText(text).getAttribute('y')),
    );
    const sorted = heights.sort((a, b) => a - b);
    expect(sorted[1]! - sorted[0]!).toBeGreaterThanOrEqual(15);
    expect(sorted[2]! - sorted[1]!).toBeGreaterThanOrEqual(15);
  });

  test('a curve that leaves the frame is told by an arrow, one that stays is not', () => {
    const { rerender } = draw();
    expect(screen.queryByText('leaves the frame')).toBeNull();
    rerender(<ResponsePlot title="" frame={{ ...frame, yMax: 1.2 }} curves={[first, now]} summary="" />);
    expect(screen.getByText('leaves the frame')).toBeTruthy();
  });

  test('a nail that holds is driven in, one that does not is hollow and stands proud', () => {
    const headOf = (met: boolean) => {
      const { container, unmount } = draw({ limits: [limit(met)] });
      const circle = container.querySelector('circle')!;
      const found = { height: Number(circle.getAttribute('cy')), solid: circle.classList.contains('fill-moss') };
      unmount();
      return found;
    };
    const [held, missed] = [headOf(true), headOf(false)];
    expect([held.solid, missed.solid]).toEqual([true, false]);
    expect(missed.height).toBeLessThan(held.height);
  });

  test('is there as a table of the labelled curves', async () => {
    draw({ curves: [first, now, { ...now, id: 'ghost', look: 'ghost', label: '' }] });
    await userEvent.click(screen.getByRole('button', { name: 'Table' }));
    const rows = screen.getAllByRole('row');
    expect(rows).toHaveLength(22);
    expect(
      within(rows[0]!)
        .getAllByRole('columnheader')
        .map(({ textContent }) => textContent),
    ).toEqual(['time, s', 'first, 1.00', 'now, 1.00']);
    expect(
      within(rows[3]!)
        .getAllByRole('cell')
        .slice(0, 2)
        .map(({ textContent }) => textContent),
    ).toEqual(['1', '0.632']);
    await userEvent.click(screen.getByRole('button', { name: 'Plot' }));
    expect(screen.getByRole('img')).toBeTruthy();
  });

  test('fits when asked, and picks a curve that is clicked', async () => {
    const [fit, pick] = [jest.fn(), jest.fn()];
    const { container } = draw({ onFit: fit, onPick: pick });
    await userEvent.click(screen.getByRole('button', { name: 'Fit' }));
    expect(fit).toHaveBeenCalledTimes(1);
    await userEvent.click(container.querySelector('[data-curve=first]')!);
    expect(pick).toHaveBeenCalledWith('first');
  });
});

describe('the plane of poles', () => {
  const { poles, zeros } = systemOf(fractionOf('(s+2)/((s^2+2s+5)(s+40))'));

  test('tells its points in words, and how many lie outside the plot', () => {
    render(<PolePlane title="Poles" poles={poles} zeros={zeros} reach={4} />);
    expect(screen.getByRole('img', { name: 'Poles: poles at −40, −1 ± 2j; zeros at −2.' })).toBeTruthy();
    expect(screen.getByText('1 outside the plot')).toBeTruthy();
  });

  test('has the same scale on both axes', () => {
    const { container } = render(<PolePlane title="Poles" poles={poles} reach={4} />);
    const marks = [...container.querySelectorAll('path.stroke-petrol')].map(numbersOf);
    const pair = marks.filter(([x]) => x! > 0).slice(-2);
    const [dx, dy] = [Math.abs(pair[0]![0]! + 4 - 0.78 * 800), Math.abs(pair[0]![1]! - pair[1]![1]!) / 2];
    expect(dy / dx).toBeCloseTo(2, 6);
  });

  test('its reach shows every pole with some air and is a round number', () => {
    expect(reachOf(poles)).toBeGreaterThanOrEqual(40);
    expect([reachOf([]), reachOf(poles)].every((reach) => Number(reach.toPrecision(1)) === reach)).toBe(true);
  });
});
