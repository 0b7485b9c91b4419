import { median, row } from './figures.mjs';

/**
 * The open bench: a letter of a system of order 6 to the frame on which four panes show it, beside the browser’s bare
 * frame; and opening it when everything is in the cache.
 * @param {import('playwright-core').Browser} browser @param {string} url
 */
export async function openBench(browser, url) {
  console.log('Open bench, 1280x800');
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const opened = [];
  for (let k = 0; k < 6; k++) {
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
  await page.context().close();
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
