import type { Page } from 'playwright-core';

/** The part that is open, alone or on a sheet with others. */
export const openPart = (page: Page) => page.locator('[data-open]');
/** The field of a part whose answer is typed in one. */
export const typed = (page: Page) => openPart(page).getByRole('textbox');

/** The field of a setting on the ladder. */
export const gain = (page: Page, name: string) => page.getByRole('textbox', { name: `${name}, typed` });
/** What stands in it. */
export const number = async (page: Page, name: string) => Number(await gain(page, name).inputValue());

/** The middle of an element on the page. */
export async function middleOf(page: Page, selector: string): Promise<{ x: number; y: number }> {
  const { x, y, width, height } = (await page.locator(selector).first().boundingBox())!;
  return { x: x + width / 2, y: y + height / 2 };
}

/** Drags an element with the mouse. */
export async function dragBy(page: Page, selector: string, dx: number, dy: number): Promise<void> {
  const { x, y } = await middleOf(page, selector);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 8 });
  await page.mouse.up();
}

/** Changes something that is saved by itself, and waits until the server has it. */
export async function stored(page: Page, change: () => Promise<unknown>): Promise<void> {
  const sent = page.waitForRequest((request) => /^(PUT|PATCH)$/.test(request.method()));
  await change();
  if (!(await (await sent).response())?.ok()) throw new Error('What was changed was not stored.');
}
