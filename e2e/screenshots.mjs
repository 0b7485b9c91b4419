// Takes the pictures in docs/screenshots/ from a running demo: ./nailset start, then npm run screenshots, with the names
// of some if not all are wanted.
import path from 'node:path';
import { parseArgs } from 'node:util';
import { chromium } from 'playwright-core';
import { chromiumPath } from '../launcher/install.mjs';

const { values, positionals } = parseArgs({
  options: { url: { type: 'string', default: 'http://127.0.0.1:4180' } },
  allowPositionals: true,
});
const folder = path.resolve(import.meta.dirname, '../docs/screenshots');
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
  ],
});

/**
 * @param {string} name
 * @param {string | null} who
 * @param {(page: import('playwright-core').Page) => Promise<unknown>} open
 * @param {{ width: number, height: number }} viewport
 */
async function picture(name, who, open, viewport = { width: 1280, height: 800 }) {
  if (positionals.length > 0 && !positionals.includes(name)) return;
  const context = await browser.newContext({ viewport, baseURL: values.url, locale: 'en-GB' });
  const page = await context.newPage();
  await page.goto('/');
  if (who) {
    await page.getByRole('button', { name: new RegExp(who) }).click();
    await page.getByText(`Account of ${who}`).waitFor({ state: 'attached' });
  }
  await open(page);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  await context.close();
}

/** @param {string} name */
const link = (name) => (/** @type {import('playwright-core').Page} */ page) =>
  page.getByRole('link', { name }).first().click();

/** @param {import('playwright-core').Page} page */
async function nudged(page) {
  await link('Crane trolley')(page);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  for (const [gain, text] of [
    ['Kp', '14'],
    ['Ki', '18'],
    ['Kd', '5.5'],
  ]) {
    await page.waitForTimeout(1100);
    await page.getByRole('textbox', { name: `${gain}, typed` }).fill(String(text));
  }
  await page.waitForTimeout(1100);
  await page.locator('h1').click();
}

await picture('open-bench', null, async (page) => {
  await page.getByRole('link', { name: /Look at a system/ }).click();
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Winch and its controller' }).click();
});
await picture('shelf', 'Marit Solano', async (page) => page.waitForTimeout(300));
await picture('builder', 'Marit Solano', async (page) => {
  await link('Crane trolley')(page);
  await page.getByRole('region', { name: 'Student’s view' }).getByRole('group', { name: 'Gain Kp' }).waitFor();
});
await picture('class-sheet', 'Marit Solano', async (page) => {
  await page
    .getByRole('row', { name: /Crane trolley/ })
    .getByRole('link', { name: 'Class sheet' })
    .click();
  await page.getByRole('button', { name: /^Freya Mbeki, Bring/ }).click();
});
await picture('people', 'Marit Solano', link('People'));
await picture('marks', 'Marit Solano', link('Marks'));
await picture('term', 'Marit Solano', link('Term'));
await picture('home', 'Kofi Lindqvist', async (page) => page.waitForTimeout(300));
await picture('bench', 'Ilse Okafor', nudged);
await picture('bench-phone', 'Ilse Okafor', nudged, { width: 390, height: 844 });
await picture('transfer-function', 'Ilse Okafor', async (page) => {
  await link('Lighthouse lamp')(page);
  await page.getByRole('button', { name: 'Write it down' }).click();
  await page.getByRole('heading', { name: 'Lighthouse lamp, first swing' }).scrollIntoViewIfNeeded();
  await page.evaluate(() => scrollTo(0, 0));
});
await picture('prediction', 'Kofi Lindqvist', async (page) => {
  await link('Two lamp tables')(page);
  await page.getByText('Table A').first().waitFor();
});
await picture('diagram', 'Ilse Okafor', async (page) => {
  await link('Winch drive')(page);
  await page.getByLabel(/^From u to w/).fill('kM/(R*(J*s + B) + kM^2)');
});
await picture('reduction', 'Ilse Okafor', async (page) => {
  await link('Tide gauge, step')(page);
  await page.getByRole('button', { name: /^Block G2/ }).click();
  await page.getByRole('button', { name: /^Loop around/ }).click();
  await page.getByLabel('What does it give?').fill('G2/(1 + G2*H1)');
  await page.getByRole('button', { name: 'Make the step' }).click();
  await page.waitForTimeout(600);
  await page.getByRole('button', { name: /^Block G3/ }).click();
});
await picture('workshop', 'Marit Solano', async (page) => {
  await link('Crane hoist')(page);
  await page.getByRole('button', { name: 'Draw the diagram' }).click();
  await page
    .getByRole('button', { name: /^Block / })
    .nth(1)
    .click();
});
await picture('s-plane', 'Ilse Okafor', async (page) => {
  await link('Mooring winch')(page);
  await page.getByRole('button', { name: 'With a lead' }).click();
  const add = page.getByRole('button', { name: /^Add lead/ });
  if (await add.isVisible()) await add.click();
  await page.getByRole('textbox', { name: 'K, typed' }).fill('4');
  await page.waitForTimeout(1100);
  await page.getByRole('textbox', { name: 'K, typed' }).fill('13');
  await page.getByRole('textbox', { name: 'z1, typed' }).fill('-1.5');
  await page.getByRole('button', { name: 'Read here' }).click();
});
await picture('frequency', 'Ilse Okafor', async (page) => {
  await link('Radar mast')(page);
  await page.getByRole('button', { name: 'Raise the phase' }).click();
  await page.getByRole('textbox', { name: 'p1, typed' }).fill('-40');
  await page.waitForTimeout(1100);
});
await picture('lectern', 'Marit Solano', async (page) => {
  await link('Two lamp tables')(page);
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'On the lectern' }).click();
  for (const [table, hands] of [
    ['A', '14'],
    ['B', '3'],
  ]) {
    await page.getByRole('textbox', { name: `Hands for Table ${table}` }).fill(String(hands));
  }
  await page.getByRole('button', { name: 'Reveal' }).click();
});
await picture('proof', 'Marit Solano', async (page) => {
  await link('Crane trolley')(page);
  await page.getByRole('tab', { name: 'Proof' }).click();
  await page.getByRole('button', { name: 'Prove this part' }).click();
  await page.getByText('Can it be solved').waitFor();
});
await browser.close();
