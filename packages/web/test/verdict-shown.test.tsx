/** @jest-environment jsdom */
import {
  type Answer,
  type Attempt,
  type Bench,
  type Hint,
  modelOf,
  type Part,
  type StudentPart,
  type Verdict,
} from '@nailset/core';
import { checkAnswer, solutionCurve } from '@nailset/core/checks';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { NailRail } from '../src/bench/NailRail';
import { HintsEditor } from '../src/builder/HintsEditor';
import { studentKind } from '../src/kinds/students';
import { workFrom } from '../src/work/work';
import { benchWith } from './emptyBench';
import { watchSizes } from './page';

beforeAll(watchSizes);

const nobody = modelOf({ systems: [], series: [] }, {});
const heading = { id: 'p', title: 'Asked', prompt: '', points: 2, tolerancePercent: 2 };
const attempt = (answer: Answer, verdict: Verdict): Attempt => ({
  ...{ id: 'x', partId: 'p', attempt: 1, version: 1, answer, verdict, handedInAt: '2026-11-02T10:00:00Z' },
  ...{ checked: true, outOfTime: false, comments: [], returned: false },
});

/** The bench of a part after an answer to it, with what was expected where that is told. */
function showAfter(part: Part, seen: StudentPart, answer: Answer, isTold: boolean): void {
  const verdict = checkAnswer(part, nobody, answer);
  const bench = benchWith([seen]);
  const curve = solutionCurve(part, nobody);
  const solution: Bench['solutions'][number] = { partId: 'p', text: '16.3 %', ...(curve ? { curve } : {}) };
  const { Bench: Own } = studentKind(seen);
  render(
    <Own
      {...{ part: seen, answer, bench, scope: nobody.asSymbols, live: undefined, last: attempt(answer, verdict) }}
      {...{ solution: isTold ? solution : undefined, revealed: isTold, keys: false, together: false }}
      work={workFrom(bench)}
      dispatch={() => undefined}
      onChange={() => undefined}
    />,
  );
}

describe('a range that is wrong', () => {
  const part: Part = { ...heading, kind: 'range', of: '1/(s*(s + 1)*(s + 6))' };
  const seen: StudentPart = { ...heading, attempts: 3, kind: 'range' };

  test('is shown with a gain of it and one beside it, each with its response in words', () => {
    showAfter(part, seen, { kind: 'range', text: 'K > 3' }, false);
    const tried = within(screen.getByRole('region', { name: 'What was tried' }));
    const [inside, outside, ...more] = tried.getAllByRole('figure');
    expect(more).toEqual([]);
    expect(inside!.textContent).toMatch(/^K = 59, in your range: unstable/);
    expect(outside!.textContent).toMatch(/^K = 1\.5, outside it: stable/);
    expect(within(outside!).getByRole('img', { name: /From 0 to 0\.99\d? at|From 0 to 1 at/ })).toBeTruthy();
  });

  test('one that is right shows nothing', () => {
    showAfter(part, seen, { kind: 'range', text: '0 < K < 42' }, false);
    expect(screen.queryByRole('region', { name: 'What was tried' })).toBeNull();
  });
});

