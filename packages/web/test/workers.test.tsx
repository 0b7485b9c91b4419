/** @jest-environment jsdom */
import type { ClassSheet, GainsPart } from '@nailset/core';
import { render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { newExercise } from '../src/builder/newExercise';
import { ClassGainMap } from '../src/classSheet/ClassGainMap';
import { FlockPanel } from '../src/classSheet/FlockPanel';
import { Board } from '../src/lectern/Board';
import { notWorkedOut, useWorker } from '../src/shared/useWorker';
import { watchSizes } from './page';
import { Stand, standInForWorkers } from './standIn';

beforeAll(watchSizes);
standInForWorkers();

/** What is worked out beside the page, and what is said when that breaks off. */

const start = () => new Worker('any');
const document = newExercise();
const part = document.parts[0] as GainsPart;
const sheet = { systems: document.systems, series: [] } as unknown as ClassSheet;
const answers = [
  {
    ...{ submissionId: 's1', name: 'Aino Berg', values: { a: '1', b: '3' }, met: true },
    answer: { kind: 'gains' as const, gains: { Kp: '31', Kd: '13.5' } },
  },
];
const props = { part, answers, sheet, chosen: undefined, onChoose: () => undefined };

describe('a question to a worker', () => {
  test('is answered once, and the worker ends', () => {
    const { result } = renderHook(() => useWorker<string, number>(start, 'how many'));
    expect([Stand.last.asked, result.current]).toEqual(['how many', undefined]);
    Stand.last.say(3);
    expect([Stand.last.ended, result.current]).toEqual([true, { of: 'how many', answer: 3 }]);
  });

  test('gives way to the next one, whose answer is told apart', () => {
    const { result, rerender } = renderHook(({ asked }) => useWorker<string, number>(start, asked), {
      initialProps: { asked: 'first' },
    });
    const first = Stand.last;
    rerender({ asked: 'second' });
    expect([first.ended, Stand.last.asked]).toEqual([true, 'second']);
    Stand.last.breakOff();
    expect(result.current).toEqual({ of: 'second' });
  });
});

describe('a worker that could not be loaded, or broke off, is told', () => {
  test('where a class is drawn', () => {
    render(<FlockPanel {...props} />);
    expect(screen.getByText(/Drawing everyone’s responses/)).toBeTruthy();
    Stand.last.breakOff();
    expect(screen.getByText(notWorkedOut)).toBeTruthy();
  });

  test('where gains are tried', () => {
    render(<ClassGainMap {...props} />);
    expect(screen.getByText(/Trying gains/)).toBeTruthy();
    Stand.last.breakOff();
    expect(screen.getByText(notWorkedOut)).toBeTruthy();
  });

  test('on the lectern, and not taken for a part without a working', async () => {
    const { unmount } = render(<Board document={document} partId={part.id} values={{ a: '1', b: '3' }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Show the working' }));
    Stand.last.breakOff();
    expect(screen.getByText(notWorkedOut)).toBeTruthy();
    unmount();
    render(<Board document={document} partId={part.id} values={{ a: '1', b: '3' }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Show the working' }));
    Stand.last.say([]);
    expect(screen.getByText('There is no working to this part.')).toBeTruthy();
  });
});

test('a class stays drawn while newer answers are worked out', () => {
  const flock = { horizon: 5, curves: [{ submissionId: 's1', curve: { times: [0, 5], values: [0, 1] } }] };
  const { rerender } = render(<FlockPanel {...props} />);
  Stand.last.say(flock);
  const drawn = () => screen.queryByText(/Drawing everyone’s responses/) === null;
  expect(drawn()).toBe(true);
  rerender(<FlockPanel {...props} answers={[...answers]} />);
  expect([drawn(), Stand.last.ended]).toEqual([true, false]);
  rerender(<FlockPanel {...props} part={{ ...part, id: 'other' }} />);
  expect(drawn()).toBe(false);
});
