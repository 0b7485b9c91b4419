import type { Page } from 'playwright-core';
import { openSheet, phone, Stage, until } from './harness';

/** The open bench: systems are typed, drawn and compared, by anyone. */

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
beforeEach(async () => {
  page = await stage.window();
  await page.goto('/open');
});
afterEach(async () => {
  await page.context().close();
  expect(stage.complaintsSoFar()).toEqual([]);
});

const field = (name: string) => page.getByRole('textbox', { name: `${name} is` });
const curve = (id: string) => page.locator(`[data-curve="${id}"]`).first();
const facts = (of: string) => page.getByRole('region', { name: `Facts about ${of}` });
const row = (of: string) => page.getByRole('row', { name: new RegExp(`^${of} `) });

test('who comes from the sign-in types a fraction and sees everything about it', async () => {
  await page.goto('/');
  await page.getByRole('link', { name: /Look at a system/ }).click();
  await field('G').fill('9/(s^2 + 1.2s + 9)');
  await curve('0 0').waitFor();
  await facts('G').getByText('0.2', { exact: true }).waitFor();
  expect(await facts('G').innerText()).toMatch(/Stable\s+order 2 · type 0 · relative degree 2 · gain at rest 1/);
  // A cross for each of the two poles.
  expect((await page.locator('[data-system=G] path').getAttribute('d'))?.match(/M/g)).toHaveLength(2);
  await page.locator('[data-curve="magnitude 0 0"]').waitFor();
  await page.locator('[data-curve="nyquist 0 0"]').waitFor();
  expect(await row('G').innerText()).toContain('52.7 %');
});

test('what cannot be read stays, says why, and leaves the rest; a decimal comma is told', async () => {
  await field('G').fill('4/(s + 0,5)');
  await page
    .getByText(/decimal/i)
    .first()
    .waitFor();
  await field('G').fill('4/(s + 0.5)');
  await field('G').press('Enter');
  await page.keyboard.type('1/(s +');
  await page.locator('[aria-invalid=true]').waitFor();
  await curve('0 0').waitFor();
  expect(await field('C').inputValue()).toBe('1/(s +');
});

test('a value is nudged by keys and drawn at several values; the axes hold until they are fitted', async () => {
  await field('G').fill('1');
  await page.getByLabel('Name of line 1').fill('K');
  await field('K').press('Enter');
  await page.keyboard.type('K/(s + 2)');
  await curve('1 0').waitFor();
  const axis = () =>
    page
      .getByRole('figure', { name: /Response/ })
      .locator('svg')
      .textContent();
  await page.getByRole('button', { name: 'Fit all' }).click();
  const held = await axis();
  await field('K').press('Shift+ArrowUp');
  expect(await field('K').inputValue()).toBe('2');
  await row('G').getByText('1', { exact: true }).first().waitFor();
  expect(await axis()).toBe(held);
  await field('K').fill('2; 0; -4');
  await page.locator('[data-curve="1 2"]').waitFor();
  expect(await row('G, K = −4').innerText()).toContain('−2');
  await page.getByRole('button', { name: 'Fit all' }).click();
  expect(await axis()).not.toBe(held);
  await page.keyboard.press('Control+z');
  await page.locator('[data-curve="1 2"]').waitFor({ state: 'detached' });
});

test('what was drawn is kept as a ghost, the sheet is there after a reload, and a link opens it elsewhere', async () => {
  await openSheet(page, 'Drive with load torque');
  await curve('3 0').waitFor();
  await page.getByRole('button', { name: 'Keep' }).click();
  await field('C').fill('6 + 3/s');
  await page.locator('[data-curve="kept 3 0"]').waitFor();
  await page.reload();
  expect(await field('C').inputValue()).toBe('6 + 3/s');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Share' }).click();
  await page.getByRole('menuitem', { name: 'Copy link' }).click();
  await page.getByText('Link copied').waitFor();
  const link = await page.evaluate<string>('navigator.clipboard.readText()');
  const other = await stage.window(phone);
  await other.goto(link);
  await other.locator('[data-curve="3 0"]').waitFor();
  expect(await other.getByLabel('Title of the sheet').inputValue()).toBe('Drive with load torque');
  expect(await other.getByRole('textbox', { name: 'C is' }).inputValue()).toBe('6 + 3/s');
  await other.goto('/open#sheet=cut');
  await other.reload();
  await other.context().close();
});

test('another sheet comes with axes of its own', async () => {
  await openSheet(page, 'Winch and its controller');
  await page.locator('[data-curve="5 0"]').waitFor();
  await openSheet(page, 'Lock gate from its equations');
  await page.getByRole('group', { name: /after 70 s/ }).waitFor();
  const axis = page.getByRole('figure', { name: /Response/ }).locator('svg');
  expect(await axis.textContent()).toContain('60 s');
});

