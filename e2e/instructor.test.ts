import type { Page } from 'playwright-core';
import { follow, Stage } from './harness';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await Stage.open();
  page = await stage.windowOf('Marit Solano');
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

const saved = () => page.getByText(/saved \d\d:\d\d$/);

test('a nail is changed, published, and the student is held to it', async () => {
  const student = await stage.windowOf('Mireille Anand');
  await follow(student, 'Crane trolley');
  await student.getByRole('button', { name: 'Bring it back' }).click();
  const numbers = await student.getByText('Your numbers').innerText();

  await follow(page, 'Crane trolley');
  const limit = page.getByRole('textbox', { name: 'Overshoot, limit' });
  await limit.fill('7');
  await page.getByText('Draft after version 1').waitFor();
  await page.getByText('overshoot ≤ 7 %').waitFor();
  await page.getByRole('button', { name: 'Publish version 2' }).click();
  await page
    .getByRole('alertdialog')
    .getByText(/answers handed in so far keep their verdicts/)
    .waitFor();
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByText('Version 2 is out').waitFor();

  await student.getByRole('textbox', { name: 'Kp, typed' }).fill('13');
  await student.getByRole('button', { name: 'Hand in' }).click();
  const anew = student.getByRole('button', { name: 'Show the new version' });
  await anew.click();
  // What is clicked before it is there belongs to the old one.
  await anew.waitFor({ state: 'detached' });
  await student.getByRole('button', { name: 'Stand firm' }).click();
  await student.getByText('at most 7 %').waitFor();
  await student.getByRole('button', { name: 'Bring it back' }).click();
  expect(await student.getByRole('textbox', { name: 'Kp, typed' }).inputValue()).toBe('13');
  expect(await student.getByText('Your numbers').innerText()).toBe(numbers);
  await student.getByRole('button', { name: 'Hand in' }).click();
  await student.getByText('Try 2', { exact: true }).waitFor();
  // The browser notes the refusal of the outdated version by itself.
  expect(stage.complaintsSoFar()).toEqual([expect.stringContaining('409')]);
});

test('the class sheet shows nails, measured values, everyone’s curves and the trail', async () => {
  await page.getByRole('link', { name: 'Class sheet' }).click();
  await page.getByText(/Everyone · \d\d responses, \d+ hold every nail/i).waitFor();
  expect(await page.locator('[data-curve]').count()).toBeGreaterThanOrEqual(20);
  await page.getByRole('button', { name: /^Linh Marchetti, Bring it back/ }).click();
  const answer = page.getByRole('region', { name: 'Answer of Linh Marchetti' });
  await answer.waitFor();
  expect(await answer.innerText()).toMatch(/Overshoot [\d.]+ %, limit 15 %: holds/);
  expect(await answer.getByRole('region', { name: 'Trail' }).getByRole('row').count()).toBeGreaterThan(1);
  expect(await page.locator('path.stroke-copper[data-curve]').count()).toBe(1);
});

test('a curve leads to its student', async () => {
  await page.locator('[data-curve]').first().dispatchEvent('click');
  await page.getByRole('region', { name: /^Answer of/ }).waitFor();
});

test('slips are counted with who made them, and lead to their answers', async () => {
  await page.getByRole('button', { name: 'Close' }).click();
  const slips = page.getByRole('region', { name: 'Slips' });
  const counts = (await slips.locator('b').allInnerTexts()).map(Number);
  const missed = await page
    .getByRole('button', { name: /, Bring it back: [\d.]+ of 6 points/ })
    .evaluateAll((cells) => cells.filter((cell) => !cell.getAttribute('aria-label')!.includes(': 6 of 6')).length);
  expect(counts.reduce((sum, count) => sum + count, 0)).toBe(missed);
  expect(await slips.getByText('The offset stays because nothing integrates').count()).toBe(1);
  const [first] = await slips.getByRole('button').all();
  const name = (await first!.getAttribute('aria-label'))!;
  await first!.click();
  await page.getByRole('region', { name }).waitFor();
});

test('everyone lies on the gain map of the answer that is chosen', async () => {
  await page.getByRole('button', { name: 'Gain map' }).click();
  await page.getByText(/^Green: all hold/).waitFor();
  const dots = page.locator('circle[data-answer]');
  expect(await dots.count()).toBeGreaterThan(18);
  await page.locator('circle[data-answer="Linh Marchetti"]').dispatchEvent('click');
  await page.getByRole('region', { name: 'Answer of Linh Marchetti' }).waitFor();
  await page.getByText('Drawn for the numbers of Linh').waitFor();
  await page.getByRole('button', { name: 'Responses' }).click();
});

