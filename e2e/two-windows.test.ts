import type { Page, Request } from 'playwright-core';
import { gain, stored } from './hands';
import { follow, Stage, until } from './harness';

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());

/** Another tab of the same browser. */
async function anotherTab(page: Page): Promise<Page> {
  const tab = await page.context().newPage();
  tab.setDefaultTimeout(60_000);
  return tab;
}

const model = (page: Page) => page.getByLabel(/^Write it down: type it/);

async function signOut(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: `Account of ${name}` }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
}

test('a page stays its owner’s when someone else signs in in another tab', async () => {
  const page = await stage.windowOf('Tomasz Berg');
  await follow(page, 'Lighthouse lamp');
  await page.getByRole('button', { name: 'Predict the peak time' }).click();
  const tab = await anotherTab(page);
  await tab.goto('/');
  await signOut(tab, 'Tomasz Berg');
  await tab.getByRole('button', { name: /Ilse Okafor/ }).click();
  await tab.getByRole('button', { name: 'Account of Ilse Okafor' }).waitFor();

  await page.getByLabel('Peak time', { exact: true }).fill('1.2345');
  const dialog = page.getByRole('alertdialog', { name: 'This page is Tomasz Berg’s' });
  await dialog.getByText(/Ilse Okafor has signed in/).waitFor();
  // A reload shows the other's own work: nothing of what was typed is theirs.
  await dialog.getByRole('button', { name: 'Go on as Ilse Okafor' }).click();
  await page.getByRole('button', { name: 'Account of Ilse Okafor' }).waitFor();
  await follow(page, 'Lighthouse lamp');
  await page.getByRole('button', { name: 'Predict the peak time' }).click();
  expect(await page.getByLabel('Peak time', { exact: true }).inputValue()).toBe('');

  await signOut(page, 'Ilse Okafor');
  await page.getByRole('button', { name: /Tomasz Berg/ }).click();
  await follow(page, 'Lighthouse lamp');
  await page.getByRole('button', { name: 'Predict the peak time' }).click();
  expect(await page.getByLabel('Peak time', { exact: true }).inputValue()).toBe('1.2345');
});

test('a second window of the same student learns that the first changed the answer', async () => {
  const page = await stage.windowOf('Mireille Anand');
  await follow(page, 'Lighthouse lamp');
  const tab = await anotherTab(page);
  await tab.goto(page.url());
  for (const one of [page, tab]) await one.getByRole('button', { name: 'Write it down' }).click();
  await stored(page, () => model(page).fill('1/(s+1)'));
  await model(tab).fill('2/(s+2)');
  const told = tab.getByText('“Write it down” changed in another window.');
  await told.waitFor();
  expect(await model(tab).inputValue()).toBe('2/(s+2)');
  await tab.getByRole('button', { name: 'Show that answer' }).click();
  expect(await model(tab).inputValue()).toBe('1/(s+1)');
  await stored(tab, () => model(tab).fill('3/(s+3)'));
  await page.reload();
  await page.getByRole('button', { name: 'Write it down' }).click();
  expect(await model(page).inputValue()).toBe('3/(s+3)');
});

test('a save that a reload left behind is no other window’s', async () => {
  const page = await stage.windowOf('Kofi Lindqvist');
  await follow(page, 'Lighthouse lamp');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await stored(page, () => model(page).fill('1/(s+1)'));
  let late: Request | undefined;
  let arrived = false;
  await page.route('**/answers/**', async (route) => {
    if (late === undefined) return void (late = route.request());
    // It reaches the server after the page was opened again, before the next.
    if (!arrived) await page.request.fetch(late);
    arrived = true;
    await route.continue();
  });
  await model(page).fill('2/(s+2)');
  await until(async () => late !== undefined);
  stage.complaintsSoFar();
  await page.reload();
  await page.getByRole('button', { name: 'Write it down' }).click();
  expect(await model(page).inputValue()).toBe('2/(s+2)');
  await stored(page, () => model(page).fill('3/(s+3)'));
  expect(await page.getByText('changed in another window').count()).toBe(0);
  await page.reload();
  await page.getByRole('button', { name: 'Write it down' }).click();
  expect(await model(page).inputValue()).toBe('3/(s+3)');
  expect(stage.complaintsSoFar()).toEqual([]);
});

test('slow saves do not overtake each other', async () => {
  const page = await stage.windowOf('Kofi Lindqvist');
  await follow(page, 'Crane trolley');
  await page.getByRole('button', { name: 'Bring it back' }).click();
  let first = true;
  await page.route('**/answers/**', async (route) => {
    const wait = first ? 3000 : 0;
    first = false;
    await new Promise((resolve) => setTimeout(resolve, wait));
    await route.continue();
  });
  const begun = page.waitForRequest('**/answers/**');
  await gain(page, 'Kp').fill('21');
  const late = await begun;
  let arrived = false;
  void late.response().then(() => (arrived = true));
  await stored(page, () => gain(page, 'Kp').fill('22'));
  expect(arrived).toBe(true);
  expect((await late.response())!.ok()).toBe(true);
  await page.reload();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  expect(await gain(page, 'Kp').inputValue()).toBe('22');
});

