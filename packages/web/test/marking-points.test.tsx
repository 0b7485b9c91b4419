/** @jest-environment jsdom */
import type { StudentPart } from '@nailset/core';
import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import PointsBench from '../src/kinds/points/PointsBench';
import { watchSizes } from './page';

beforeAll(() => {
  watchSizes();
  SVGElement.prototype.setPointerCapture = () => undefined;
});

const all = (selector: string) => [...document.querySelectorAll(selector)];
const one = (selector: string) => document.querySelector(selector)!;
const numberOf = (element: Element, name: string) => Number(element.getAttribute(name));
const near = (value: number, other: number, by = 1) => expect(Math.abs(value - other)).toBeLessThan(by);

describe('marking by hand', () => {
  type PointsOf = Extract<StudentPart, { kind: 'points' }>;
  const asked = (what: PointsOf['what']): PointsOf => ({
    id: 'points',
    kind: 'points',
    title: 'Sketch',
    prompt: '',
    points: 2,
    attempts: 3,
    what,
    tolerancePercent: 2,
    loop: '1/(s*(s + 3)*(s + 10))',
  });
  let text: string;
  function Marked({
    what,
    start = '',
    revealed = false,
  }: {
    what: PointsOf['what'];
    start?: string;
    revealed?: boolean;
  }) {
    const [now, setNow] = useState(start);
    text = now;
    return (
      <PointsBench
        {...{ part: asked(what), text: now, revealed, solution: undefined, together: false }}
        onChange={setNow}
      />
    );
  }
  const plane = () => screen.getByRole('group', { name: /^s-plane, / });
  const press = (clientX: number, clientY: number) =>
    fireEvent(plane(), new MouseEvent('pointerdown', { bubbles: true, clientX, clientY }));
  const moveTo = (clientX: number, clientY: number) =>
    fireEvent(plane(), new MouseEvent('pointermove', { bubbles: true, clientX, clientY }));

  test('a crossing comes with its mirror image, and both move together', () => {
    render(<Marked what="axisCrossings" />);
    expect(text).toBe('');
    press(400, 120);
    expect(all('[data-point]')).toHaveLength(2);
    const heights = () => all('[data-point] > circle:first-child').map((circle) => 200 - numberOf(circle, 'cy'));
    near(heights()[0]!, 80, 6);
    near(heights()[0]!, -heights()[1]!, 0.5);
    const before = heights()[0]!;
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Point 1' }), { key: 'ArrowUp', shiftKey: true });
    expect(heights()[0]).toBeGreaterThan(before + 5);
    near(heights()[0]!, -heights()[1]!, 0.5);
  });

  test('a point that is dragged goes where the mouse goes, and stays when it is let go', () => {
    render(<Marked what="locus" start="-4 + 2j" />);
    const ring = () => one('[data-point="0"] circle');
    const [x, y] = [numberOf(ring(), 'cx'), numberOf(ring(), 'cy')];
    press(x, y);
    moveTo(x + 60, y - 25);
    near(numberOf(ring(), 'cx'), x + 60, 6);
    near(numberOf(ring(), 'cy'), y - 25, 6);
    fireEvent(plane(), new MouseEvent('pointerup', { bubbles: true }));
    const set = text;
    moveTo(100, 100);
    expect(text).toBe(set);
  });

  test('a point is taken away by a key, all by Clear', async () => {
    render(<Marked what="locus" start="-4, -1 + 2j" />);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Point 1' }), { key: 'Delete' });
    expect(all('[data-point]')).toHaveLength(1);
    await userEvent.click(screen.getByRole('button', { name: 'Clear' }));
    expect(text).toBe('');
  });

  test('by keys alone: Enter marks one in the plane and gives it the focus, arrows move it', async () => {
    render(<Marked what="locus" />);
    plane().focus();
    await userEvent.keyboard('{Enter}');
    expect(all('[data-point]')).toHaveLength(1);
    const put = text;
    await new Promise((resolve) => requestAnimationFrame(resolve));
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Point 1');
    await userEvent.keyboard('{ArrowLeft}');
    expect(text).not.toBe(put);
  });

  test('Undo and Ctrl+Z take back what was marked last', async () => {
    render(<Marked what="locus" start="-4" />);
    press(300, 120);
    press(320, 150);
    expect(all('[data-point]')).toHaveLength(3);
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(all('[data-point]')).toHaveLength(2);
    fireEvent.keyDown(plane(), { key: 'z', ctrlKey: true });
    expect(text).toBe('-4');
    fireEvent.keyDown(plane(), { key: 'z', ctrlKey: true });
    expect(text).toBe('-4');
  });

  test('a finger that scrolls marks nothing, one that taps does', () => {
    render(<Marked what="locus" />);
    const finger = (type: string, clientX: number, clientY: number) => {
      const event = new MouseEvent(type, { bubbles: true, clientX, clientY });
      Object.defineProperty(event, 'pointerType', { value: 'touch' });
      fireEvent(plane(), event);
    };
    finger('pointerdown', 300, 120);
    finger('pointercancel', 300, 60);
    expect(all('[data-point]')).toHaveLength(0);
    finger('pointerdown', 300, 120);
    expect(all('[data-point]')).toHaveLength(0);
    finger('pointerup', 302, 121);
    expect(all('[data-point]')).toHaveLength(1);
  });

  test('stretches of the axis are chosen and left as wholes', () => {
    render(<Marked what="realAxis" />);
    const stretch = (name: string | RegExp) => screen.getByRole('checkbox', { name });
    expect(screen.getAllByRole('checkbox')).toHaveLength(4);
    fireEvent.keyDown(stretch('Real axis from −3 to 0'), { key: ' ' });
    expect(stretch('Real axis from −3 to 0').getAttribute('aria-checked')).toBe('true');
    expect(text).toBe('-1.5');
    fireEvent.keyDown(stretch('Real axis from −3 to 0'), { key: 'Enter' });
    expect(text).toBe('');
  });

  test('asymptotes are rays from the first point', () => {
    render(<Marked what="asymptotes" start="-4.33, -2 + 4j, -2 - 4j" />);
    expect(all('[data-rays="2"] line')).toHaveLength(2);
    const starts = all('[data-rays] line').map((line) => numberOf(line, 'x1'));
    expect(new Set(starts).size).toBe(1);
    near(starts[0]!, numberOf(one('[data-point="0"] circle'), 'cx'), 0.01);
  });

  test('the locus is drawn only once it may be seen', () => {
    const { rerender } = render(<Marked what="locus" />);
    expect(all('[data-branch]')).toHaveLength(0);
    rerender(<Marked what="locus" revealed />);
    expect(all('[data-branch]')).toHaveLength(3);
  });

  test('what is typed and cannot be read is no point, and is kept', () => {
    render(<Marked what="poles" />);
    fireEvent.change(screen.getByRole('textbox'), { target: { value: '-2, 3k' } });
    expect(text).toBe('-2, 3k');
    expect(all('[data-point]')).toHaveLength(0);
  });
});
