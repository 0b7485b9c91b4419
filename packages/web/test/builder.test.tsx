/** @jest-environment jsdom */
import { type ExerciseDocument } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { MemoryRouter } from 'react-router';
import { AskedColumn } from '../src/builder/AskedColumn';
import { exampleScope } from '../src/builder/exampleScope';
import { GivenColumn } from '../src/builder/GivenColumn';
import { newExercise } from '../src/builder/newExercise';
import { StudentPreview } from '../src/builder/StudentPreview';
import { DueField } from '../src/dates/DueField';
import { watchSizes } from './page';

beforeAll(watchSizes);

let latest: ExerciseDocument;

function Builder({
  start = newExercise(),
  disabled = false,
  onDue = () => undefined,
}: {
  start?: ExerciseDocument;
  disabled?: boolean;
  onDue?: (due: string | null) => void;
}) {
  const [document, setDocument] = useState(start);
  const [open, setOpen] = useState(start.parts[0]!.id);
  latest = document;
  const findings = examine(document);
  const scope = exampleScope(document);
  const common = { document, scope, findings, disabled, edit: setDocument };
  return (
    <MemoryRouter>
      <GivenColumn {...common} />
      <AskedColumn
        {...common}
        open={open}
        onOpen={setOpen}
        dates={<DueField dueAt={null} disabled={false} onDue={onDue} />}
      />
      <StudentPreview document={document} open={open} />
    </MemoryRouter>
  );
}

const type = (label: string, text: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });

/** Takes something out, after being asked: the first time the answer is no. */
async function remove(name: string): Promise<void> {
  const before = latest;
  await userEvent.click(screen.getByRole('button', { name }));
  await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  expect(latest).toBe(before);
  await userEvent.click(screen.getByRole('button', { name }));
  await userEvent.click(screen.getByRole('button', { name: 'Remove' }));
}