describe('a number that is off', () => {
  const part: Part = { ...heading, kind: 'number', formula: 'overshootPercent(1/(s^2 + s + 1))', unit: '%' };
  const seen: StudentPart = { ...heading, attempts: 3, kind: 'number', unit: '%', quantity: 'overshootPercent' };
  const words = () => screen.queryByText(/^yours /)?.textContent;

  test('stands on the response beside the expected one, once that is told', () => {
    showAfter(part, seen, { kind: 'number', text: '0,3 · 100' }, true);
    expect(words()).toBe('yours 30 %');
    expect(screen.getByText('expected 16.3 %')).toBeTruthy();
  });

  test('nothing of the response is shown before', () => {
    showAfter(part, seen, { kind: 'number', text: '30' }, false);
    expect(words()).toBeUndefined();
    expect(screen.queryByRole('figure')).toBeNull();
  });

  test('one that is right stands once', () => {
    showAfter(part, seen, { kind: 'number', text: '16.3' }, true);
    expect(words()).toBeUndefined();
    expect(screen.getByText('expected 16.3 %')).toBeTruthy();
  });

  test('what is read off an open loop is shown with the loop closed', () => {
    const offset: Part = { ...heading, kind: 'number', formula: 'stepError(4/(s + 1))', unit: '' };
    // 1/(1 + 4) = 0.2: the closed loop ends at 0.8.
    expect(solutionCurve(offset, nobody)?.values.at(-1)).toBeCloseTo(0.8, 2);
    const speed: Part = { ...offset, formula: 'settlingTime(4/(s + 1))', unit: 's' };
    expect(solutionCurve(speed, nobody)?.values.at(-1)).toBeCloseTo(4, 1);
  });
});

describe('the rail', () => {
  const nail = (change: Partial<Verdict['items'][number]>): Verdict['items'][number] => ({
    ...{ id: 'over', label: 'Overshoot', unit: '%', measured: 12, limit: 15, relation: 'atMost', met: true },
    ...{ close: false, points: 1, outOf: 1, words: 'Overshoot 12 %, limit 15 %.' },
    ...change,
  });

  test('says what is measured, what it must be, and when it is close', () => {
    render(<NailRail items={[nail({}), nail({ id: 'm', measured: 14.9, close: true })]} onStep={false} />);
    const [calm, close] = screen.getAllByRole('listitem');
    expect(calm!.textContent).toContain('12 %at most 15 %');
    expect(calm!.textContent).not.toContain('within');
    expect(close!.textContent).toContain('within 1 % of the limit');
  });

  test('what never settles has no number, and what has no end is infinite', () => {
    render(<NailRail items={[nail({ measured: null }), nail({ id: 'g', measured: null, infinite: true })]} onStep />);
    const [none, infinite] = screen.getAllByRole('listitem');
    expect(none!.textContent).toContain('–at most');
    expect(infinite!.textContent).toContain('∞at most');
    expect(screen.getByText(/measured on a step/)).toBeTruthy();
  });

  test('a label opens what it means', async () => {
    render(<NailRail items={[nail({})]} onStep={false} />);
    await userEvent.click(screen.getByRole('button', { name: /^Overshoot/ }));
    expect(await screen.findByText(/How far the highest point lies beyond the final value/)).toBeTruthy();
  });
});

describe('hints in the builder', () => {
  function Editor({ start }: { start: Hint[] }) {
    const [hints, setHints] = useState(start);
    return (
      <>
        <HintsEditor hints={hints} findings={[]} onChange={setHints} />
        <output>{JSON.stringify(hints)}</output>
      </>
    );
  }
  const now = (): unknown => JSON.parse(screen.getByRole('status').textContent);

  test('are added up to three, each with its cost', async () => {
    render(<Editor start={[]} />);
    for (let k = 0; k < 3; k++) await userEvent.click(screen.getByRole('button', { name: 'Add a hint' }));
    expect(screen.queryByRole('button', { name: 'Add a hint' })).toBeNull();
    await userEvent.type(screen.getByLabelText('Hint 2'), 'Look at the peak.');
    const cost = screen.getAllByLabelText('Costs points')[1]!;
    await userEvent.clear(cost);
    await userEvent.type(cost, '0,5');
    expect(now()).toEqual([
      { text: '', cost: 0 },
      { text: 'Look at the peak.', cost: 0.5 },
      { text: '', cost: 0 },
    ]);
  });

  test('one is taken out, and the others keep their order', async () => {
    render(<Editor start={['a', 'b', 'c'].map((text) => ({ text, cost: 0 }))} />);
    await userEvent.click(screen.getByRole('button', { name: /hint 2/ }));
    expect(now()).toEqual([
      { text: 'a', cost: 0 },
      { text: 'c', cost: 0 },
    ]);
  });
});
