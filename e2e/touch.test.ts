import type { CDPSession, Locator, Page } from 'playwright-core';
import { phone, Stage, until } from './harness';

/** The open bench under fingers, on a phone: real touches, which the browser itself may take for scrolling. */

let stage: Stage;
let page: Page;
let fingers: CDPSession;
beforeAll(async () => {
  stage = await Stage.open();
  page = await stage.window(phone);
  fingers = await page.context().newCDPSession(page);
  await fingers.send('Emulation.setTouchEmulationEnabled', { enabled: true, maxTouchPoints: 2 });
});
afterAll(() => stage.close());
beforeEach(async () => {
  await page.goto('/open');
  await page.getByRole('textbox', { name: 'G is' }).fill('9/(s^2 + 1.2s + 9)');
  await page.locator('[data-curve="0 0"]').first().waitFor();
});
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

type Finger = readonly [x: number, y: number];

/** Fingers set down, moved together in steps, and lifted. */
async function swipe(from: readonly Finger[], to: readonly Finger[]): Promise<void> {
  const steps = 8;
  const at = (k: number) =>
    from.map(([x, y], id) => {
      const [endX, endY] = to[id] ?? [x, y];
      return { id, x: x + ((endX - x) * k) / steps, y: y + ((endY - y) * k) / steps };
    });
  await fingers.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(0) });
  for (let k = 1; k <= steps; k++) {
    await fingers.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(k) });
  }
  await fingers.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
}

const response = (): Locator => page.getByRole('figure', { name: /Response/ }).locator('svg');
/** The last number on the axis of time. */
const lastTime = async (): Promise<number> => {
  const texts = await response().locator('text').allTextContents();
  const times = texts.flatMap((text) => /^([\d.]+) s$/.exec(text)?.[1] ?? []);
  return Number(times.at(-1));
};
async function middle(of: Locator): Promise<Finger> {
  await of.scrollIntoViewIfNeeded();
  const box = await of.boundingBox();
  if (!box) throw new Error('It is not on the page.');
  return [box.x + box.width / 2, box.y + box.height / 2];
}

test('two fingers look closer at a response, one takes the page along', async () => {
  const before = await lastTime();
  const [x, y] = await middle(response());
  await swipe(
    [
      [x - 30, y],
      [x + 30, y],
    ],
    [
      [x - 110, y],
      [x + 110, y],
    ],
  );
  await until(async () => (await lastTime()) < before);
  const closer = await lastTime();
  const scrolled = await page.evaluate(() => scrollY);
  const [, low] = await middle(response());
  await swipe([[x, low + 60]], [[x, low - 120]]);
  await until(async () => (await page.evaluate(() => scrollY)) !== scrolled);
  expect(await lastTime()).toBe(closer);
});

test('a reading is set by a tap and drawn along by a finger', async () => {
  const [x, y] = await middle(response());
  await swipe([[x, y]], [[x, y]]);
  const reading = page.getByRole('slider', { name: /Reading/ });
  await reading.waitFor();
  const before = Number(await reading.getAttribute('aria-valuenow'));
  const from = await middle(reading.locator('circle').first());
  await swipe([from], [[from[0] + 60, from[1]]]);
  await until(async () => Number(await reading.getAttribute('aria-valuenow')) > before);
  expect(await page.getByRole('slider', { name: /Reading/ }).count()).toBe(1);
});
