import { follow } from './harness';
import { type Screen, staff, testScreens } from './screens';

const screens: Screen[] = [
  ['the builder of a model over frequency', staff, (page) => follow(page, 'Crane boom')],
  [
    'the diagram workshop',
    staff,
    async (page) => {
      await follow(page, 'Crane hoist');
      await page.getByRole('button', { name: 'Draw the diagram' }).click();
      await page.getByRole('button', { name: /^Block C: takes e/ }).click();
    },
  ],
  [
    'paths and loops',
    staff,
    async (page) => {
      await follow(page, 'Crane hoist');
      await page.getByRole('button', { name: 'Draw the diagram' }).click();
      await page.getByRole('button', { name: 'Paths and loops' }).click();
      await page.locator('[data-shape]:visible').first().waitFor();
    },
  ],
  [
    'the proof',
    staff,
    async (page) => {
      await follow(page, 'Crane trolley');
      await page.getByRole('tab', { name: 'Proof' }).click();
      await page.getByRole('button', { name: 'Prove this part' }).click();
      await page.getByText('Can it be solved').waitFor();
    },
  ],
  [
    'the lectern',
    staff,
    async (page) => {
      await follow(page, 'Mooring winch');
      await page.getByRole('button', { name: 'More' }).click();
      await page.getByRole('menuitem', { name: 'On the lectern' }).click();
      await page.getByRole('button', { name: 'Reveal' }).click();
      await page.locator('[data-curve=now]').waitFor();
    },
  ],
  ['the builder with a compensator', staff, (page) => follow(page, 'Mooring winch')],
  ['the builder with systems', staff, (page) => follow(page, 'Winch with a slow sensor')],
  ['the shelf', staff, (page) => page.getByRole('heading', { name: 'Shelf' }).waitFor()],
  ['people', staff, (page) => follow(page, 'People')],
  ['the builder', staff, (page) => follow(page, 'Crane trolley')],
  [
    'publishing',
    staff,
    async (page) => {
      await follow(page, 'Cable winch');
      await page.getByRole('button', { name: 'Publish version 1' }).click();
    },
  ],
  ['the class sheet', staff, (page) => follow(page, 'Class sheet')],
  [
    'an answer on the class sheet',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: /^Sefa Duarte, Write/ }).click();
      await page.getByRole('region', { name: 'Answer of Sefa Duarte' }).waitFor();
    },
  ],
  [
    'all answers to a part',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'All answers' }).click();
      await page.getByRole('rowheader').first().waitFor();
    },
  ],
  [
    'checking again',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Check again' }).click();
      await page.getByRole('button', { name: 'Check again' }).click();
      await page.getByText('Verdict then').waitFor();
    },
  ],
  [
    'answers from elsewhere',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Answers from elsewhere' }).click();
      await page.getByLabel('The table').waitFor();
    },
  ],
  ['the marks', staff, (page) => follow(page, 'Marks')],
  [
    'how marks are made',
    staff,
    async (page) => {
      await follow(page, 'Marks');
      await page.getByRole('button', { name: 'Weights …' }).click();
    },
  ],
  ['the term', staff, (page) => follow(page, 'Term')],
  ['the log', staff, (page) => follow(page, 'Log')],
  [
    'a list of names',
    staff,
    async (page) => {
      await follow(page, 'People');
      await page.getByRole('button', { name: 'Add from a list …' }).click();
      await page.getByLabel('Paste the list').fill('new.sailor@harbour.example; New Sailor');
      await page.getByRole('button', { name: 'Look at it' }).click();
      await page.getByText('gets an account').waitFor();
    },
  ],
];

testScreens(
  screens,
  ['the class sheet', 'the builder', 'the marks', 'the term', 'people'],
  ['the shelf', 'the class sheet', 'the builder'],
);
