/** @jest-environment jsdom */
import type { Marks, MarksCell } from '@nailset/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MarksPage } from '../src/marks/MarksPage';
import { watchSizes } from './page';
import { sentBy, visit } from './visit';

beforeAll(watchSizes);

const cell = (points: number | null, excused: string | null = null): MarksCell => ({
  ...{ points, outOf: 4, excused, open: false, parts: [] },
  counting: excused === null ? 'counts' : 'excused',
});
const row = (number: number, points: number | null, total: number | null, excused: string | null = null) => ({
  person: { id: `p${number}`, name: `Sailor ${number}`, email: '', studentNumber: `00${number}`, group: 'A' },
  cells: [cell(points, excused)],
  sets: [total ?? 0],
  total,
});
const marks: Marks = {
  course: 'Harbour machinery',
  marking: { sets: [{ id: 'all', name: 'All', weight: 1, best: null }], exercises: {} },
  exercises: [{ id: 'lamp', title: 'Lighthouse lamp', outOf: 4, dueAt: null, parts: ['Overshoot'] }],
  rows: [row(10, 1, 0.25), row(2, 4, 1), row(1, null, null, 'Was at sea.'), row(3, 2, 0.5)],
};

async function open(role: 'instructor' | 'assistant') {
  visit('/courses/c/marks', '/courses/:courseId/marks', <MarksPage />, role, { '/courses/c/marks': marks });
  await screen.findByRole('rowheader', { name: /Sailor 10/ });
}
const names = () => screen.getAllByRole('rowheader').map((head) => head.getAttribute('title'));
const excuseButton = (name: string) => screen.getByRole('button', { name: `Excuse ${name} from Lighthouse lamp` });

test('rows go by name, numbers as numbers, or by total', async () => {
  await open('instructor');
  expect(names()).toEqual(['Sailor 1', 'Sailor 2', 'Sailor 3', 'Sailor 10']);
  await userEvent.click(screen.getByRole('button', { name: 'Total' }));
  expect(names()).toEqual(['Sailor 2', 'Sailor 3', 'Sailor 10', 'Sailor 1']);
});

test('a student is found by a piece of the name or number', async () => {
  await open('instructor');
  await userEvent.type(screen.getByLabelText('Find a student'), '003');
  expect(names()).toEqual(['Sailor 3']);
});

test('each cell leads to the answer, and says whose it is', async () => {
  await open('instructor');
  const link = screen.getByRole('link', { name: 'Sailor 2, Lighthouse lamp: 4 of 4 points' });
  expect(link.getAttribute('href')).toBe('/exercises/lamp/class?person=p2');
  expect(screen.getByTitle('Excused: Was at sea.').textContent).toBe('excused');
});

test('excusing wants a reason, sends it, and the focus is where it was', async () => {
  await open('instructor');
  await userEvent.click(excuseButton('Sailor 2'));
  const dialog = within(await screen.findByRole('dialog', { name: 'Excuse Sailor 2?' }));
  const excuse = dialog.getByRole<HTMLButtonElement>('button', { name: 'Excuse' });
  expect(excuse.disabled).toBe(true);
  await userEvent.type(dialog.getByLabelText(/Reason/), 'Fog.');
  await userEvent.click(excuse);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(sentBy('PUT')[0]).toMatchObject({
    path: expect.stringMatching(/exercises\/lamp\/excused\/p2$/) as unknown,
    body: { excused: true, reason: 'Fog.' },
  });
  await waitFor(() => expect(document.activeElement).toBe(excuseButton('Sailor 2')));
});

test('one who is excused can count again; Escape changes nothing', async () => {
  await open('instructor');
  await userEvent.click(excuseButton('Sailor 1'));
  expect(await screen.findByText('“Lighthouse lamp”: Was at sea.')).toBeTruthy();
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(sentBy('PUT').length > 0).toBe(false);
  await userEvent.click(excuseButton('Sailor 1'));
  await userEvent.click(await screen.findByRole('button', { name: 'Let it count again' }));
  await waitFor(() => expect(sentBy('PUT').length > 0).toBe(true));
  expect(sentBy('PUT')[0]?.body).toMatchObject({ excused: false });
});

test('an assistant changes nothing', async () => {
  await open('assistant');
  expect(screen.queryByRole('button', { name: /Excuse/ })).toBeNull();
  expect(screen.queryByRole('button', { name: /Weights/ })).toBeNull();
});
