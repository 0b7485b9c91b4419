import type { Page } from 'playwright-core';
import { dragBy, gain, number } from './hands';
import { follow, Stage } from './harness';

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

/** How far every closed-loop pole that is seen lies from the branches, in pixels. */
const offTheLocus = (page: Page) =>
  page.evaluate(() => {
    const branches = [...document.querySelectorAll<SVGPathElement>('[data-branch]')].flatMap((path) => {
      const length = path.getTotalLength();
      return Array.from({ length: Math.ceil(2 * length) }, (_, k) => path.getPointAtLength(k / 2));
    });
    const poles = [...document.querySelectorAll<SVGCircleElement>('circle[data-pole]')];
    return Math.max(
      ...poles
        .map(({ cx, cy }) => ({ x: cx.baseVal.value, y: cy.baseVal.value }))
        .filter(({ x }) => x > 0)
        .map(({ x, y }) => Math.min(...branches.map((point) => Math.hypot(point.x - x, point.y - y)))),
    );
  });

describe('the s-plane', () => {
  let page: Page;
  beforeAll(async () => {
    page = await stage.windowOf('Ilse Okafor');
    await follow(page, 'Mooring winch');
    await page.locator('[data-pole]').first().waitFor();
  });

  test('a pole dragged along the locus sets the gain, and response and rail follow', async () => {
    const curve = await page.locator('[data-curve=now]').getAttribute('d');
    await dragBy(page, 'circle[data-pole="1"]', -14, 45);
    expect(await number(page, 'K')).toBeLessThan(0.8);
    expect(await page.locator('[data-curve=now]').getAttribute('d')).not.toBe(curve);
    expect(await offTheLocus(page)).toBeLessThan(1);
  });

  test('the gain moves by keys as well', async () => {
    const before = await number(page, 'K');
    await page.getByRole('slider', { name: 'Gain on the locus' }).press('ArrowUp');
    expect(await number(page, 'K')).toBeCloseTo(before * 1.02, 3);
  });

  test('a click on a branch reads gain, damping and both overshoots there; keys move and remove it', async () => {
    await gain(page, 'K').fill('0.5');
    await page.getByRole('button', { name: 'Read here' }).click();
    const table = page.getByRole('table', { name: 'Readings on the locus' });
    expect(await table.getByRole('row').nth(1).innerText()).toMatch(/±.*j/);
    const reading = page.getByRole('slider', { name: 'Reading 1' });
    const before = await reading.getAttribute('aria-valuenow');
    await reading.press('Shift+ArrowRight');
    expect(Number(await reading.getAttribute('aria-valuenow'))).toBeGreaterThan(1.1 * Number(before));
    await reading.press('Delete');
    expect(await table.count()).toBe(0);
  });

  test('every layer can be drawn', async () => {
    await page.getByRole('button', { name: 'Layers' }).click();
    for (const [layer, mark] of [
      ['asymptotes', 'asymptote'],
      ['break points', 'break'],
      ['crossings', 'crossing'],
    ] as const) {
      await page.getByLabel(layer).check();
      expect(await page.locator(`[data-mark=${mark}]`).count()).toBeGreaterThan(0);
    }
    await page.keyboard.press('Escape');
  });

  test('a lead is added, its zero dragged, and the locus is redrawn under it', async () => {
    await page.getByRole('button', { name: 'With a lead' }).click();
    await page.getByRole('button', { name: 'Add lead z1, p1' }).click();
    await gain(page, 'K').fill('9');
    const branch = await page.locator('[data-branch="0"]').getAttribute('d');
    const before = await number(page, 'z1');
    await dragBy(page, '[data-handle=z1] circle', -30, 0);
    expect(await number(page, 'z1')).toBeLessThan(before - 0.3);
    expect(await page.locator('[data-branch="0"]').getAttribute('d')).not.toBe(branch);
    expect(await offTheLocus(page)).toBeLessThan(1);
    await page.getByRole('slider', { name: 'Zero z1' }).press('ArrowRight');
    expect(await page.getByText(/^lead z1 : p1 = 1 : /).innerText()).toMatch(/1 : \d/);
  });

  test('what the exercise does not allow is said at once', async () => {
    await gain(page, 'z1').fill('-0.5');
    expect(await page.getByRole('status').last().innerText()).toContain(
      'z1 and p1 are 16 times apart; at most 12 is allowed.',
    );
    await gain(page, 'z1').fill('-1');
  });

  test('a corner dragged on the Bode plot moves the zero; the margins stand on the curve', async () => {
    await page.getByRole('button', { name: 'Frequency' }).click();
    await page.locator('[data-corner=z1]').waitFor();
    expect(await page.locator('[data-margin=phase]').count()).toBe(1);
    expect(await page.getByText(/^L goes round −1 not at all/).count()).toBe(1);
    await dragBy(page, '[data-corner=z1] circle', 12, 0);
    expect(await number(page, 'z1')).toBeLessThan(-1.1);
    await page.getByRole('slider', { name: 'Corner of zero z1' }).press('ArrowLeft');
    await gain(page, 'z1').fill('-1');
  });

  test('the answer is handed in with its places and judged', async () => {
    await gain(page, 'K').fill('15');
    await gain(page, 'z1').fill('-1.8');
    await gain(page, 'p1').fill('-14.4');
    await page.getByRole('button', { name: 'Hand in' }).click();
    await page.getByText('3 of 3 points').waitFor();
  });
});

