import { median, row, threeTimes, toPaint, withShareTaken } from './figures.mjs';

const nudgesTimed = 200;

/**
 * From a key press to the painted frame that shows it, on the demo's PID exercise.
 * @param {import('playwright-core').Page} page
 */
export async function nudges(page) {
  await page.getByRole('link', { name: 'Crane trolley' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await page.getByRole('textbox', { name: 'Kp, typed' }).waitFor();
  console.log('Nudge to paint: curve, measures, rail, poles and formula, 1280x800');
  await withShareTaken(async () => {
    const rounds = await threeTimes(() => page.evaluate(timeNudges, nudgesTimed));
    row('bare frame of this browser', `${median(rounds.flatMap(({ frames }) => frames)).toFixed(1)} ms`);
    toPaint(
      'work on the page, median and 95th',
      rounds.map(({ work }) => work),
    );
    toPaint(
      'key to painted frame, median and 95th',
      rounds.map(({ painted }) => painted),
    );
  });
}

/**
 * Runs in the page. Presses keys at moments that have nothing to do with its frames, and waits for the frame that shows each.
 * @param {number} count
 */
async function timeNudges(count) {
  const pause = (/** @type {number} */ ms) => new Promise((resolve) => setTimeout(resolve, ms));
  /** Resolves when the next frame has been handed to the compositor. */
  const painted = () =>
    new Promise((resolve) =>
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => resolve(performance.now());
        channel.port2.postMessage(null);
      }),
    );
  const frames = [];
  for (let k = 0; k < 60; k++) {
    const started = performance.now();
    await painted();
    await painted();
    frames.push((performance.now() - started) / 2);
  }
  const curve = () => document.querySelector('[data-curve=now]')?.getAttribute('d');
  const work = [];
  const all = [];
  for (let k = 0; k < count; k++) {
    await pause(20 + Math.random() * 30);
    const before = curve();
    const key = k % 10 < 5 ? 'ArrowUp' : 'ArrowDown';
    const started = performance.now();
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await Promise.resolve();
    work.push(performance.now() - started);
    const end = await painted();
    if (curve() === before) throw new Error('A nudge was not on the frame after it.');
    all.push(/** @type {number} */ (end) - started);
  }
  return { frames, work, painted: all };
}
