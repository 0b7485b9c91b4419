/** @jest-environment jsdom */
import type { Settings, StudentPart } from '@nailset/core';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import FrequencyPane from '../src/frequency/FrequencyPane';
import { loopResponses } from '../src/loop/loopResponse';
import type { Kept } from '../src/loop/useKept';
import LocusPane from '../src/plane/LocusPane';
import { pointAt, watchSizes } from './page';
import { awayFrom, heightAt, pointsOf } from './paths';

beforeAll(() => {
  watchSizes();
  const captured = new WeakSet<SVGElement>();
  SVGElement.prototype.setPointerCapture = function () {
    captured.add(this);
  };
  SVGElement.prototype.hasPointerCapture = function () {
    return captured.has(this);
  };
});

type Gains = Extract<StudentPart, { kind: 'gains' }>;
const compensator = (...gains: { name: 'K' | 'z1' | 'p1'; start: number; optional?: true }[]): Gains['controller'] => ({
  terms: 'compensator',
  form: 'factors',
  gains: gains.map((gain) => ({ fine: 0.1, coarse: 1, ...gain })),
});
const part: Gains = {
  id: 'lead',
  kind: 'gains',
  title: 'With a lead',
  prompt: '',
  points: 2,
  attempts: 3,
  plant: '1/(s*(s + 1)*(s + 5))',
  controller: compensator({ name: 'K', start: 10 }),
  output: 'Line length',
  horizon: 6,
  views: ['locus', 'bode', 'nyquist'],
  families: [],
  nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 2 }],
};
const withLead: Gains = {
  ...part,
  controller: compensator(
    { name: 'K', start: 10 },
    { name: 'z1', start: -1, optional: true },
    { name: 'p1', start: -8, optional: true },
  ),
};

let settings: Settings;
/** A pane that is worked on: what is set on it comes back to it. */
function Worked({ of, start, view }: { of: Gains; start: Settings; view: 'plane' | 'frequency' }) {
  const [now, setNow] = useState(start);
  const [kept] = useState<Kept>(() => new Map());
  const [responses] = useState(() => loopResponses(of, { names: new Map() }, []));
  settings = now;
  const common = { part: of, settings: now, response: responses.of(now), first: undefined, onSettings: setNow, kept };
  return view === 'plane' ? (
    <LocusPane {...common} responses={responses} className="" />
  ) : (
    <FrequencyPane
      {...common}
      head={null}
      show={['bode', 'nyquist']}
      heights={{ bode: '', bodeBesideNyquist: '', nyquist: '', nyquistBesideBode: '' }}
    />
  );
}

const all = (selector: string) => [...document.querySelectorAll(selector)];
const one = (selector: string) => document.querySelector(selector)!;
const numberOf = (element: Element, name: string) => Number(element.getAttribute(name));
const pathOf = (selector: string) => pointsOf(one(selector).getAttribute('d')!);
const near = (value: number, other: number, by = 1) => expect(Math.abs(value - other)).toBeLessThan(by);

