/** @jest-environment jsdom */
import { Problem, type StudentPart } from '@nailset/core';
import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { knobsOf } from '../src/kinds/students';
import { beginOf, membersOver } from '../src/lectern/run';
import { RunOver } from '../src/lectern/RunOver';
import { type LoopResponse, loopResponses } from '../src/loop/loopResponse';
import { watchSizes } from './page';

beforeAll(watchSizes);

type Gains = Extract<StudentPart, { kind: 'gains' }>;
const part: Gains = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  points: 2,
  attempts: 5,
  plant: '4/(s*(s + 2))',
  controller: {
    terms: 'PD',
    form: 'parallel',
    gains: [
      { name: 'Kp', start: 1, fine: 0.1, coarse: 1, low: 0, high: 500 },
      { name: 'Kd', start: 0, fine: 0.1, coarse: 0.5, low: 0, high: 3 },
    ],
  },
  output: 'Angle',
  horizon: 6,
  views: ['plane'],
  families: [
    {
      parameter: 'a',
      members: ['1', '4'].map((value) => ({ value, plant: `4/(s*(s + ${value}))` })),
      sweep: [],
    },
  ],
  nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 }],
};
const responses = loopResponses(part, { names: new Map() }, []);
const knobs = knobsOf(part);

describe('the places of a run', () => {
  test('lie near where a gain starts, however far its ladder leads, with the value that it has among them', () => {
    const members = membersOver('Kp', knobs, { Kp: '0.77', Kd: '0' }, responses, {});
    const values = members.map(({ value }) => value);
    expect(values).toEqual([...values].sort((a, b) => a - b));
    expect([values[0], values.at(-1)]).toEqual([0, 13]);
    expect(members[beginOf(members, '0.77')]!.label).toBe('Kp 0.77');
    const there = membersOver('Kd', knobs, { Kp: '1', Kd: '3' }, responses, {});
    expect(there.map(({ value }) => value).at(-1)).toBe(3);
    expect(new Set(there.map(({ value }) => value)).size).toBe(there.length);
  });

  test('are worked out for the settings that are there', () => {
    const [first] = membersOver('Kp', knobs, { Kp: '2', Kd: '0.5' }, responses, {});
    const response = first!.response();
    expect(response).not.toBeInstanceOf(Problem);
    expect(!(response instanceof Problem) && response.settings).toEqual({ Kp: '0', Kd: '0.5' });
  });

  test('of a parameter of the plant are its own value and others, each with the loop that it makes', () => {
    const members = membersOver('a', knobs, { Kp: '2', Kd: '0' }, responses, { a: '2' });
    expect(members.map(({ label }) => label)).toEqual(['a 1', 'a 2', 'a 4']);
    expect(beginOf(members, '2')).toBe(1);
    expect(members[1]!.responses).toBe(responses);
    const [slow, quick] = [members[0]!, members[2]!].map((member) => member.response() as LoopResponse);
    expect(slow!.measures.overshootPercent).toBeGreaterThan(quick!.measures.overshootPercent!);
  });

  test('over a parameter lie close to each other where the part has a locus', () => {
    const sweep = ['0.5', '1', '2', '4', '8'].map((value) => ({ value, plant: `4/(s*(s + ${value}))` }));
    const swept = loopResponses({ ...part, families: [{ ...part.families[0]!, sweep }] }, { names: new Map() }, []);
    const members = membersOver('a', knobs, { Kp: '2', Kd: '0' }, swept, { a: '2' });
    expect(members.map(({ value }) => value)).toEqual([0.5, 1, 2, 4, 8]);
    expect(beginOf(members, '2')).toBe(2);
  });
});

describe('a run on the lectern', () => {
  const show = (revealed: boolean) =>
    render(<RunOver part={part} series={[]} values={{ a: '2' }} revealed={revealed} />);
  const now = () => document.querySelector('[data-curve=now]')?.getAttribute('d');
  const told = () => document.querySelector('[aria-live=polite]')?.textContent ?? '';

  test('shows where it begins and waits for the reveal', () => {
    show(false);
    expect(document.querySelector('[data-curve=first]')).not.toBeNull();
    expect(now()).toBeUndefined();
    expect(told()).toBe('');
    for (const name of ['Step back', 'Play', 'Step on', 'Family']) {
      expect(screen.getByRole<HTMLButtonElement>('button', { name }).disabled).toBe(true);
    }
  });

  test('is stepped, dragged and turned to another gain or parameter', async () => {
    show(true);
    expect(told()).toMatch(/^Kp 1overshoot/);
    const before = now();
    await userEvent.click(screen.getByRole('button', { name: 'Step on' }));
    expect(told()).toMatch(/^Kp 1\.3/);
    expect(now()).not.toBe(before);
    await userEvent.click(screen.getByRole('button', { name: 'Step back' }));
    expect(now()).toBe(before);
    fireEvent.change(screen.getByRole('slider'), { target: { value: '0' } });
    expect(told()).toMatch(/^Kp 0/);
    await userEvent.selectOptions(screen.getByLabelText('Runs over'), 'a');
    expect(told()).toMatch(/^a 2overshoot/);
  });

  test('draws the family around where it stands', async () => {
    show(true);
    expect(document.querySelectorAll('[data-curve^=family]')).toHaveLength(0);
    await userEvent.click(screen.getByRole('button', { name: 'Family' }));
    expect(document.querySelectorAll('[data-curve^=family]')).toHaveLength(4);
    expect(document.querySelector('[data-curve=first]')).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('Runs over'), 'a');
    expect(document.querySelectorAll('[data-curve^=family]')).toHaveLength(2);
  });

  test('plays until it is paused, and goes round', () => {
    jest.useFakeTimers();
    try {
      show(true);
      fireEvent.click(screen.getByRole('button', { name: 'Play' }));
      act(() => void jest.advanceTimersByTime(230));
      expect(told()).toMatch(/^Kp 1\.3/);
      act(() => void jest.advanceTimersByTime(60 * 220));
      expect(told()).toMatch(/^Kp \d/);
      fireEvent.click(screen.getByRole('button', { name: 'Pause' }));
      const stopped = told();
      act(() => void jest.advanceTimersByTime(2000));
      expect(told()).toBe(stopped);
    } finally {
      jest.useRealTimers();
    }
  });
});
