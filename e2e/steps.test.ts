import type { Page } from 'playwright-core';
import { follow, Stage } from './harness';

/** Going back: what was done in the builder, what lies over a page, and to a part by its address. */

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await Stage.open();
  page = await stage.windowOf('Marit Solano');
  await page.getByRole('button', { name: 'New exercise' }).click();
  await page.getByLabel('Title', { exact: true }).fill('Penstock');
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

const parts = () => page.getByRole('button', { name: /^Remove part/ });
const step = (name: string) => page.getByRole('button', { name, exact: true });
const saved = () => page.waitForResponse((answer) => answer.request().method() === 'PUT' && answer.ok());
const add = async (kind: string) => {
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
};

test('a part is added, taken back by a button, and brought again by a key', async () => {
  await add('number');
  await page.getByLabel('Unit', { exact: true }).waitFor();
  expect(await parts().count()).toBe(2);
  await step('Undo').click();
  await page.getByLabel('Unit', { exact: true }).waitFor({ state: 'detached' });
  await page.keyboard.press('Control+Shift+Z');
  await parts().nth(1).waitFor();
});

test('what was done is still there after the page was left, and what is undone is saved', async () => {
  await page.getByRole('link', { name: 'Shelf' }).click();
  await follow(page, 'Penstock');
  await page.goBack();
  await page.goForward();
  await parts().nth(1).waitFor();
  const save = saved();
  await step('Undo').click();
  await parts().first().waitFor({ state: 'detached' });
  await save;
  await page.reload();
  await page.getByLabel('Title', { exact: true }).waitFor();
  expect(await parts().count()).toBe(0);
  expect(await step('Undo').isDisabled()).toBe(true);
});

test('Back closes the workshop and stays in the builder', async () => {
  await page.getByLabel('G, form').selectOption('signal equations');
  await page.getByRole('button', { name: 'Draw the diagram' }).click();
  const workshop = page.getByRole('dialog', { name: 'Diagram of G' });
  await workshop.waitFor();
  await page.goBack();
  await workshop.waitFor({ state: 'detached' });
  expect(await page.getByLabel('Title', { exact: true }).inputValue()).toBe('Penstock');
  await page.getByRole('button', { name: 'Draw the diagram' }).click();
  await workshop.getByRole('button', { name: 'Done' }).click();
  await workshop.waitFor({ state: 'detached' });
  expect(await page.getByLabel('Title', { exact: true }).inputValue()).toBe('Penstock');
});

test('the open part comes back with a reload', async () => {
  const student = await stage.windowOf('Ilse Okafor');
  await follow(student, 'Crane trolley');
  await student.getByRole('button', { name: /Bring it back/ }).click();
  await student.waitForURL(/\?part=/);
  await student.reload();
  await student.locator('[aria-current=step]', { hasText: 'Bring it back' }).waitFor();
});

test('the first key press leads past the header', async () => {
  await page.reload();
  await page.getByLabel('Title', { exact: true }).waitFor();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  expect(await page.evaluate('document.activeElement.tagName')).toBe('MAIN');
});
