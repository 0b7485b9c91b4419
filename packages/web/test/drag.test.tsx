/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { markAt, type Place, sliderProps, useDrag } from '../src/plot/useDrag';

const marks = [
  { id: 'one', px: 100, py: 100 },
  { id: 'two', px: 110, py: 100 },
];

describe('a mark is taken', () => {
  test('the nearest one in reach, whichever was drawn first', () => {
    const at = (px: number) => markAt({ px, py: 100 }, marks, (mark) => mark)?.id;
    expect([99, 104, 106, 122].map(at)).toEqual(['one', 'one', 'two', 'two']);
    expect(at(124)).toBeUndefined();
  });
});

describe('dragging', () => {
  const log: string[] = [];
  function Picture() {
    const [at, setAt] = useState<Place>({ px: 50, py: 50 });
    const drag = useDrag<string>({
      take: (place) => (markAt(place, [at], (mark) => mark) ? 'mark' : undefined),
      drag: (_, to) => setAt(to),
      drop: () => log.push('dropped'),
      press: ({ px }) => log.push(`pressed ${px}`),
      hover: ({ px }) => log.push(`over ${px}`),
    });
    const words = `${at.px} ${at.py}`;
    return (
      <svg aria-label="picture" role="group" {...drag}>
        <circle
          {...sliderProps({
            ...{ label: 'mark', value: at.px, words },
            onStep: ({ right, up }) => setAt({ px: at.px + right, py: at.py - up }),
            onRemove: () => log.push('removed'),
          })}
        />
      </svg>
    );
  }
  const send = (what: 'pointerDown' | 'pointerMove' | 'pointerUp' | 'pointerCancel', clientX: number, clientY = 50) =>
    fireEvent(screen.getByRole('group'), new MouseEvent(what.toLowerCase(), { clientX, clientY, bubbles: true }));
  const place = () => screen.getByRole('slider').getAttribute('aria-valuetext');

  beforeEach(() => {
    log.length = 0;
    SVGElement.prototype.setPointerCapture = () => undefined;
    render(<Picture />);
  });

  test('follows the pointer until it goes up', () => {
    send('pointerDown', 52);
    send('pointerMove', 80, 60);
    expect(place()).toBe('80 60');
    send('pointerUp', 80, 60);
    send('pointerMove', 200);
    expect(place()).toBe('80 60');
    expect(log).toEqual(['dropped', 'over 200']);
  });

  test('ends where the browser takes the pointer away', () => {
    send('pointerDown', 52);
    send('pointerCancel', 52);
    send('pointerMove', 90);
    expect(place()).toBe('50 50');
  });

  test('a press beside everything is told as such', () => {
    send('pointerDown', 150);
    send('pointerMove', 160);
    expect(place()).toBe('50 50');
    expect(log).toEqual(['pressed 150', 'over 160']);
  });

  test('keys move it by one or ten, and Delete takes it away', () => {
    const mark = screen.getByRole('slider');
    fireEvent.keyDown(mark, { key: 'ArrowRight' });
    fireEvent.keyDown(mark, { key: 'ArrowUp', shiftKey: true });
    expect(place()).toBe('51 40');
    fireEvent.keyDown(mark, { key: 'Backspace' });
    expect(log).toEqual(['removed']);
    expect(fireEvent.keyDown(mark, { key: 'a' })).toBe(true);
  });
});
