import type { Page } from 'playwright-core';
import { stored } from './hands';
import { openSheet, Stage, until } from './harness';

/** Bench sheets that are kept, shared and projected, and plots that are looked at closely. */

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
const pages: Page[] = [];
const opened = async (page: Page): Promise<Page> => {
  pages.push(page);
  await page.goto('/open');
  return page;
};
afterEach(async () => {
  for (const page of pages.splice(0)) await page.context().close();
});

const field = (page: Page, name: string) => page.getByRole('textbox', { name: `${name} is` });
const openMenu = (page: Page) => page.getByRole('button', { name: 'Open', exact: true }).click();
const saved = (page: Page) => page.getByText('Saved', { exact: true }).waitFor();

test('what was typed before signing in is taken over, saved, found again and removed', async () => {
  const page = await opened(await stage.window());
  await field(page, 'G').fill('7/(s + 7)');
  await page.getByLabel('Title of the sheet').fill('Buoy');
  await page.locator('[data-curve="0 0"]').first().waitFor();
  await page.getByRole('link', { name: 'Sign in' }).click();
  await page.getByRole('button', { name: /Ilse Okafor/ }).click();
  await page.getByRole('button', { name: 'Account of Ilse Okafor' }).waitFor();
  await page.goto('/open');
  await saved(page);
  await stored(page, () => field(page, 'G').fill('8/(s + 8)'));
  // Elsewhere, in a browser that has nothing of it.
  const other = await opened(await stage.windowOf('Ilse Okafor'));
  await openSheet(other, 'Buoy');
  await until(async () => (await other.locator('[data-text]').first().inputValue()) === '8/(s + 8)');
  // Both go on from there: the second is told, and keeps what it has as a copy.
  await stored(other, () => field(other, 'G').fill('9/(s + 9)'));
  await field(page, 'G').fill('10/(s + 10)');
  await page.getByText(/changed in another window/).waitFor();
  await page.getByRole('button', { name: 'Go on with a copy' }).click();
  await saved(page);
  await openMenu(page);
  await page.getByRole('menuitem', { name: 'Buoy' }).nth(1).waitFor();
  await page.getByRole('menuitem', { name: 'Remove this sheet' }).click();
  await until(async () => (await page.locator('[data-text]').first().inputValue()) === '');
  await openMenu(page);
  // The list that is on the page is asked for anew.
  await until(async () => (await page.getByRole('menuitem', { name: 'Buoy' }).count()) === 1);
  // And comes back by Undo, as a new one.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await saved(page);
  expect(await field(page, 'G').inputValue()).toBe('10/(s + 10)');
  // Two windows wrote over one sheet, and the server refused one of them.
  expect(stage.complaintsSoFar().filter((words) => !words.includes('409'))).toEqual([]);
});