describe('given', () => {
  test('what is typed is in the student’s view at once', () => {
    render(<Builder />);
    type('Title', 'Ferry ramp');
    type('Statement', 'Lift it by {{b}} metres.');
    const view = screen.getByRole('region', { name: 'Student’s view' });
    expect(within(view).getByRole('heading', { name: 'Ferry ramp' })).toBeTruthy();
    expect(within(view).getByText('Lift it by 3 metres.')).toBeTruthy();
  });

  test('a draw changes its kind, and an impossible one is named where it stands', () => {
    render(<Builder />);
    type('a, to', '0.5');
    expect(screen.getAllByText(/a: The upper end of a draw must lie above the lower end\./).length).toBe(1);
    expect(screen.getByText(/Fix the marked fields/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('a, kind of draw'), { target: { value: 'list' } });
    type('a, values, separated by semicolons', '1; 1.5 2');
    expect(latest.parameters[0]!.draw).toEqual({ kind: 'list', values: [1, 1.5, 2] });
    expect(examine(latest)).toEqual([]);
  });

  test('parameters come with a free symbol and go', async () => {
    render(<Builder />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a parameter' }));
    expect(latest.parameters.map(({ symbol }) => symbol)).toEqual(['a', 'b', 'c']);
    await userEvent.click(screen.getByRole('button', { name: 'Remove c' }));
    expect(latest.parameters).toHaveLength(2);
  });

  test('the student’s view takes the numbers of another student', () => {
    render(<Builder start={{ ...newExercise(), statement: 'a is {{a}}' }} />);
    const numbers = screen.getByLabelText('Numbers of');
    fireEvent.change(numbers, { target: { value: '0' } });
    expect(screen.getByText('a is 1')).toBeTruthy();
    fireEvent.change(numbers, { target: { value: '1' } });
    expect(screen.getByText('a is 2')).toBeTruthy();
    // Where all have the same, there is nobody to choose.
    fireEvent.change(screen.getByLabelText('a, kind of draw'), { target: { value: 'fixed' } });
    expect(screen.queryByLabelText('Numbers of')).toBeNull();
  });
});

describe('asked and accepted', () => {
  test('a nail is changed, added and removed; the rail beside follows', async () => {
    render(<Builder />);
    type('Overshoot, limit', '33');
    expect(screen.getByText('at most 33 %')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Add a nail' }));
    const added = latest.parts[0] as Extract<ExerciseDocument['parts'][number], { kind: 'gains' }>;
    expect(added.nails.map((nail) => 'quantity' in nail && nail.quantity)).toEqual([
      'overshootPercent',
      'riseTime',
      'settlingTime',
    ]);
    expect(new Set(added.nails.map(({ id }) => id)).size).toBe(3);
    await remove('Remove the nail Settling, 2 %');
    expect(screen.queryByText(/at most 2 s/)).toBeNull();
  });

  test('choosing another quantity brings its usual limit', () => {
    render(<Builder />);
    fireEvent.change(screen.getAllByLabelText('Nail')[0]!, { target: { value: 'stepError' } });
    expect(screen.getByText('at most 0.01')).toBeTruthy();
  });

  test('a plant with a slip is told at the part, and mended', () => {
    render(<Builder />);
    type('Plant G', 'b/(s^2 + q*s)');
    expect(screen.getAllByText(/“q” is not known here/).length).toBeGreaterThan(0);
    type('Plant G', 'b/(s^2 + a*s)');
    expect(screen.queryByText(/is not known here/)).toBeNull();
  });

  test('parts are added with what the last one was about, opened, and removed', async () => {
    render(<Builder />);
    await userEvent.click(screen.getByRole('button', { name: 'Add a part' }));
    await userEvent.click(await screen.findByRole('menuitem', { name: 'number' }));
    expect(latest.parts.map(({ kind }) => kind)).toEqual(['gains', 'number']);
    fireEvent.change(screen.getByLabelText('Asked for'), { target: { value: 'riseTime' } });
    type('Tolerance', '5');
    expect(latest.parts[1]).toMatchObject({ formula: 'riseTime(closed(G))', unit: 's', tolerancePercent: 5 });
    await remove('Remove part Work it out');
    expect(latest.parts).toHaveLength(1);
  });

  test('parts change places by Alt and an arrow key, or by a button, and stop at the ends', async () => {
    const [only] = newExercise().parts;
    const parts = ['One', 'Two', 'Three'].map((title) => ({ ...only!, id: title.toLowerCase(), title }));
    render(<Builder start={{ ...newExercise(), parts }} />);
    const ids = () => latest.parts.map(({ id }) => id);
    const [first, second, ...rest] = ids();
    const head = document.querySelector('[data-part=one][aria-expanded]')!;
    fireEvent.keyDown(head, { key: 'ArrowUp', altKey: true });
    expect(ids()).toEqual([first, second, ...rest]);
    fireEvent.keyDown(head, { key: 'ArrowDown', altKey: true });
    expect(ids()).toEqual([second, first, ...rest]);
    // The part that was open stays open, and keeps the focus for the next key.
    await new Promise((resolve) => setTimeout(resolve));
    expect(document.activeElement?.getAttribute('data-part')).toBe(first);
    await userEvent.click(screen.getByRole('button', { name: /^Move part .* up$/ }));
    expect(ids()).toEqual([first, second, ...rest]);
  });

  test('rules: whole tries, a due date that takes effect by itself', () => {
    const heard = jest.fn();
    render(<Builder onDue={heard} />);
    type('Tries for each part', '2.6');
    expect([latest.attempts, screen.getByRole('alert').textContent]).toEqual([5, 'A whole number is needed.']);
    type('Tries for each part', '4');
    expect(latest.attempts).toBe(4);
    type('Due', 'on');
    const [day, time] = [screen.getByLabelText('Due day'), screen.getByLabelText('Due time')];
    const leave = (field: HTMLElement, value: string) => {
      fireEvent.change(field, { target: { value } });
      fireEvent.blur(field);
    };
    leave(day, '2026-12-01');
    expect(heard).toHaveBeenLastCalledWith(new Date('2026-12-01T18:00').toISOString());
    leave(time, '');
    expect(screen.getByText(/no whole date yet/)).toBeTruthy();
    leave(day, '0026-12-01');
    expect(heard).toHaveBeenCalledTimes(1);
    type('Due', 'none');
    expect(heard).toHaveBeenCalledTimes(1);
    fireEvent.change(screen.getByLabelText('and expected answers'), { target: { value: 'never' } });
    expect(latest.solution).toBe('never');
  });

  test('warns where a second account could see the answers', () => {
    const drawn = newExercise();
    const [parameter] = drawn.parameters;
    const same = { ...drawn, parameters: [{ ...parameter!, draw: { kind: 'fixed' as const, value: 2 } }] };
    const { unmount } = render(<Builder start={same} />);
    const warning = () => screen.queryByText(/someone with a second account/) !== null;
    type('and expected answers', 'onceDone');
    expect(warning()).toBe(true);
    type('and expected answers', 'afterDue');
    expect(warning()).toBe(false);
    unmount();
    render(<Builder start={{ ...drawn, solution: 'onceDone' }} />);
    expect(warning()).toBe(drawn.parameters.every(({ draw }) => draw.kind === 'fixed'));
  });

  test('an assistant reads and changes nothing', () => {
    render(<Builder disabled />);
    expect(screen.getByLabelText<HTMLInputElement>('Title').matches(':disabled')).toBe(true);
    expect(screen.getByLabelText('Plant G').closest('fieldset')!.disabled).toBe(true);
    const changes = screen.queryAllByRole('button', { name: /^Add|^Remove/ });
    expect(changes.every((button) => button.matches(':disabled'))).toBe(true);
  });
});