describe('the frequency plots', () => {
  const show = (of = part, start: Settings = { K: '10' }) => render(<Worked of={of} start={start} view="frequency" />);

  test('magnitude and phase keep to their own half, however far they go', () => {
    show();
    const rectangle = (curve: string) => {
      const clip = one(`[data-curve=${curve}]`).closest('[clip-path]')!.getAttribute('clip-path')!;
      const box = document.getElementById(/#([^)]+)/.exec(clip)![1]!)!.querySelector('rect')!;
      return { top: numberOf(box, 'y'), bottom: numberOf(box, 'y') + numberOf(box, 'height') };
    };
    expect(rectangle('magnitude').bottom).toBeLessThan(rectangle('phase').top);
  });

  test('the phase margin stands where the magnitude is 0 dB, and decides', () => {
    show();
    const line = one('[data-margin=phase] line');
    const zero = screen.getAllByText('0 dB')[0]!;
    const level = numberOf(zero, 'y') - 4;
    const at = numberOf(line, 'x1');
    near(heightAt(one('[data-curve=magnitude]').getAttribute('d')!, at), level, 0.5);
    // K/(s(s + 1)(s + 5)) with K = 10 has 25.4° at 1.23 rad/s and 9.54 dB at √5 rad/s.
    expect(one('[data-margin=phase] text').textContent).toBe('25.4 °');
    expect(one('[data-margin=gain] text').textContent).toBe('9.54 dB');
  });

  test('say in words how often L goes round −1', () => {
    show();
    expect(screen.getByText(/goes round −1 not at all .* stable/)).not.toBeNull();
  });

  test('and that a loop with too much gain is not stable', () => {
    show(part, { K: '60' });
    expect(screen.getByText(/goes round −1 twice clockwise .* closed loop has 2 poles in the right/)).not.toBeNull();
    expect(one('[data-margin=gain]').getAttribute('class')).toContain('brick');
  });

  test('a corner moves by keys, in steps of its own size, and alone', () => {
    show(withLead, { K: '10', z1: '-1', p1: '-8' });
    const corner = screen.getByRole('slider', { name: 'Corner of zero z1' });
    fireEvent.keyDown(corner, { key: 'ArrowRight' });
    expect(Number(settings['z1'])).toBeCloseTo(-1.02, 6);
    fireEvent.keyDown(corner, { key: 'ArrowLeft', shiftKey: true });
    expect(Number(settings['z1'])).toBeCloseTo(-1.02 * 1.02 ** -10, 3);
    expect(settings).toMatchObject({ K: '10', p1: '-8' });
  });

  test('a corner is dragged along the frequencies, whatever the height', () => {
    show(withLead, { K: '10', z1: '-1', p1: '-8' });
    const ring = one('[data-corner=z1] circle');
    const svg = ring.closest('svg')!;
    const [x, y] = [numberOf(ring, 'cx'), numberOf(ring, 'cy')];
    pointAt(svg, 'pointerdown', x + 3, y);
    pointAt(svg, 'pointermove', x + 40, y + 30);
    near(numberOf(one('[data-corner=z1] circle'), 'cx'), x + 40, 2);
    expect(Number(settings['z1'])).toBeLessThan(-1);
    pointAt(svg, 'pointerup', x + 40, y + 30);
    const set = settings['z1'];
    pointAt(svg, 'pointermove', x + 80, y);
    expect(settings['z1']).toBe(set);
  });

  test.each([
    ['Bode', '[data-curve=magnitude]'],
    ['Nyquist', '[data-curve=nyquist]'],
  ])(
    '%s is looked at closely by keys and by a box, goes back, and is fitted; nothing that is set changes',
    (title, curve) => {
      show();
      const drawn = () => one(curve).getAttribute('d');
      const whole = drawn();
      const svg = one(curve).closest('svg')!;
      fireEvent.keyDown(svg, { key: '+' });
      const near = drawn();
      expect(near).not.toBe(whole);
      fireEvent.keyDown(svg, { key: '+' });
      fireEvent.keyDown(svg, { key: '+' });
      expect(pointsOf(drawn()!).length).toBeGreaterThan(20);
      for (let k = 0; k < 3; k++) fireEvent.keyDown(svg, { key: 'Backspace' });
      expect(drawn()).toBe(whole);
      pointAt(svg, 'pointerdown', 250, 40);
      pointAt(svg, 'pointermove', 330, 90);
      pointAt(svg, 'pointerup', 330, 90);
      expect(drawn()).not.toBe(whole);
      fireEvent.click(within(screen.getByRole('figure', { name: title })).getByRole('button', { name: 'Fit' }));
      expect(drawn()).toBe(whole);
      expect(settings).toEqual({ K: '10' });
    },
  );

  const curveSvg = (curve: string) => one(`[data-curve=${curve}]`).closest('svg')!;
  const readings = () => screen.queryAllByRole('slider', { name: 'Reading at a frequency' });

  test('a click reads level and phase exactly, on Bode and Nyquist alike; keys move and remove it', () => {
    show();
    fireEvent.click(curveSvg('magnitude'), { clientX: 350, clientY: 60 });
    const reading = readings()[0]!;
    // K/(s(s + 1)(s + 5)) with K = 10.
    const omega = Number(reading.getAttribute('aria-valuenow'));
    const db = 20 * Math.log10(10 / (omega * Math.hypot(1, omega) * Math.hypot(5, omega)));
    const degrees = -90 - ((Math.atan(omega) + Math.atan(omega / 5)) * 180) / Math.PI;
    const [, level, phase] = /: (\S+) dB, (\S+)°$/.exec(reading.getAttribute('aria-valuetext')!.replace(/−/g, '-'))!;
    near(Number(level), db, 0.02);
    near(Number(phase), degrees, 0.5);
    expect(curveSvg('nyquist').querySelectorAll('[data-reading]')).toHaveLength(1);
    reading.focus();
    fireEvent.keyDown(reading, { key: 'ArrowRight' });
    expect(Number(readings()[0]!.getAttribute('aria-valuenow'))).toBeGreaterThan(omega);
    // The next key goes to the same reading.
    expect(document.activeElement).toBe(readings()[0]);
    fireEvent.keyDown(readings()[0]!, { key: 'Delete' });
    expect(readings()).toHaveLength(0);
    fireEvent.keyDown(curveSvg('magnitude'), { key: 'Enter' });
    expect(readings()).toHaveLength(1);
    expect(settings).toEqual({ K: '10' });
  });

  test('a reading is dragged, and the click that ends a drag sets none', () => {
    show(withLead, { K: '10', z1: '-1', p1: '-8' });
    const svg = curveSvg('magnitude');
    fireEvent.click(svg, { clientX: 300, clientY: 150 });
    const dragged = (x: number, y: number, to: number) => {
      pointAt(svg, 'pointerdown', x, y);
      pointAt(svg, 'pointermove', to, y + 40);
      pointAt(svg, 'pointerup', to, y + 40);
      fireEvent.click(svg, { clientX: to, clientY: y + 40 });
    };
    dragged(302, 200, 420);
    expect(readings()).toHaveLength(1);
    near(numberOf(readings()[0]!.querySelector('line')!, 'x1'), 420, 2);
    const corner = one('[data-corner=z1] circle');
    dragged(numberOf(corner, 'cx'), numberOf(corner, 'cy'), numberOf(corner, 'cx') + 60);
    expect(Number(settings['z1'])).toBeLessThan(-1);
    expect(readings()).toHaveLength(1);
  });

  test('the ends of axes are typed; what is none stays in its field', async () => {
    show();
    const figure = within(screen.getByRole('figure', { name: 'Bode' }));
    await userEvent.click(figure.getByRole('button', { name: 'Axes' }));
    const type = async (label: string, text: string) => {
      await userEvent.clear(screen.getByRole('textbox', { name: label }));
      await userEvent.type(screen.getByRole('textbox', { name: label }), text);
    };
    await type('frequency from', '0,5');
    await type('frequency to', '20');
    await type('magnitude from', '-30');
    const path = pathOf('[data-curve=magnitude]');
    near(path[0]![0], 54, 0.5);
    near(path.at(-1)![0], 786, 0.5);
    const before = one('[data-curve=magnitude]').getAttribute('d');
    await type('frequency from', '-1');
    expect(screen.getByText('no such number')).not.toBeNull();
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'frequency from' }).value).toBe('-1');
    expect(one('[data-curve=magnitude]').getAttribute('d')).toBe(before);
    await userEvent.keyboard('{Escape}');
    await userEvent.click(figure.getByRole('button', { name: 'rad/s' }));
    await userEvent.click(figure.getByRole('button', { name: 'Axes' }));
    await type('frequency to', '20');
    near(pathOf('[data-curve=magnitude]').at(-1)![0], 786, 0.5);
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'frequency from' }).value).toBe('0.07958');
  });

  test('units change the numbers and not the curve', async () => {
    show();
    const before = one('[data-curve=magnitude]').getAttribute('d');
    await userEvent.click(screen.getByRole('button', { name: 'dB' }));
    expect(screen.queryByText('0 dB')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'rad/s' }));
    expect(screen.getByRole('button', { name: 'Hz' })).not.toBeNull();
    expect(one('[data-curve=magnitude]').getAttribute('d')).toBe(before);
  });

  test('a frequency that is pointed at on one plot is marked on both', () => {
    show();
    const svg = one('[data-curve=magnitude]').closest('svg')!;
    fireEvent(svg, new MouseEvent('pointermove', { bubbles: true, clientX: 350, clientY: 60 }));
    expect(screen.getByText(/^.*At .* rad\/s\.$/)).not.toBeNull();
    const nyquist = one('[data-curve=nyquist]').closest('svg')!;
    expect(within(nyquist as unknown as HTMLElement).getByText(/rad\/s/)).not.toBeNull();
  });

  test('the unit circle of the Nyquist plot goes through −1', () => {
    show();
    const svg = one('[data-curve=nyquist]').closest('svg')!;
    const circle = svg.querySelector('circle')!;
    const label = [...svg.querySelectorAll('text')].find(({ textContent }) => textContent === '−1')!;
    near(numberOf(circle, 'cx') - numberOf(circle, 'r'), numberOf(label, 'x'), 0.01);
  });
});

