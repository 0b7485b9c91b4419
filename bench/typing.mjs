import { row, slowToQuarter } from './figures.mjs';

const letters = 60;

/**
 * From a letter, a nudge or a dragged corner to the frame that shows it, at a quarter of the processor.
 * @param {(who: string) => Promise<import('playwright-core').Page>} open
 */
export async function typing(open) {
  console.log('Typed, nudged, dragged at a quarter of the processor: 95th percentile to the painted frame');
  const teacher = await open('Marit Solano');
  await inStatement(teacher);
  await inWorkshop(teacher);
  await nudge(await open('Ilse Okafor'));
  await corner(await open('Ilse Okafor'));
}

/** A statement of an exercise with eight parts. @param {import('playwright-core').Page} page */
async function inStatement(page) {
  await page.getByRole('button', { name: 'New exercise' }).click();
  for (const kind of ['number', 'gains', 'transfer function', 'choice', 'range of a gain', 'points', 'number']) {
    await page.getByRole('button', { name: 'Add a part' }).click();
    await page
      .getByRole('menuitem', { name: new RegExp(kind.split(' ')[0] ?? '', 'i') })
      .first()
      .click();
  }
  await page.getByRole('textbox', { name: 'Statement' }).click();
  await timed(page, 'a letter in a statement, 8 parts', 100, typeLetters);
}

/** The text of a diagram with 15 blocks. @param {import('playwright-core').Page} page */
async function inWorkshop(page) {
  await page.getByLabel('G, form').selectOption('signal equations');
  await page.getByRole('button', { name: 'Draw the diagram' }).click();
  const chain = Array.from({ length: 15 }, (_, k) => `x${k + 1} = G${k + 1}*${k === 0 ? 'e' : `x${k}`}`);
  const text = page.getByRole('dialog').getByLabel(/Signal equations/);
  await text.fill(['e = r - x15', ...chain].join('\n'));
  await page.locator('[data-shape]').nth(14).waitFor();
  await text.press('Control+End');
  await timed(page, 'a letter in the workshop, 15 blocks', 150, typeLetters);
}

/** A gain of the demo’s PID exercise. @param {import('playwright-core').Page} page */
async function nudge(page) {
  await page.getByRole('link', { name: 'Crane trolley' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await page.getByRole('textbox', { name: 'Kp, typed' }).waitFor();
  await timed(page, 'a nudge', 60, () => nudgeKeys('body'));
}

/** A corner of a model over measured points. @param {import('playwright-core').Page} page */
async function corner(page) {
  await page.getByRole('link', { name: 'Crane boom' }).click();
  await page.getByRole('button', { name: 'Add a pole', exact: true }).click();
  await page.locator('[data-corner]').first().waitFor();
  await timed(page, 'a corner of a Bode plot', 80, () => nudgeKeys('[data-corner]'));
}

/**
 * @param {import('playwright-core').Page} page @param {string} name @param {number} wanted in ms
 * @param {(() => string)} script what is run in the page for each
 */
async function timed(page, name, wanted, script) {
  const session = await page.context().newCDPSession(page);
  await slowToQuarter(session);
  await page.waitForTimeout(1500);
  const times = /** @type {number[]} */ (await page.evaluate(`(${timeEach})(${letters}, ${script()})`));
  await session.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  times.sort((a, b) => a - b);
  const late = times[Math.floor(0.95 * times.length)] ?? NaN;
  const middle = times[times.length >> 1] ?? NaN;
  const verdict = `${late <= wanted ? 'within' : 'BEYOND'} ${wanted} ms`;
  row(name, `${middle.toFixed(0)} ms`, `${late.toFixed(0)} ms`, verdict);
}

/** Runs in the page. @param {number} count @param {(k: number) => void} act */
async function timeEach(count, act) {
  const times = [];
  for (let k = 0; k < count; k++) {
    await new Promise((resolve) => setTimeout(resolve, 120 + Math.random() * 60));
    const started = performance.now();
    act(k);
    await new Promise((resolve) =>
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = resolve;
        channel.port2.postMessage(null);
      }),
    );
    times.push(performance.now() - started);
  }
  return times;
}

const typeLetters = () => `() => document.execCommand('insertText', false, 'x')`;

/** @param {string} of */
const nudgeKeys = (of) => `(k) => document.querySelector(${JSON.stringify(of)}).dispatchEvent(
  new KeyboardEvent('keydown', { key: k % 10 < 5 ? 'ArrowUp' : 'ArrowDown', bubbles: true }))`;
