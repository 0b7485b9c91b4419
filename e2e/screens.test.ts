import type { Page } from 'playwright-core';
import { follow, openSheet } from './harness';
import { type Screen, student, testScreens } from './screens';

/** Opens an exercise and waits for its drawing. */
async function diagram(page: Page, name: string): Promise<void> {
  await follow(page, name);
  await page.locator('[data-shape]:visible').first().waitFor();
}

/** The open bench with a sheet of the harbour. */
async function openBench(page: Page): Promise<void> {
  await page.goto('/open');
  await openSheet(page, 'Winch and its controller');
  await page.locator('[data-curve]').first().waitFor();
}

const screens: Screen[] = [
  ['sign-in', null, (page) => page.goto('/')],
  ['open bench', null, openBench],
  ['a new account', null, (page) => page.goto('/join?code=ABC')],
  ['the student’s home', student, (page) => page.getByRole('heading', { name: 'Harbour machinery' }).waitFor()],
  ['joining', student, (page) => page.goto('/join')],
  ['nowhere', student, (page) => page.goto('/no/such/page')],
  ['someone else’s exercise', student, (page) => page.goto('/exercises/00000000-0000-0000-0000-000000000000')],
  ['the bench for gains', student, (page) => follow(page, 'Crane trolley')],
  ['the bench for a fraction', student, (page) => follow(page, 'Lighthouse lamp')],
  [
    'the bench for a number',
    student,
    async (page) => {
      await follow(page, 'Lighthouse lamp');
      await page.getByRole('button', { name: 'Predict the overshoot' }).click();
      await page.locator('[data-curve=now]').waitFor();
      await page.getByRole('button', { name: 'Show the working' }).first().click();
      await page.getByRole('region', { name: 'Working' }).first().locator('li').first().waitFor();
    },
  ],
  [
    'practice',
    student,
    async (page) => {
      await follow(page, 'Lighthouse lamp');
      await page.getByRole('button', { name: 'Predict the overshoot' }).click();
      await follow(page, 'Practise with other numbers');
      await page.getByRole('textbox', { name: 'Overshoot' }).fill('12');
      await page.getByRole('button', { name: 'Check' }).click();
      await page.getByRole('region', { name: 'So far' }).waitFor();
    },
  ],
  ['the bench for a prediction', student, (page) => follow(page, 'Two lamp tables')],
  ['the bench for a trend table', student, (page) => follow(page, 'Ferry ramp')],
  ['the bench for a curve', student, (page) => follow(page, 'Tide-gauge float')],
  [
    'the bench for a loop with limits',
    student,
    async (page) => {
      await follow(page, 'Lock gate');
      await page.getByRole('button', { name: 'Fill the chamber' }).click();
      await page.getByRole('button', { name: 'Measures' }).click();
    },
  ],
  [
    's-plane and response',
    student,
    async (page) => {
      await follow(page, 'Mooring winch');
      await page.locator('[data-pole]').first().waitFor();
      await page.getByRole('button', { name: 'Read here' }).click();
    },
  ],
  [
    'Bode and Nyquist',
    student,
    async (page) => {
      await follow(page, 'Radar mast');
      await page.getByRole('button', { name: 'Raise the phase' }).click();
      await page.locator('[data-curve=nyquist]').waitFor();
    },
  ],
  [
    'points on the plane',
    student,
    async (page) => {
      await follow(page, 'Slewing crane');
      await page.getByRole('button', { name: 'Crossings' }).click();
      await page
        .getByRole('region', { name: /Crossings/ })
        .getByRole('textbox', { name: /^Or typed/ })
        .waitFor();
    },
  ],
  [
    'a sketch of the real axis',
    student,
    async (page) => {
      await follow(page, 'Slewing crane');
      await page.getByRole('button', { name: 'On the real axis' }).click();
      await page
        .getByRole('checkbox', { name: /^Real axis/ })
        .first()
        .waitFor();
    },
  ],
  [
    'a model over frequency',
    student,
    async (page) => {
      await follow(page, 'Crane boom');
      await page.getByRole('button', { name: 'Build the model' }).click();
      await page.locator('[data-curve=magnitude]').waitFor();
    },
  ],
  [
    'plots to choose from',
    student,
    async (page) => {
      await follow(page, 'Crane boom');
      await page.getByRole('button', { name: 'Which plot is it' }).click();
      await page.locator('[data-line]').first().waitFor();
    },
  ],
  [
    'the range of stable gains',
    student,
    async (page) => {
      await follow(page, 'Ferry fins');
      await page.getByRole('button', { name: 'Stable gains' }).click();
      await page.getByRole('textbox', { name: 'Stable gains' }).waitFor();
    },
  ],
  ['the bench for a diagram', student, (page) => diagram(page, 'Winch drive')],
  [
    'the ledger',
    student,
    async (page) => {
      await diagram(page, 'Tide gauge, step');
      // Kofi has reduced it already.
      await page.getByRole('button', { name: 'The diagram as given' }).click();
      await page.getByRole('button', { name: /^Sum: plus r/ }).click();
      await page
        .getByRole('button', { name: /^Tap before the sum/ })
        .first()
        .waitFor();
    },
  ],
  [
    'a choice of diagrams',
    student,
    async (page) => {
      await diagram(page, 'Ferry ramp, crossing');
      await page.getByRole('button', { name: 'Enlarge' }).first().click();
    },
  ],
  ['a student’s marks', student, (page) => follow(page, 'Your marks')],
];

testScreens(
  screens,
  [
    'sign-in',
    'open bench',
    'the student’s home',
    'the bench for gains',
    'the bench for a number',
    'points on the plane',
  ],
  [
    'sign-in',
    'the student’s home',
    'the bench for gains',
    'the bench for a number',
    'practice',
    'points on the plane',
    'a choice of diagrams',
  ],
);