test('moving a corner leaves the level at low frequency', async () => {
  const page = await stage.windowOf('Ilse Okafor');
  await follow(page, 'Radar mast');
  await page.getByRole('button', { name: 'Raise the phase' }).click();
  await page.locator('[data-corner=p1]').waitFor();
  const start = async () =>
    /^M([\d.]+) ([\d.]+)/.exec((await page.locator('[data-curve=magnitude]').getAttribute('d'))!)![2];
  const before = await start();
  await page.getByRole('slider', { name: 'Corner of pole p1' }).press('Shift+ArrowRight');
  expect(await number(page, 'p1')).toBeLessThan(-5.5);
  expect(Math.abs(Number(await start()) - Number(before))).toBeLessThan(0.5);
});

describe('the lectern', () => {
  let page: Page;
  beforeAll(async () => {
    page = await stage.windowOf('Marit Solano');
  });
  const open = async (exercise: string) => {
    await page.goto('/');
    await follow(page, exercise);
    await page.getByRole('button', { name: 'More' }).click();
    await page.getByRole('menuitem', { name: 'On the lectern' }).click();
  };

  test('asks, counts hands, and reveals curves and what is right', async () => {
    await open('Two lamp tables');
    await page.getByRole('button', { name: 'One hand more for Table B' }).click();
    await page.getByRole('textbox', { name: 'Hands for Table A' }).fill('3');
    expect(await page.locator('[data-curve]').count()).toBe(0);
    expect(await page.getByText('✓').count()).toBe(0);
    await page.getByRole('button', { name: 'Reveal' }).click();
    await page.locator('[data-curve]').first().waitFor();
    expect(await page.getByText('✓ Table B').count()).toBe(1);
    expect(await page.getByRole('textbox', { name: 'Hands for Table A' }).inputValue()).toBe('3');
  });

  test('runs a loop over its gain, stepped and played', async () => {
    await open('Mooring winch');
    const now = () => page.locator('[data-curve=now]').getAttribute('d');
    expect(await page.getByRole('button', { name: 'Play' }).isDisabled()).toBe(true);
    await page.getByRole('button', { name: 'Reveal' }).click();
    await page.getByRole('slider', { name: 'Place in the range of K' }).fill('8');
    const before = await now();
    await page.getByRole('button', { name: 'Step on' }).click();
    const after = await now();
    expect(after).not.toBe(before);
    await page.getByRole('button', { name: 'Play' }).click();
    await page.waitForFunction((was) => document.querySelector('[data-curve=now]')?.getAttribute('d') !== was, after);
    await page.getByRole('button', { name: 'Pause' }).click();
  });

  test('has the s-plane beside the response, where poles are dragged before everyone', async () => {
    await open('Mooring winch');
    await page.getByRole('button', { name: 'Reveal' }).waitFor();
    expect(await page.locator('[data-branch]').count()).toBe(0);
    await page.getByRole('button', { name: 'Reveal' }).click();
    // The first branch lies flat on the real axis.
    await page.locator('[data-branch]').first().waitFor({ state: 'attached' });
    const told = () => page.locator('[aria-live=polite] b').innerText();
    expect(await told()).toBe('K 1');
    await page.getByRole('slider', { name: 'Gain on the locus' }).press('Shift+ArrowDown');
    expect(await told()).toMatch(/^K 0\.82/);
    expect(await offTheLocus(page)).toBeLessThan(1);
    await page.getByRole('button', { name: 'Family' }).click();
    expect(await page.locator('[data-curve^=family]').count()).toBe(4);
    await page.getByRole('button', { name: 'Hide' }).click();
    await page.getByRole('list', { name: 'Show of hands' }).waitFor();
    expect(await page.locator('[data-branch]').count()).toBe(0);
  });

  test('can be read from the last row', async () => {
    const sizes = await page.evaluate(() =>
      [...document.querySelectorAll('main p, main svg text, main button')].map(
        (element) => element.getBoundingClientRect().height / (element.textContent.length > 60 ? 2 : 1),
      ),
    );
    expect(Math.min(...sizes.filter((size) => size > 0))).toBeGreaterThan(15);
  });

  test('shows a bench as it stands, and what is worked on before everyone', async () => {
    await page.goto('/');
    await follow(page, 'Mooring winch');
    await gain(page, 'K').fill('0.3');
    await page.getByRole('link', { name: 'On the lectern' }).click();
    await page.getByRole('button', { name: 'Reveal' }).click();
    await page
      .getByText(/^K 0\.3$/)
      .first()
      .waitFor();
    await open('Slewing crane');
    for (let k = 0; k < 3; k++) await page.getByRole('button', { name: 'Next' }).click();
    const plane = page.getByRole('group', { name: /^s-plane, points marked/ });
    await plane.scrollIntoViewIfNeeded();
    const { x, y, width, height } = (await plane.boundingBox())!;
    // The page is magnified: the mark must stand where the click fell all the same.
    await page.mouse.click(x + 0.5 * width, y + 0.3 * height);
    const mark = (await page.locator('[data-point="0"] circle').first().boundingBox())!;
    expect(Math.abs(mark.x + mark.width / 2 - (x + 0.5 * width))).toBeLessThan(12);
    expect(Math.abs(mark.y + mark.height / 2 - (y + 0.3 * height))).toBeLessThan(12);
  });
});