test('work that another release stored does not keep a page from opening', async () => {
  const page = await stage.windowOf('Kofi Lindqvist');
  await follow(page, 'Crane trolley');
  await gain(page, 'Kp').waitFor();
  await page.evaluate(() => {
    const bad = { open: 1, answers: { pd: { kind: 'gains', gains: [4] } } };
    const me = Object.keys(localStorage).find((key) => key.startsWith('nailset unsaved'));
    localStorage.setItem(me ?? 'nailset unsaved x y', JSON.stringify({ work: bad, bases: {}, page: 'p' }));
  });
  await page.reload();
  await gain(page, 'Kp').waitFor();
});

test('a clock that is wrong neither locks anybody out nor lets them hope', async () => {
  const page = await stage.window();
  await page.clock.install({ time: new Date(Date.now() + 400 * 86_400_000) });
  await page.goto('/');
  await page.getByRole('button', { name: /Kofi Lindqvist/ }).click();
  await follow(page, 'Crane trolley');
  await page.getByText(/^Due .* left/).waitFor();
  expect(await page.getByText(/^Due/).innerText()).toMatch(/, \d\d:\d\d \S+, (\d+ days|\d+ h) left$/);
  await page.getByRole('button', { name: 'Stand firm' }).click();
  await gain(page, 'Kp').fill('15');
  await page.clock.runFor(1000);
  expect(await page.getByRole('button', { name: 'Hand in' }).isEnabled()).toBe(true);
});

describe('the builder', () => {
  let page: Page;
  const limit = () => page.getByRole('textbox', { name: 'Overshoot, limit' });
  beforeAll(async () => {
    page = await stage.windowOf('Marit Solano');
    await follow(page, 'Crane trolley');
    await page.getByRole('button', { name: /^a Stand firm ·/ }).waitFor();
  });

  test('keeps what it cannot read, says so, and publishes nothing until it is mended', async () => {
    await limit().fill('3 tries');
    await limit().blur();
    await page.getByText('Not ready to publish.').waitFor();
    await page.getByRole('button', { name: /^b Bring it back ·/ }).click();
    expect(await page.getByText('Overshoot, limit: “3 tries” is not a number.').count()).toBe(1);
    await page.getByRole('button', { name: /^a Stand firm ·/ }).click();
    expect(await limit().inputValue()).toBe('3 tries');
    await limit().fill('9,5');
    await page.getByText('overshoot ≤ 9.5 %').waitFor();
    expect(await page.getByRole('button', { name: /Publish version/ }).isEnabled()).toBe(true);
  });

  test('keeps the preview’s gains and trail when the exercise changes', async () => {
    await gain(page, 'Kp').fill('7.25');
    await page.getByRole('row', { name: /7\.25/ }).waitFor();
    await page.getByLabel('Time shown').fill('9');
    await page.getByLabel('Kp, coarse rung').fill('4');
    await page.getByRole('button', { name: 'Kp up by 4' }).waitFor();
    expect(await gain(page, 'Kp').inputValue()).toBe('7.25');
    expect(await page.getByRole('row', { name: /7\.25/ }).count()).toBe(1);
  });

  test('shows the last edit on the lectern, and takes the next one on coming back', async () => {
    await page.getByLabel('Title', { exact: true }).fill('Crane trolley, once more');
    await page.getByRole('link', { name: 'On the lectern' }).click();
    await page.getByRole('link', { name: 'Close' }).waitFor();
    await page.getByText('Crane trolley, once more').first().waitFor();
    await page.goBack();
    const title = page.getByLabel('Title', { exact: true });
    await title.waitFor();
    expect(await title.inputValue()).toBe('Crane trolley, once more');
    await title.fill('Crane trolley, hold against the wind');
    await page.getByText(/saved \d\d:\d\d$/).waitFor();
    expect(await page.getByText(/changed in another window/).count()).toBe(0);
  });

  test('a due date goes only when it is taken away', async () => {
    const day = page.getByLabel('Due day');
    const before = await day.inputValue();
    await day.focus();
    await day.press('Delete');
    await day.blur();
    await page.getByText(/no whole date yet; still due/).waitFor();
    await page.reload();
    expect(await page.getByLabel('Due day').inputValue()).toBe(before);
    await stored(page, () => page.getByLabel('Due', { exact: true }).selectOption('none'));
    await page.reload();
    expect(await page.getByLabel('Due', { exact: true }).inputValue()).toBe('none');
  });

  test('says before publishing what changes for whom', async () => {
    await page.getByRole('button', { name: 'Remove part Bring it back' }).click();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await page.getByText(/saved \d\d:\d\d$/).waitFor();
    await page.getByRole('button', { name: /Publish version/ }).click();
    const changes = page.getByRole('list', { name: 'What changes' });
    await changes
      .getByText(/“Bring it back” goes, handed in by \d+ students: its 6 points no longer count\./)
      .waitFor();
    expect(await changes.innerText()).toMatch(/\d+ students who have seen their numbers keep them\./);
    await page.getByLabel('New numbers for everyone').check();
    expect(await changes.innerText()).toMatch(/\d+ students who have seen their numbers get new ones\./);
    await page.getByRole('button', { name: 'Not yet' }).click();
  });
});