test('points are set otherwise with a reason', async () => {
  await page.getByRole('button', { name: /^Ravi Castellan, Stand firm/ }).click();
  const answer = page.getByRole('region', { name: 'Answer of Ravi Castellan' });
  await answer.getByRole('button', { name: 'Change points' }).click();
  await answer.getByLabel(/Points of/).fill('9');
  expect(await answer.getByRole('button', { name: 'Set points' }).isDisabled()).toBe(true);
  await answer.getByLabel(/Points of/).fill('4');
  await answer.getByLabel(/Reason/).fill('Shown to me in the lab.');
  await answer.getByRole('button', { name: 'Set points' }).click();
  await answer.getByText(/Marit Solano set 4 points/).waitFor();
  await page.getByRole('button', { name: /^Ravi Castellan, Stand firm: 4 of 4/ }).waitFor();
});

test('an exercise is built from nothing, and what is wrong with it is said at once', async () => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New exercise' }).click();
  await page.getByLabel('Title', { exact: true }).fill('Quay ramp');
  const plant = page.getByLabel('Plant G');
  await plant.fill('b/(s^2 + q*s');
  await page.getByText('Not ready to publish.').waitFor();
  expect(await page.getByText('A bracket opened here is never closed.').count()).toBeGreaterThan(0);
  expect(await page.getByRole('button', { name: /Publish version/ }).isDisabled()).toBe(true);
  await plant.fill('b/(s^2 + a*s + 2)');
  await page.getByRole('button', { name: 'Add a nail' }).click();
  await page.getByLabel('Controller').selectOption('PID');
  await page.getByRole('region', { name: 'Student’s view' }).getByRole('group', { name: 'Gain Ki' }).waitFor();
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'transfer function', exact: true }).click();
  expect(await page.getByLabel('Expected transfer function').inputValue()).toBe('G');
  await saved().waitFor();
  await page.getByRole('button', { name: 'Publish version 1' }).click();
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  await page.getByText('Version 1 is out').waitFor();
  await page.reload();
  expect(await page.getByLabel('Title', { exact: true }).inputValue()).toBe('Quay ramp');

  const student = await stage.windowOf('Tomasz Berg');
  await follow(student, 'Quay ramp');
  await student.getByRole('group', { name: 'Gain Ki' }).waitFor();
});

test('two windows do not save over each other', async () => {
  const other = await page.context().newPage();
  await other.goto(page.url());
  // What is said of the draft is also said before this one is saved.
  const saved = other.waitForResponse((response) => response.request().method() === 'PUT' && response.ok());
  await other.getByLabel('Title', { exact: true }).fill('Quay ramp, other window');
  await saved;
  await page.getByLabel('Title', { exact: true }).fill('Quay ramp, this window');
  await page
    .getByText(/changed in another window/)
    .first()
    .waitFor();
  await page.getByRole('button', { name: 'Reload' }).click();
  await page.waitForFunction(() => document.querySelector('input')?.value === 'Quay ramp, other window');
  await other.close();
  expect(stage.complaintsSoFar()).toEqual([expect.stringContaining('409')]);
});

test('a new student joins by the course code', async () => {
  await page.goto('/');
  await page.getByRole('link', { name: 'People' }).click();
  const address = await page.getByText(/\/join\?code=/).innerText();
  const newcomer = await stage.window();
  await newcomer.goto(new URL(address).pathname + new URL(address).search);
  await newcomer.getByLabel('Name').fill('Nele Arkady');
  // An address of its own, should the test be tried again.
  await newcomer.getByLabel('E-mail').fill(`nele.${Date.now()}@harbour.example`);
  await newcomer.getByLabel('Password').fill('a long password');
  await newcomer.getByRole('button', { name: 'Make my account' }).click();
  await newcomer.getByRole('heading', { name: 'Harbour machinery' }).waitFor();
  expect(await newcomer.getByRole('link', { name: /Lighthouse lamp/ }).count()).toBeGreaterThan(0);
  await page.reload();
  await page.getByText('Nele Arkady').first().waitFor();
});