test('two tabs keep a sheet each', async () => {
  const other = await page.context().newPage();
  await other.goto('/open');
  await field('G').fill('1/(s + 1)');
  await curve('0 0').waitFor();
  await other.getByRole('textbox', { name: 'G is' }).fill('2/(s + 2)');
  await other.locator('[data-curve="0 0"]').waitFor();
  await page.reload();
  expect(await field('G').inputValue()).toBe('1/(s + 1)');
  const third = await page.context().newPage();
  await third.goto('/open');
  expect(await third.getByRole('textbox', { name: 'G is' }).inputValue()).toBe('1/(s + 1)');
});

test('a link that was cut short says so, and what stood there stays', async () => {
  await field('G').fill('1/(s + 1)');
  await page.evaluate("location.hash = '#sheet=abcd'");
  await page.getByRole('alert').waitFor();
  expect(await page.getByRole('alert').innerText()).toContain('cut short');
  expect(await field('G').inputValue()).toBe('1/(s + 1)');
});

test('a controller is put in front by one choice, the input is set, and its numbers are read as people type them', async () => {
  await page.getByLabel('Add several lines').selectOption('second order: K, ζ, ωn');
  await page.getByLabel('Add several lines').selectOption('PID in front of it, loop closed');
  await curve('9 0').waitFor();
  await page.getByLabel('Size of the input').fill('2,5');
  await page.getByLabel('When it sets in').fill('1');
  await page.getByRole('figure', { name: 'Response to a step of 2.5' }).waitFor();
  await page.getByLabel('Size of the input').fill('two');
  await page.getByText('no such number').waitFor();
  expect(await page.getByLabel('Size of the input').inputValue()).toBe('two');
  const before = await curve('9 0').getAttribute('d');
  await field('Kp').press('ArrowUp');
  expect(await field('Kp').inputValue()).toBe('2.1');
  await until(async () => (await curve('9 0').getAttribute('d')) !== before);
});

test('an instructor makes an exercise of it', async () => {
  const teacher = await stage.windowOf('Marit Solano');
  await teacher.goto('/open');
  await openSheet(teacher, 'Winch and its controller');
  await teacher.getByRole('button', { name: 'Make an exercise of it' }).click();
  await teacher.getByRole('button', { name: 'Open it in the builder' }).click();
  await teacher.waitForURL(/\/build/);
  expect(await teacher.getByLabel('Title', { exact: true }).inputValue()).toBe('Winch and its controller');
  await teacher.getByRole('button', { name: /Publish version 1/ }).waitFor();
  await teacher.waitForTimeout(600);
  expect(await teacher.getByText('Not ready to publish').count()).toBe(0);
  await teacher.context().close();
});

test('a number that is slid moves what uses it at once, is one step of undo, and leaves the rest as it is', async () => {
  await field('G').fill('1/(s + 2)');
  await field('G').press('Enter');
  await page.getByLabel('Name of line 2').fill('K');
  await field('K').fill('3');
  await field('K').press('Enter');
  await page.getByLabel('Name of line 3').fill('T');
  await field('T').fill('closed(K*G)');
  await curve('2 0').waitFor();
  await field('K').click();
  const slider = page.getByRole('slider', { name: 'K, slid' });
  const box = (await slider.boundingBox())!;
  const middle = box.y + box.height / 2;
  const [still, before] = await Promise.all(['0 0', '2 0'].map((id) => curve(id).getAttribute('d')));
  await page.mouse.move(box.x + box.width / 4, middle);
  await page.mouse.down();
  for (const share of [0.4, 0.5, 0.7]) await page.mouse.move(box.x + share * box.width, middle);
  await page.mouse.up();
  expect(Number(await field('K').inputValue())).toBeGreaterThan(7);
  expect(await curve('2 0').getAttribute('d')).not.toBe(before);
  expect(await curve('0 0').getAttribute('d')).toBe(still);
  await page.getByRole('button', { name: 'Undo' }).click();
  await until(async () => (await curve('2 0').getAttribute('d')) === before);
  expect(await field('K').inputValue()).toBe('3');
});

test('equations are grouped in their drawing by keys, closed to one block, and so after a reload', async () => {
  await field('G').fill('e = r - w; i = (3*e - 0.5*w)/(0.2*s + 1); m = 0.8*i; w = (m - M)/(0.4*s + 0.1); p = w/s');
  const drawing = page.getByRole('group', { name: 'Block diagram of G' });
  await drawing.getByRole('button', { name: 'Block 3: takes e' }).focus();
  await page.keyboard.press('Enter');
  await drawing.getByRole('button', { name: /gives m$/ }).focus();
  await page.keyboard.press(' ');
  await page.getByLabel('Group as').fill('motor');
  await page.keyboard.press('Enter');
  await page.locator('[data-group=motor]').waitFor();
  await page.getByRole('button', { name: 'Close motor' }).press('Enter');
  await drawing.getByRole('button', { name: 'Group motor' }).waitFor();
  await page.reload();
  await drawing.getByRole('button', { name: 'Group motor' }).waitFor();
  // Another look at the same line, larger.
  await page.getByRole('button', { name: 'Enlarge', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Block diagram of G' });
  await dialog.getByRole('button', { name: 'Group motor', exact: true }).press('Enter');
  await dialog.locator('[data-group=motor]').waitFor();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await drawing.getByRole('button', { name: 'Group motor' }).waitFor();
});
