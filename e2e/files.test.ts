import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { follow, Stage } from './harness';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await Stage.open();
  page = await stage.windowOf('Marit Solano');
});
afterAll(() => stage.close());

const choose = (name: string, text: string) =>
  page.getByLabel('Exercise file').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });

test('an exercise goes out as a file and comes back as a draft of its own', async () => {
  await follow(page, 'Lighthouse lamp');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Export as a file' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('lighthouse-lamp-first-swing.json');
  const text = readFileSync(await file.path(), 'utf8');
  const document = JSON.parse(text) as { format: number; title: string; parts: unknown[] };
  expect(document).toMatchObject({ format: 2, title: 'Lighthouse lamp, first swing' });

  await follow(page, 'Shelf');
  await page.getByRole('heading', { name: 'Shelf' }).waitFor();
  await choose('lamp.json', JSON.stringify({ ...document, title: 'Lamp for another year' }));
  await page.getByRole('button', { name: 'Publish version 1' }).waitFor();
  expect(await page.getByRole('textbox', { name: 'Title', exact: true }).inputValue()).toBe('Lamp for another year');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await page
    .getByRole('link', { name: 'Lamp for another year (copy)' })
    .or(page.getByText('Lamp for another year (copy)'))
    .first()
    .waitFor();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await page.getByText('Archived, 1').click();
  await page.getByRole('button', { name: 'Back on the shelf' }).click();
  await page.getByText('Archived, 1').waitFor({ state: 'detached' });
  await page.getByRole('link', { name: 'Lamp for another year', exact: true }).waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('a file that is no exercise is refused with the reason and nothing is added', async () => {
  const rows = () => page.getByRole('link', { name: /Lamp|Crane|winch/ }).count();
  const before = await rows();
  await choose('notes.json', 'not JSON');
  await page.getByText('“notes.json” is not an exercise file').waitFor();
  await choose('other.json', JSON.stringify({ format: 1, title: 'Half' }));
  await page
    .getByRole('alert')
    .getByText(/statement|required/)
    .waitFor();
  expect(await page.getByText('“notes.json”').count()).toBe(0);
  expect(await rows()).toBe(before);
  // The browser notes the server's refusal by itself.
  expect(stage.complaintsSoFar().every((text) => text.includes('400'))).toBe(true);
});
