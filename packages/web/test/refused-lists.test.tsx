/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { CheckAgainPage } from '../src/corrections/CheckAgainPage';
import { ExportMenu } from '../src/marks/ExportMenu';
import type { SheetControls } from '../src/open/sheet/useSheet';
import type { SheetSaving } from '../src/open/sheet/useSheetSaving';
import { SheetActions } from '../src/open/SheetActions';
import PrintPage from '../src/paper/PrintPage';
import { watchSizes } from './page';
import { visit } from './visit';

beforeAll(watchSizes);

/** A list that the server does not give is no empty list. */

const gone = new Error('unavailable');
const sheet = { courseId: 'c', title: 'Ferry ramp', parts: [], rows: [], flock: [], systems: [], series: [] };

test('what was checked again is not said to be nothing, neither before the answer nor without one', async () => {
  visit('/exercises/e/again', '/exercises/:exerciseId/again', <CheckAgainPage />, 'instructor', {
    '/exercises/e/class': sheet,
    '/corrections': gone,
    '/versions': [{ number: 1, publishedAt: '2026-11-01T08:00:00Z', by: 'Marit Solano' }],
  });
  await screen.findByText('It is unavailable.');
  expect(screen.queryByText('Nothing is being checked again.')).toBeNull();
});

test('where versions cannot be looked up, nothing can be checked against them, and that is said', async () => {
  visit('/exercises/e/again', '/exercises/:exerciseId/again', <CheckAgainPage />, 'instructor', {
    '/exercises/e/class': sheet,
    '/corrections': [],
    '/versions': gone,
  });
  await screen.findByText('It is unavailable.');
  await screen.findByText('Nothing is being checked again.');
});

test('what was exported before', async () => {
  visit('/m', '/m', <ExportMenu courseId="c" />, 'instructor', { '/exports': gone });
  await userEvent.click(screen.getByRole('button', { name: 'Export …' }));
  await screen.findByText('It is unavailable.');
});

test('which exercises can be printed', async () => {
  visit('/courses/c/print', '/courses/:courseId/print', <PrintPage />, 'instructor', { '/courses/c/shelf': gone });
  await screen.findByText('It is unavailable.');
});

test('with whom a sheet is shared: nothing is changed on a guess', async () => {
  const controls = { id: 's', sheetNow: () => undefined } as unknown as SheetControls;
  const saving = { isKept: true } as unknown as SheetSaving;
  const actions = <SheetActions {...{ controls, saving, chosen: undefined, onProject: () => undefined }} />;
  visit('/open', '/open', actions, 'instructor', { '/sheets': gone });
  await screen.findByRole('button', { name: 'Make an exercise of it' });
  await userEvent.click(screen.getByRole('button', { name: 'Share' }));
  await screen.findByText('It is unavailable.');
  expect(screen.getByRole('menuitemcheckbox').getAttribute('aria-disabled')).toBe('true');
});
