import { dragBy, gain, number, openPart, typed } from './hands';
import { follow, Stage } from './harness';

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

test('points are marked by hand on an empty plane, judged by their angle, and then the locus is revealed', async () => {
  const page = await stage.windowOf('Ilse Okafor');
  await follow(page, 'Slewing crane');
  await page.getByRole('button', { name: 'Points of the locus' }).click();
  const plane = openPart(page).getByRole('group', { name: /^s-plane, points marked/ });
  await plane.waitFor();
  await plane.scrollIntoViewIfNeeded();
  const { x, y, width, height } = (await plane.boundingBox())!;
  await page.mouse.click(x + 0.5 * width, y + 0.5 * height);
  await page.mouse.click(x + 0.4 * width, y + 0.3 * height);
  const field = typed(page);
  const [onAxis, off] = (await field.inputValue()).split(', ');
  expect(onAxis).toMatch(/^-\d+(\.\d+)?$/);
  expect(off).toMatch(/j$/);
  await page.getByRole('slider', { name: 'Point 2' }).press('Delete');
  expect(await field.inputValue()).toBe(onAxis);
  await page.getByRole('slider', { name: 'Point 1' }).press('ArrowRight');
  expect(Number(await field.inputValue())).toBeGreaterThan(Number(onAxis));
  expect(await page.locator('[data-branch]').count()).toBe(0);
  await field.fill('-0.5, -8 + 4j, -0.2');
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page
    .getByText(/^−8 \+ 4j: the angle is .*° off/)
    .first()
    .waitFor();
  expect(await page.locator('[data-branch]').count()).toBe(0);
  await field.fill('-0.5, -0.4, -0.3, -0.2, -0.1');
  await page.getByRole('button', { name: 'Hand in' }).click();
  // On the locus, but side by side: no sketch.
  await page
    .locator('[data-try="2"]')
    .getByText(/^−0\.5: too near another marked point/)
    .waitFor();
  const numbers = await page.getByText(/^Your numbers/).innerText();
  const [a, b] = ['a', 'b'].map((name) => Number(new RegExp(`\\b${name}\\s+([\\d.]+)`).exec(numbers)![1]));
  await field.fill([0.5, 1, 1.8, 3, 5].map((share) => onUpperBranch(a!, b!, share)).join(', '));
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.locator('[data-branch="2"]').waitFor({ state: 'attached' });
});

/** The upper closed-loop pole of s(s + a)(s + b) + K, K a share of the critical gain; by its real root, bisected. */
function onUpperBranch(a: number, b: number, share: number): string {
  const K = share * a * b * (a + b);
  let [low, high] = [-10 * (a + b), -Math.max(a, b)];
  for (let round = 0; round < 60; round++) {
    const middle = (low + high) / 2;
    if (middle * (middle + a) * (middle + b) + K < 0) low = middle;
    else high = middle;
  }
  const half = (a + b + low) / 2;
  return `${(-half).toFixed(4)} + ${Math.sqrt(-K / low - half * half).toFixed(4)}j`;
}

test('stretches of the real axis are chosen as wholes, by mouse and by keys', async () => {
  const page = await stage.windowOf('Ilse Okafor');
  await follow(page, 'Slewing crane');
  await page.getByRole('button', { name: 'On the real axis' }).click();
  const stretches = openPart(page).getByRole('checkbox', { name: /^Real axis/ });
  await stretches.first().waitFor();
  expect(await stretches.count()).toBe(4);
  const right = await stretches.nth(2).locator('rect').boundingBox();
  await page.mouse.click(right!.x + right!.width / 3, right!.y + right!.height / 2);
  expect(await stretches.nth(2).isChecked()).toBe(true);
  await stretches.nth(1).press('Space');
  await stretches.nth(1).press('Space');
  await stretches.nth(0).press('Enter');
  expect(await stretches.evaluateAll((all) => all.map((each) => each.ariaChecked))).toEqual([
    ...['true', 'false', 'true', 'false'],
  ]);
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.getByText('1 of 1 point').waitFor();
});

test('asymptotes are rays from where they meet, and the right ones are shown when all is right', async () => {
  const page = await stage.windowOf('Ilse Okafor');
  await follow(page, 'Slewing crane');
  await page.getByRole('button', { name: 'Asymptotes' }).click();
  const field = typed(page);
  const numbers = await page.getByText(/^Your numbers/).innerText();
  const [a, b] = [...numbers.matchAll(/(\d+(?:\.\d+)?) rad/g)].map(([, value]) => Number(value));
  const meeting = -(a! + b!) / 3;
  await field.fill(`${meeting.toFixed(3)}, ${(meeting - 4).toFixed(2)}`);
  expect(await page.locator('[data-rays] line').count()).toBe(1);
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.getByText('An asymptote is missing.').first().waitFor();
  expect(await page.locator('[data-mark=asymptote]').count()).toBe(0);
  const upper = `${(meeting + 2).toFixed(3)}+${(2 * Math.sqrt(3)).toFixed(3)}j`;
  await field.fill(`${meeting.toFixed(3)}, ${(meeting - 4).toFixed(2)}, ${upper}, ${upper.replace('+', '-')}`);
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.locator('[data-mark=asymptote]').first().waitFor({ state: 'attached' });
});

describe('a model over frequency', () => {
  test('is built from terms, dragged at its corners and its level, refined, and handed in', async () => {
    const page = await stage.windowOf('Ilse Okafor');
    await follow(page, 'Crane boom');
    await page.getByRole('button', { name: 'Add a pair of poles' }).click();
    await page.locator('[data-corner=wp1]').waitFor();
    const before = await number(page, 'wp1');
    await dragBy(page, '[data-corner=wp1] circle', -60, 0);
    expect(await number(page, 'wp1')).toBeLessThan(0.85 * before);
    expect(await number(page, 'K')).toBe(1);
    await page.getByRole('slider', { name: 'Level K' }).press('Shift+ArrowUp');
    expect(await number(page, 'K')).toBeCloseTo(10 ** (1 / 20), 2);
    await page.getByRole('button', { name: 'Add a pair of zeros' }).click();
    await gain(page, 'wz1').fill('3');
    await gain(page, 'wp1').fill('7');
    await page.getByRole('button', { name: 'Add a pole', exact: true }).click();
    await page.getByRole('button', { name: 'Remove p1' }).click();
    await page.getByRole('button', { name: 'Refine all' }).click();
    await page.getByText('The model follows.').waitFor();
    expect(await number(page, 'wp1')).toBeCloseTo(7.4, 1);
    expect(await number(page, 'dz1')).toBeCloseTo(0.09, 2);
    await page.getByRole('button', { name: 'Hand in' }).click();
    await page.getByText('6 of 6 points').waitFor();
  });
});
