import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Draft, Shelf } from '@nailset/core';
import type { Page } from 'playwright-core';
import { Browser } from '../packages/server/test/harness';
import { follow, Stage, until } from './harness';

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());

const instructor = 'Marit Solano';
const folder = mkdtempSync(path.join(os.tmpdir(), 'nailset-'));

/** The instructor as a browser without a window, for what is not looked at here. */
async function signedIn(): Promise<{ browser: Browser; exercises: Shelf['exercises'] }> {
  const browser = await new Browser(stage.server).open();
  await browser.post('/session', { email: 'marit.solano@harbour.example', password: 'harbour-lights' });
  await browser.open();
  const { body } = await browser.get<{ memberships: { courseId: string }[] }>('/session');
  const shelf = await browser.get<Shelf>(`/courses/${body.memberships[0]!.courseId}/shelf`);
  return { browser, exercises: shelf.body.exercises };
}

/** What a page says when it is printed, read back from its PDF. */
async function printed(page: Page): Promise<{ text: string; pages: number }> {
  const file = path.join(folder, 'sheet.pdf');
  writeFileSync(file, await page.pdf({ preferCSSPageSize: true }));
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  return { text, pages: text.split('\f').length - 1 };
}

test('from a file of a registry to a student who is in', async () => {
  const page = await stage.windowOf(instructor);
  await follow(page, 'People');
  await page.getByRole('button', { name: 'Add from a list …' }).click();
  // As a spreadsheet of Windows writes it.
  const list = Buffer.from(
    'Nachname;Vorname;E-Mail;Matrikelnr.;Gruppe\nBjörk;Ása;asa@harbour.example;4499;Monday\n',
    'latin1',
  );
  await page.getByLabel(/choose files/).setInputFiles({ name: 'liste.csv', mimeType: 'text/csv', buffer: list });
  await page.getByText('Ása Björk').waitFor();
  await page.getByRole('button', { name: 'Take in 1' }).click();
  const link = await page.getByText(/\/new-password#/).textContent();
  const own = await stage.window();
  await own.goto(link!);
  await own.getByLabel('New password', { exact: true }).fill('fog over the quay');
  await own
    .getByRole('button', { name: /Set|Choose|Save/ })
    .first()
    .click();
  await own.getByRole('heading', { name: 'Harbour machinery' }).waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('a correction is looked at, applied with a reason, and told to the student', async () => {
  const { browser, exercises } = await signedIn();
  const { id } = exercises.find(({ title }) => title.startsWith('Lighthouse lamp'))!;
  const { body: draft } = await browser.get<Draft>(`/exercises/${id}/draft`);
  // The tolerance was too narrow.
  const document = {
    ...draft.document,
    parts: draft.document.parts.map((part) => (part.id === 'overshoot' ? { ...part, points: 5 } : part)),
  };
  await browser.put(`/exercises/${id}/draft`, { revision: draft.revision, document });
  expect((await browser.post(`/exercises/${id}/versions`, { revision: draft.revision + 1 })).status).toBe(200);

  const page = await stage.windowOf(instructor);
  await page.goto(`/exercises/${id}/again`);
  await page.getByRole('combobox', { name: /^Answers/ }).selectOption({ index: 2 });
  await page.getByRole('button', { name: 'Check again' }).click();
  // Every answer is checked once more, beside whatever else the machine does.
  await page.getByRole('button', { name: /^[1-9]\d* gain$/ }).click({ timeout: 90_000 });
  await page.getByRole('button', { name: 'Let it count …' }).click();
  await page.getByLabel(/Reason/).fill('The part was worth too little.');
  await page.getByRole('button', { name: 'Let it count', exact: true }).click();
  await page.getByText(/Applied .* the better counts/).waitFor();

  const own = await stage.windowOf('Kofi Lindqvist');
  await own.goto(`/exercises/${id}`);
  await own.getByRole('button', { name: /Predict the overshoot/ }).click();
  await own
    .getByText(/Checked again .*: The part was worth too little\./)
    .first()
    .waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
}, 180_000);

test('dates for one student are theirs alone', async () => {
  const page = await stage.windowOf(instructor);
  await follow(page, 'Ferry ramp, which gain');
  await page.getByRole('button', { name: 'Dates for some …' }).click();
  await page.getByLabel('For', { exact: true }).selectOption({ label: 'Kofi Lindqvist (44128)' });
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Due', { exact: true }).selectOption('on');
  await dialog.getByLabel('Due day').fill('2099-06-01');
  await dialog.getByLabel('Due day').blur();
  await dialog.getByLabel('Reason').fill('Harbour exam that week.');
  await dialog.getByRole('button', { name: 'Give these dates' }).click();
  await dialog.getByText('Kofi Lindqvist').first().waitFor();
  const student = await stage.windowOf('Kofi Lindqvist');
  await student.getByText(/yours: Harbour exam that week\./).waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('marks are weighed, exported, and what went out is kept', async () => {
  const page = await stage.windowOf(instructor);
  await follow(page, 'Marks');
  await page.getByRole('button', { name: 'Export …' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save CSV, a column an exercise' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('marks.csv');
  await page
    .getByRole('region', { name: 'Exported before' })
    .getByText(/marks\.csv/)
    .waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});

test.each(['A4', 'Letter'])(
  'an exercise on %s: sheets with room for answers, numbers and a key, no broken lines',
  async (size) => {
    const page = await stage.windowOf(instructor);
    const { exercises } = await signedIn();
    const { id } = exercises.find(({ title }) => title.startsWith('Winch drive'))!;
    await page.goto(`/exercises/${id}/print`);
    await page.getByLabel('Paper').selectOption(size);
    await page.getByLabel('Key').selectOption('after');
    await page.locator('[data-shape]').first().waitFor();
    const boxes = await page.locator('[data-answer-box]').count();
    expect(boxes).toBeGreaterThanOrEqual(4);
    const { text, pages } = await printed(page);
    expect(text).toMatch(/Winch drive, cable and load\n/);
    expect(text).toMatch(/Name: _+ Number: _+/);
    expect(text).toMatch(/The motor of the winch turns with the speed/);
    expect(text).toMatch(/a\) Voltage and load/);
    expect(text).toMatch(/Winch drive, cable and load: key/);
    // What is pressed on the screen is not on paper.
    expect(text).not.toMatch(/Enlarge|one sheet for all|Shelf/);
    expect(pages).toBeLessThanOrEqual(4);
    expect(stage.complaintsSoFar()).toEqual([]);
  },
  60_000,
);

test('each student’s own numbers, by name and with a code; the class sheet prints whole and without buttons', async () => {
  const page = await stage.windowOf(instructor);
  const { exercises } = await signedIn();
  const { id } = exercises.find(({ title }) => title.startsWith('Crane trolley'))!;
  await page.goto(`/exercises/${id}/print`);
  await page.getByLabel('Numbers').selectOption('each');
  await until(async () => (await page.getByRole('article').count()) >= 24);
  const { text, pages } = await printed(page);
  expect(pages).toBeGreaterThanOrEqual(24);
  expect(text).toMatch(/Kofi Lindqvist\s+44128 · Thursday/);
  expect(new Set(text.match(/[0-9A-F]{6}-1/g)).size).toBeGreaterThanOrEqual(24);
  expect(text).toMatch(/Overshoot at most 15 %/);
  await page.goto(`/exercises/${id}/class`);
  await page.getByRole('rowheader').first().waitFor();
  const sheet = (await printed(page)).text;
  for (const name of ['Anouk Rahman', 'Wim Karlsson', 'Tove Baptiste']) expect(sheet).toContain(name);
  expect(sheet).not.toMatch(/Find a student|everyone\n/);
});

test('answers from elsewhere are handed in for the students', async () => {
  const { exercises } = await signedIn();
  const { id } = exercises.find(({ title }) => title.startsWith('Lighthouse lamp'))!;
  const page = await stage.windowOf(instructor);
  await page.goto(`/exercises/${id}/entered`);
  await page
    .getByLabel('The table')
    .fill('name;part;answer\nTove Baptiste;a;1/(s+1)\nNobody;a;1/s\nTove Baptiste;b;12 %');
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.getByText(/1 cannot be read/).waitFor();
  await page.getByRole('button', { name: 'Hand in 2' }).click();
  await page.getByText(/2 answers are handed in/).waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});
