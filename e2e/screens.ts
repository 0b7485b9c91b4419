import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { desk, Stage } from './harness';

/** A view that is looked at: its name, who sees it, and the way to it from their first page. */
export type Screen = [name: string, who: string | null, open: (page: Page) => Promise<unknown>];

const axe = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  nodes: { html: string }[];
}

/** Rules as axe takes them: all with the size of targets, only what colours decide, or what they do not. */
const rules = {
  all: { rules: { 'target-size': { enabled: true } } },
  colours: { runOnly: ['color-contrast'] },
  shapes: { rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: false } } },
};

/** What breaks a rule, best practice included, with the first places of each. */
async function violations(page: Page, which: keyof typeof rules = 'all'): Promise<string[]> {
  // Asked of the same page before, it is there already.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe);
  // Nothing that is judged lies in files of their own.
  const options = JSON.stringify({ resultTypes: ['violations'], preload: false, ...rules[which] });
  const found = await page.evaluate<{ violations: Violation[] }>(`axe.run(document, ${options})`);
  return found.violations.map(({ id, nodes }) => {
    const places = nodes.slice(0, 3).map(({ html }) => html.slice(0, 160));
    return `${id}: ${places.join(' | ')}`;
  });
}

/** Waits until nothing fades or moves any more; the page has been drawn anew by then. */
async function stillness(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const isEnding = (each: Animation) =>
      each.playState === 'running' && each.effect?.getComputedTiming().endTime !== Infinity;
    do for (let k = 0; k < 2; k++) await frame();
    while (document.getAnimations().some(isEnding));
  });
}

/** By how much the page is wider than the window, once drawings have taken its size. */
async function overflow(page: Page): Promise<number> {
  let beyond = 0;
  for (let k = 0; k < 20; k++) {
    beyond = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    if (beyond === 0) return 0;
    await page.waitForTimeout(150);
  }
  return beyond;
}

/** As wide as a phone is at the least, and a desk at four times its size. */
const narrow = { width: 320, height: 640 };
/** A desk at twice its size. */
const zoomed = { width: 640, height: 400 };

export const staff = 'Marit Solano';
export const student = 'Kofi Lindqvist';

/**
 * Tests that views break no rule for those who see or hear them otherwise, and fit on every screen; some also by night,
 * whose colours meet all others’, and some also opened on the narrowest phone, not only made as narrow.
 */
export function testScreens(screens: readonly Screen[], byNight: readonly string[], onPhone: readonly string[]): void {
  let stage: Stage;
  beforeAll(async () => {
    stage = await Stage.open();
  });
  afterAll(() => stage.close());

  const windows = new Map<string, Page>();
  /** One window for each person and size, kept from view to view. */
  async function windowFor(who: string | null, viewport: typeof desk): Promise<Page> {
    const key = `${who} ${viewport.width}`;
    const page = windows.get(key) ?? (await (who === null ? stage.window(viewport) : stage.windowOf(who, viewport)));
    windows.set(key, page);
    await page.setViewportSize(viewport);
    await page.emulateMedia({ colorScheme: 'light' });
    await page.goto('/');
    return page;
  }

  async function openIn(page: Page, open: (page: Page) => Promise<unknown>): Promise<void> {
    await open(page).catch(async (error: Error) => {
      const seen = (await page.locator('body').innerText()).slice(0, 600);
      throw new Error(`${error.message}\n${page.url()} ${stage.complaintsSoFar().join('; ')}\n${seen}`);
    });
    await page.locator('h1').first().waitFor({ state: 'attached' });
    await page.waitForTimeout(900);
    // An address that was on its way meanwhile.
    await page.locator('h1').first().waitFor({ state: 'attached' });
    await stillness(page);
  }

  beforeEach(() => void stage.complaintsSoFar());

  test.each(screens)('%s is clean: at a desk, twice and four times as large, and by night', async (name, who, open) => {
    const page = await windowFor(who, desk);
    await openIn(page, open);
    expect(await violations(page)).toEqual([]);
    expect(await page.locator('h1').count()).toBe(1);
    expect(await page.title()).toMatch(/Nailset/);
    if (byNight.includes(name)) {
      await page.emulateMedia({ colorScheme: 'dark' });
      await stillness(page);
      expect(await violations(page, 'colours')).toEqual([]);
      await page.emulateMedia({ colorScheme: 'light' });
    }
    expect(await overflow(page)).toBe(0);
    await page.setViewportSize(zoomed);
    expect(await overflow(page)).toBe(0);
    await page.setViewportSize(narrow);
    await stillness(page);
    expect(await overflow(page)).toBe(0);
    expect(await violations(page, 'shapes')).toEqual([]);
    const allowed = name === 'someone else’s exercise' ? /404/ : /^$/;
    expect(stage.complaintsSoFar().filter((text) => !allowed.test(text))).toEqual([]);
    await page.keyboard.press('Escape');
  });

  test.each(screens.filter(([name]) => onPhone.includes(name)))(
    '%s is clean, opened on a phone',
    async (_name, who, open) => {
      const page = await windowFor(who, narrow);
      await openIn(page, open);
      expect(await violations(page)).toEqual([]);
      expect(await overflow(page)).toBe(0);
      expect(stage.complaintsSoFar()).toEqual([]);
      await page.keyboard.press('Escape');
    },
  );
}
