import { median, row, withShareTaken } from './figures.mjs';

/** A chain of nested and crossing loops with this many blocks. */
export function manyBlocks(/** @type {number} */ count) {
  const lines = [];
  for (let k = 1; k <= count; k++) {
    const before = k === 1 ? 'r' : `x${k - 1}`;
    if (k % 5 === 0) lines.push(`x${k} = G${k}*${before} - H${k}*x${Math.min(count, k + 3)}`);
    else if (k % 5 !== 4) lines.push(`x${k} = G${k}*${before}`);
    else lines.push(`x${k} = ${before} - F${k}*x${k - 2}`);
  }
  return lines.join('\n');
}

/**
 * From a changed text to its drawing on the page, 25 blocks, in the workshop.
 * @param {import('playwright-core').Page} page
 */
export async function drawing(page) {
  await page.getByRole('link', { name: 'Crane hoist' }).first().click();
  await page.getByRole('button', { name: 'Draw the diagram' }).click();
  await page.locator('[data-shape=u]').first().waitFor();
  const text = manyBlocks(21);
  const field = page.getByRole('textbox', { name: /^Signal equations/ });
  console.log('\nDiagram, 25 blocks: text to drawing on the page');
  await withShareTaken(async () => {
    const times = [];
    for (let k = 0; k < 12; k++) {
      const own = text.replaceAll('G1*', `A${k}*`);
      await field.fill('y = G*r');
      await page.waitForTimeout(400);
      times.push(await page.evaluate(timeDrawing, own));
    }
    const middle = median(times.slice(2));
    row('laid out and drawn, median', `${middle.toFixed(0)} ms`, middle <= 150 ? 'within 150 ms' : 'BEYOND 150 ms');
  });
}

/**
 * Runs in the page: sets the text as typing does and waits until all its blocks are drawn.
 * @param {string} text
 */
function timeDrawing(text) {
  const field = /** @type {HTMLTextAreaElement} */ (document.querySelector('textarea[maxlength="4000"].font-mono'));
  const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')?.set;
  const started = performance.now();
  set?.call(field, text);
  field.dispatchEvent(new Event('input', { bubbles: true }));
  return new Promise((/** @type {(time: number) => void} */ resolve) => {
    const look = () => {
      if (document.querySelectorAll('[role=dialog] [data-shape] rect').length >= 25)
        resolve(performance.now() - started);
      else requestAnimationFrame(look);
    };
    look();
  });
}