test('what was typed last is saved also when another sheet is opened at once', async () => {
  const page = await opened(await stage.windowOf('Ilse Okafor'));
  await field(page, 'G').fill('3/(s + 3)');
  await page.getByLabel('Title of the sheet').fill('Anchor');
  await saved(page);
  await field(page, 'G').fill('4/(s + 4)');
  await openSheet(page, 'Winch and its controller');
  await field(page, 'Kp').waitFor();
  const other = await opened(await stage.windowOf('Ilse Okafor'));
  await until(async () => {
    await openSheet(other, 'Anchor');
    return (await field(other, 'G').inputValue()) === '4/(s + 4)';
  });
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('what one person left in a browser is not shown to the next', async () => {
  const page = await opened(await stage.windowOf('Ilse Okafor'));
  await field(page, 'G').fill('5/(s + 5)');
  await saved(page);
  await page.getByRole('button', { name: 'Account of Ilse Okafor' }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.getByRole('link', { name: /Look at a system/ }).click();
  await field(page, 'G').waitFor();
  expect(await field(page, 'G').inputValue()).toBe('');
  await page.goto('/');
  await page.getByRole('button', { name: /Marit Solano/ }).click();
  await page.getByRole('button', { name: 'Account of Marit Solano' }).waitFor();
  await page.goto('/open');
  await field(page, 'G').waitFor();
  expect(await field(page, 'G').inputValue()).toBe('');
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('an instructor shares a sheet, a student opens it as a copy of their own', async () => {
  const teacher = await opened(await stage.windowOf('Marit Solano'));
  await openSheet(teacher, 'Fenders of three makes, one measured');
  await teacher.getByLabel('Title of the sheet').fill('Fenders for Monday');
  await saved(teacher);
  await teacher.getByRole('button', { name: 'Share' }).click();
  await teacher.getByRole('menuitemcheckbox').first().click();
  await teacher.getByText(/Shared with/).waitFor();
  const student = await opened(await stage.windowOf('Ilse Okafor'));
  await openSheet(student, 'Fenders for Monday');
  await student.locator('[data-dots="fender 2, measured"]').first().waitFor();
  await field(student, 'F1').fill('9/(s^2 + 2*s + 9)');
  await saved(student);
  await teacher.reload();
  expect(await field(teacher, 'F1').inputValue()).toBe('9/(s^2 + 0.9*s + 9)');
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('a student takes a system of an exercise to the open bench', async () => {
  const student = await stage.windowOf('Ilse Okafor');
  pages.push(student);
  await student.getByRole('link', { name: /Lock gate, a pump with limits/ }).click();
  await student.getByRole('button', { name: 'Look at G on the open bench' }).click();
  await student.waitForURL(/\/open/);
  await student.locator('[data-curve="0 0"]').first().waitFor();
  expect(await field(student, 'G').inputValue()).toMatch(/exp/);
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('a part of a plot is looked at by wheel, box and keys, and Backspace goes back; a key enlarges a pane', async () => {
  const page = await opened(await stage.window());
  await field(page, 'G').fill('9/(s^2 + 0.9s + 9)');
  const plot = page.getByRole('figure', { name: /Response/ }).locator('svg');
  await plot.waitFor();
  const axis = async () => (await plot.textContent())?.replace(/[A-Za-z].*/, '');
  const before = await axis();
  const { x, y, width, height } = (await plot.boundingBox())!;
  await page.mouse.move(x + 0.3 * width, y + 0.4 * height);
  await page.mouse.wheel(0, -300);
  await until(async () => (await axis()) !== before);
  await plot.press('Backspace');
  await until(async () => (await axis()) === before);
  await page.mouse.down();
  await page.mouse.move(x + 0.5 * width, y + 0.7 * height, { steps: 4 });
  await page.mouse.up();
  await until(async () => (await axis()) !== before);
  // The press that drew the box is no reading.
  expect(await page.getByRole('slider').count()).toBe(0);
  await plot.press('Backspace');
  await plot.press('+');
  await until(async () => (await axis()) !== before);
  await plot.press('Backspace');
  await until(async () => (await axis()) === before);
  await page.keyboard.press('3');
  await page.getByRole('button', { name: 'Enlarge Bode', pressed: true }).waitFor();
  expect(await page.getByRole('figure').count()).toBe(1);
  await page.keyboard.press('Escape');
  await page.getByRole('figure', { name: /Nyquist/ }).waitFor();
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('a frequency is read on Bode and Nyquist at once, moved by keys and taken away', async () => {
  const page = await opened(await stage.window());
  await field(page, 'G').fill('9/(s^2 + 0.9s + 9)');
  const bode = page.getByRole('figure', { name: /Bode/ }).locator('svg');
  await bode.waitFor();
  const { x, y, width, height } = (await bode.boundingBox())!;
  await page.mouse.click(x + 0.4 * width, y + 0.3 * height);
  const reading = page.getByRole('slider', { name: 'Reading at a frequency' });
  const first = await reading.getAttribute('aria-valuetext');
  expect(first).toMatch(/^G at [\d.]+ rad\/s: -?−?[\d.]+ dB, −?[\d.]+°$/);
  await page
    .getByRole('figure', { name: /Nyquist/ })
    .locator('[data-reading=G]')
    .waitFor();
  await reading.press('ArrowRight');
  await until(async () => (await reading.getAttribute('aria-valuetext')) !== first);
  await reading.press('Delete');
  await reading.waitFor({ state: 'detached' });
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('on the lectern a value is typed as it is called out, systems are hidden, hands are counted', async () => {
  const page = await opened(await stage.window());
  await openSheet(page, 'Winch and its controller');
  await page.locator('[data-curve="5 0"]').first().waitFor();
  await page.getByRole('button', { name: 'Lectern' }).click();
  await page.getByRole('button', { name: 'Hide' }).click();
  await page.locator('[data-curve="5 0"]').first().waitFor({ state: 'detached' });
  await page.getByRole('textbox', { name: 'Kp' }).fill('2');
  await page.getByPlaceholder('faster; slower; as before').fill('more; less');
  await page.getByRole('button', { name: 'One hand more for less' }).click();
  expect(await page.getByLabel('Hands for less').inputValue()).toBe('1');
  await page.getByRole('button', { name: 'Reveal' }).click();
  await page.locator('[data-curve="5 0"]').first().waitFor();
  expect(await page.locator('[data-curve="5 1"]').count()).toBe(0);
  await page.keyboard.press('Escape');
  expect(await field(page, 'Kp').inputValue()).toBe('2');
  expect(stage.complaintsSoFar()).toEqual([]);
});
