import { median, percentile, row } from './figures.mjs';

/**
 * The open bench: a letter of a system of order 6 to the frame on which four panes show it, beside the browser’s bare
 * frame; and opening it when everything is in the cache.
 * @param {import('playwright-core').Browser} browser @param {string} url
 */
export async function openBench(browser, url) {
  console.log('Open bench, 1280x800');
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const opened = [];
  for (let k = 0; k < 3; k++) {
    const from = performance.now();
    await page.goto(`${url}/open`, { waitUntil: 'commit' });
    await page.getByRole('textbox', { name: 'G is' }).waitFor();
    if (k > 0) opened.push(performance.now() - from);
  }
  row('opened with a warm cache, wanted 600', `${median(opened).toFixed(0)} ms`);
  await page.getByRole('textbox', { name: 'G is' }).fill('9/((s^2 + 1.2s + 9)*(s^2 + 3s + 25)*(s + 4)*(s + 1))');
  await page.locator('[data-curve="nyquist 0 0"]').waitFor();
  const { bare, shown } = await page.evaluate(timeLetters, 60);
  row('bare frame of this browser', `${median(bare).toFixed(1)} ms`);
  row('letter to four painted panes, wanted 60', `${median(shown).toFixed(1)} ms`);
  for (const [name, text] of [
    ['K', '2'],
    ['L', 'K*G'],
    ['T', 'closed(L)'],
  ]) {
    const fields = page.locator('[data-text]');
    const count = await fields.count();
    await fields.nth(count - 1).press('Enter');
    await page.getByLabel(`Name of line ${count + 1}`).fill(name ?? '');
    await fields.nth(count).fill(text ?? '');
  }
  await page.getByRole('button', { name: 'Locus' }).click();
  await page.getByRole('textbox', { name: 'K is' }).click();
  const slider = page.getByRole('slider', { name: 'K, slid' });
  const panes = page.getByRole('group', { name: 'Panes' });
  const bareRounds = [];
  const rounds = [];
  const blank = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await blank.setContent('<input type="range" min="0" max="8" step="0.02" value="2" style="width: 230px">');
  for (const name of ['Nyquist', 'Measures']) await panes.getByText(name, { exact: true }).click();
  for (let k = 0; k < 3; k++) {
    bareRounds.push(await dragged(blank, blank.getByRole('slider'), null));
    rounds.push(await dragged(page, slider, '[data-curve="2 0"]'));
  }
  const [bareDrag, drag] = [bareRounds, rounds].map((each) => median(each.map((times) => percentile(times, 0.95))));
  row('a gain dragged: three systems, response, map, locus, Bode', ...figuresOf(rounds));
  row('over the bare frame at 95 %, wanted 8', `${(Number(drag) - median(bare)).toFixed(1)} ms`);
  row('a slider of an empty page dragged', ...figuresOf(bareRounds));
  row('over that at 95 %', `${(Number(drag) - Number(bareDrag)).toFixed(1)} ms`);
  for (const name of ['Nyquist', 'Measures']) await panes.getByText(name, { exact: true }).click();
  row('the same gain with every pane', ...figuresOf([await dragged(page, slider, '[data-curve="2 0"]')]));
  await blank.context().close();
  await page.context().close();
}

/** @param {number[][]} rounds */
const figuresOf = (rounds) =>
  [0.5, 0.95].map((share) => `${median(rounds.map((times) => percentile(times, share))).toFixed(1)} ms`);

/**
 * A slider drawn to and fro by a real pointer: from each event to the frame with what it changed.
 * @param {import('playwright-core').Page} page @param {import('playwright-core').Locator} slider
 * @param {string | null} shown what must have changed on that frame, besides the slider
 */
async function dragged(page, slider, shown) {
  const box = await slider.boundingBox();
  if (!box) throw new Error('The gain has no slider.');
  await page.evaluate(watchFrames, shown);
  await page.mouse.move(box.x + 0.3 * box.width, box.y + box.height / 2);
  await page.mouse.down();
  for (let k = 0; k < 120; k++) {
    await page.mouse.move(box.x + (0.3 + 0.2 * Math.sin(k / 6)) * box.width, box.y + box.height / 2);
    await page.waitForTimeout(15 + 20 * Math.random());
  }
  await page.mouse.up();
  const frames = /** @type {number[]} */ (await page.evaluate('window.endDrag()'));
  if (frames.length < 60) throw new Error('Too few moves of the slider were on a frame.');
  return frames;
}

/**
 * Runs in the page: how long after each move of the slider the frame with it is painted, and with what is shown of it.
 * @param {string | null} shown
 */
function watchFrames(shown) {
  const frames = /** @type {number[]} */ ([]);
  const path = () => shown && document.querySelector(shown)?.getAttribute('d');
  const watch = (/** @type {Event} */ event) => {
    const from = event.timeStamp;
    const before = path();
    const look = () =>
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => {
          if (!shown || path() !== before) frames.push(performance.now() - from);
          else if (performance.now() - from < 500) look();
        };
        channel.port2.postMessage(null);
      });
    look();
  };
  document.addEventListener('input', watch, true);
  Object.assign(window, {
    endDrag: () => {
      document.removeEventListener('input', watch, true);
      return frames;
    },
  });
}

/** Runs in the page. @param {number} count */
async function timeLetters(count) {
  const painted = () =>
    new Promise((resolve) =>
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = resolve;
        channel.port2.postMessage(null);
      }),
    );
  const bare = [];
  for (let k = 0; k < 60; k++) {
    const from = performance.now();
    await painted();
    bare.push(performance.now() - from);
  }
  const field = /** @type {HTMLInputElement} */ (document.querySelector('[data-text]'));
  const curves = () =>
    ['0 0', 'magnitude 0 0', 'nyquist 0 0']
      .map((id) => document.querySelector(`[data-curve="${id}"]`)?.getAttribute('d'))
      .concat(document.querySelector('[data-system] path')?.getAttribute('d'));
  const shown = [];
  for (let k = 0; k < count; k++) {
    await new Promise((resolve) => setTimeout(resolve, 60 + Math.random() * 40));
    field.focus();
    field.setSelectionRange(0, 1);
    const before = curves();
    const from = performance.now();
    document.execCommand('insertText', false, String(1 + (k % 8)));
    // Poles stay where they are; the other three panes must have moved.
    do await painted();
    while (
      curves()
        .slice(0, 3)
        .some((d, j) => d === before[j]) &&
      performance.now() - from < 2000
    );
    shown.push(performance.now() - from);
  }
  return { bare, shown };
}