describe('the plane', () => {
  const show = (of = part, start: Settings = { K: '10' }) => render(<Worked of={of} start={start} view="plane" />);
  /** The place of a mark on the plane, from two ticks of each axis. */
  const planeOf = () => {
    const svg = one('[data-branch]').closest('svg')!;
    const ticks = [...svg.querySelectorAll('text')].map((text) => ({
      words: text.textContent.replace('−', '-'),
      x: numberOf(text, 'x'),
    }));
    const [a, b] = ticks.filter(({ words }) => /^-?[\d.]+$/.test(words));
    const unit = (b!.x - a!.x) / (Number(b!.words) - Number(a!.words));
    return (px: number) => Number(a!.words) + (px - a!.x) / unit;
  };
  const layer = async (name: string) => {
    await userEvent.click(screen.getByRole('button', { name: 'Layers' }));
    await userEvent.click(screen.getByRole('checkbox', { name }));
    await userEvent.keyboard('{Escape}');
  };

  test('has a branch and a pole for each order, poles on the branches', () => {
    show();
    expect(all('[data-branch]')).toHaveLength(3);
    expect(all('[data-pole]')).toHaveLength(3);
    const paths = all('[data-branch]').map((branch) => branch.getAttribute('d')!);
    for (const pole of all('[data-pole]')) {
      const [x, y] = [numberOf(pole, 'cx'), numberOf(pole, 'cy')];
      if (x < 0 || x > 800) continue;
      expect(Math.min(...paths.map((path) => awayFrom(path, [x, y])))).toBeLessThan(2);
    }
  });

  test('the gain moves by keys, and the poles with it', () => {
    show();
    const before = all('[data-pole]').map((pole) => pole.getAttribute('cx'));
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Gain on the locus' }), { key: 'ArrowRight', shiftKey: true });
    expect(Number(settings['K'])).toBeCloseTo(10 * 1.02 ** 10, 2);
    expect(all('[data-pole]').map((pole) => pole.getAttribute('cx'))).not.toEqual(before);
  });

  test('layers are drawn where they belong', async () => {
    show();
    expect(all('[data-mark=break]')).toHaveLength(0);
    await layer('break points');
    await layer('crossings');
    await layer('asymptotes');
    // Branches leave the axis at −0.4725 with K = 1.128, and cross at √5 rad/s with K = 30.
    const diamond = /^M([-\d.]+)/.exec(one('[data-mark=break] path').getAttribute('d')!)!;
    near(planeOf()(Number(diamond[1]) + 4), -0.4725, 0.02);
    expect(one('[data-mark=break] text').textContent).toBe('K 1.13');
    expect(one('[data-mark=crossing] text').textContent).toBe('K 30, 2.24 rad/s');
    expect(screen.getByText('σ −2')).not.toBeNull();
    near(planeOf()(numberOf(one('[data-mark=asymptote]'), 'x1')), -2, 0.02);
    expect(all('[data-mark=asymptote]')).toHaveLength(3);
    await layer('asymptotes');
    expect(all('[data-mark=asymptote]')).toHaveLength(0);
  });

  test('the region that the nails ask for lies between rays of their damping', () => {
    show();
    const outline = pathOf('[data-mark=region] path:nth-of-type(2)');
    const unit = planeOf();
    const [origin] = outline.filter(([x]) => Math.abs(unit(x)) < 0.01);
    expect(origin).toBeDefined();
    // 20 % of overshoot is a damping ratio of 0.456, 62.9° from the negative real axis.
    const far = outline.reduce((a, b) => (Math.abs(b[1] - origin![1]) > Math.abs(a[1] - origin![1]) ? b : a));
    const angle = Math.atan2(Math.abs(far[1] - origin![1]), origin![0] - far[0]) * (180 / Math.PI);
    near(angle, 62.9, 0.3);
  });

  test('readings are taken, told in a table, moved and removed by keys', async () => {
    show();
    await userEvent.click(screen.getByRole('button', { name: 'Read here' }));
    const table = () => screen.getByRole('table', { name: 'Readings on the locus' });
    const first = within(table()).getAllByRole('row')[1]!.textContent;
    expect(first).toContain('10');
    const reading = screen.getByRole('slider', { name: 'Reading 1' });
    fireEvent.keyDown(reading, { key: 'ArrowRight' });
    expect(within(table()).getAllByRole('row')[1]!.textContent).not.toBe(first);
    expect(settings['K']).toBe('10');
    await userEvent.click(screen.getByRole('button', { name: 'Read here' }));
    expect(within(table()).getAllByRole('row')).toHaveLength(3);
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Reading 1' }), { key: 'Delete' });
    fireEvent.keyDown(screen.getByRole('slider', { name: 'Reading 2' }), { key: 'Delete' });
    expect(screen.queryByRole('table', { name: 'Readings on the locus' })).toBeNull();
  });

  test('a zero of the compensator moves by keys, fine and coarse, and the locus is drawn anew', () => {
    show(withLead, { K: '10', z1: '-1.5', p1: '-8' });
    expect(all('[data-branch]')).toHaveLength(4);
    const before = one('[data-branch="0"]').getAttribute('d');
    const zero = screen.getByRole('slider', { name: 'Zero z1' });
    fireEvent.keyDown(zero, { key: 'ArrowLeft' });
    expect(settings['z1']).toBe('-1.6');
    fireEvent.keyDown(zero, { key: 'ArrowRight', shiftKey: true });
    expect(settings['z1']).toBe('-0.6');
    fireEvent.keyDown(zero, { key: 'ArrowUp' });
    expect(settings['z1']).toBe('-0.6');
    expect(one('[data-branch="0"]').getAttribute('d')).not.toBe(before);
  });

  test('is looked at closely by a box, keys and typed ends, and goes back; a click beside the branches reads nothing', async () => {
    show();
    const drawn = () => one('[data-branch="0"]').getAttribute('d');
    const whole = drawn();
    const svg = one('[data-branch="0"]').closest('svg')!;
    pointAt(svg, 'pointerdown', 20, 20);
    pointAt(svg, 'pointermove', 200, 120);
    pointAt(svg, 'pointerup', 200, 120);
    fireEvent.click(svg, { clientX: 200, clientY: 120 });
    expect(drawn()).not.toBe(whole);
    expect(all('[data-reading]')).toHaveLength(0);
    fireEvent.keyDown(svg, { key: 'Backspace' });
    expect(drawn()).toBe(whole);
    await userEvent.click(screen.getByRole('button', { name: 'Axes' }));
    const field = screen.getByRole('textbox', { name: 'imaginary to' });
    await userEvent.clear(field);
    await userEvent.type(field, '2');
    expect(drawn()).not.toBe(whole);
    await userEvent.keyboard('{Escape}');
    fireEvent.click(svg, { clientX: 20, clientY: 20 });
    expect(all('[data-reading]')).toHaveLength(0);
    fireEvent.keyDown(svg, { key: 'Enter' });
    expect(all('[data-reading]')).toHaveLength(1);
    expect(settings['K']).toBe('10');
  });

  test('what lies outside is counted; zooming out brings it in', async () => {
    show();
    for (let k = 0; k < 8; k++) await userEvent.click(screen.getByRole('button', { name: 'Zoom in' }));
    expect(screen.getByText(/\d outside/)).not.toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Fit' }));
    expect(screen.queryByText(/\d outside/)).toBeNull();
  });
});
