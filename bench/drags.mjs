import { threeTimes, toPaint, withShareTaken } from './figures.mjs';

/**
 * From a pointer move to the painted frame that shows it: a compensator's zero dragged on the locus of a loop of order
 * six, with response, effort and rail; then its corner on the Bode plot, with the Nyquist plot below.
 * @param {import('playwright-core').Page} page
 */
export async function drags(page) {
  await page.getByRole('link', { name: 'Mooring winch' }).first().click();
  await page.getByText('b With a lead').click();
  await page.getByRole('textbox', { name: 'Plant G' }).fill('540/(s*(s + 1)*(s + 6)*(s^2 + 8*s + 60))');
  await page.getByRole('button', { name: 'Take the student’s place' }).click();
  await page.getByRole('button', { name: 'b With a lead', exact: true }).click();
  await page.getByRole('button', { name: /^Add lead/ }).click();
  await page.locator('[data-handle=z1]').waitFor();
  console.log('\nDrag to paint: zero of a loop of order 6, response, effort and rail, 1280x800');
  const zero = { grip: '[data-handle=z1] circle', shown: '[data-branch]', way: /** @type {const} */ (-1) };
  await withShareTaken(async () => toPaint(measured, await threeTimes(() => page.evaluate(timeDrags, zero))));
  await page.getByRole('button', { name: 'Frequency' }).click();
  await page.locator('[data-corner=z1]').waitFor();
  console.log('\nDrag to paint: corner on the Bode plot, with Nyquist, response, effort and rail');
  const corner = { grip: '[data-corner=z1] circle', shown: '[data-curve=magnitude]', way: /** @type {const} */ (1) };
  await withShareTaken(async () => toPaint(measured, await threeTimes(() => page.evaluate(timeDrags, corner))));
}

const measured = 'pointer to painted frame, median and 95th';

/**
 * Runs in the page: drags a grip to and fro at moments that have nothing to do with the page’s frames.
 * @param {{ grip: string, shown: string, way: 1 | -1 }} what
 */
async function timeDrags({ grip, shown, way }) {
  const pause = (/** @type {number} */ ms) => new Promise((resolve) => setTimeout(resolve, ms));
  const painted = () =>
    new Promise((resolve) =>
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => resolve(performance.now());
        channel.port2.postMessage(null);
      }),
    );
  const handle = /** @type {SVGElement} */ (document.querySelector(grip));
  const svg = /** @type {SVGSVGElement} */ (handle.closest('svg'));
  svg.setPointerCapture = () => undefined;
  svg.hasPointerCapture = () => true;
  const { left, top, width, height } = handle.getBoundingClientRect();
  const [x, y] = [left + width / 2, top + height / 2];
  const send = (/** @type {string} */ type, /** @type {number} */ at) =>
    svg.dispatchEvent(
      new PointerEvent(type, { bubbles: true, cancelable: true, pointerId: 1, clientX: at, clientY: y }),
    );
  send('pointerdown', x);
  const path = () => document.querySelector(shown)?.getAttribute('d');
  const times = [];
  for (let k = 0; k < 160; k++) {
    await pause(20 + Math.random() * 30);
    const before = path();
    const started = performance.now();
    send('pointermove', x + way * (4 + 12 * (1 + Math.sin(k / 5))));
    let end = await painted();
    for (let frames = 0; path() === before && frames < 4; frames++) end = await painted();
    if (path() !== before && k >= 20) times.push(/** @type {number} */ (end) - started);
  }
  send('pointermove', x);
  send('pointerup', x);
  if (times.length < 80) throw new Error('Too few drags were on the frame after them.');
  return times;
}
