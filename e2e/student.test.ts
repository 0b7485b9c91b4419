import type { Page } from 'playwright-core';
import { gain, number, stored, typed } from './hands';
import { follow, phone, Stage, until } from './harness';

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

const rail = (page: Page, nail: string) => page.locator(`[data-nail=${nail}]`);
const curve = (page: Page) => page.locator('[data-curve=now]').getAttribute('d');

describe('the bench', () => {
  let page: Page;
  beforeAll(async () => {
    page = await stage.windowOf('Ilse Okafor');
    await follow(page, 'Crane trolley');
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await gain(page, 'Kp').waitFor();
  });

  test('starts where the exercise says, with the student’s own numbers', async () => {
    expect(await gain(page, 'Kp').inputValue()).toBe('1');
    expect(await page.getByText('Your numbers').innerText()).toMatch(/m\/s² per kN/);
    expect(await rail(page, 'push').getAttribute('data-met')).toBe('false');
  });

  test('a rung, a key and typing all move curve, measures and rail', async () => {
    const before = await curve(page);
    await page.getByRole('button', { name: 'Kp up by 5' }).click();
    expect(await gain(page, 'Kp').inputValue()).toBe('6');
    expect(await curve(page)).not.toBe(before);
    await page.locator('body').press('3');
    await page.locator('body').press('Shift+ArrowUp');
    await page.locator('body').press('ArrowUp');
    expect(await gain(page, 'Kd').inputValue()).toBe('1.1');
    await gain(page, 'Kd').press('ArrowDown');
    expect(await gain(page, 'Kd').inputValue()).toBe('1');
    const measured = await rail(page, 'settling').innerText();
    await gain(page, 'Kp').fill('20');
    expect(await rail(page, 'settling').innerText()).not.toBe(measured);
  });

  test('holding a rung repeats', async () => {
    await gain(page, 'Ki').fill('0');
    const rung = page.getByRole('button', { name: 'Ki up by 0.5' });
    await rung.hover();
    await page.mouse.down();
    await until(async () => (await number(page, 'Ki')) >= 1.5);
    await page.mouse.up();
  });

  test('a gain that is no number keeps the last curve and cannot be handed in', async () => {
    const before = await curve(page);
    await gain(page, 'Kp').fill('2o');
    expect(await curve(page)).toBe(before);
    expect(await page.getByRole('status').last().innerText()).toContain('Kp must be a number');
    expect(await page.getByRole('button', { name: 'Hand in' }).isDisabled()).toBe(true);
  });

  test('axes hold still until Fit; a curve that leaves says so', async () => {
    const ticks = () => page.locator('figure').first().locator('svg').textContent();
    await gain(page, 'Kp').fill('40');
    await gain(page, 'Ki').fill('0');
    await gain(page, 'Kd').fill('0');
    expect(await ticks()).toContain('leaves the frame');
    await page.getByRole('button', { name: 'Fit' }).first().click();
    expect(await ticks()).not.toContain('leaves the frame');
    expect(await ticks()).toContain('2');
  });

  test('stops become a trail and ghosts; a stop can be taken back', async () => {
    await gain(page, 'Kp').fill('14');
    await page.getByText(/\d now/).waitFor();
    await gain(page, 'Kd').fill('3');
    await page.getByRole('row', { name: /14 0 3 .* of 4/ }).waitFor();
    expect(await page.locator('[data-curve=first]').count()).toBe(1);
    await page
      .getByRole('button', { name: /\d+ back: take the gains/ })
      .last()
      .click();
    expect(await gain(page, 'Kd').inputValue()).toBe('0');
  });

  test('is there again after a reload', async () => {
    await stored(page, () => gain(page, 'Kd').fill('2.75'));
    await page.reload();
    await page.getByRole('button', { name: 'Bring it back' }).click();
    expect(await gain(page, 'Kd').inputValue()).toBe('2.75');
  });

  test('an unstable loop is said in words', async () => {
    await gain(page, 'Kp').fill('2');
    await gain(page, 'Ki').fill('24');
    await gain(page, 'Kd').fill('0');
    expect(await page.getByRole('status').last().innerText()).toMatch(/The loop is unstable: pole at/);
    // Beyond its range it is drawn, but not handed in.
    await gain(page, 'Ki').fill('90');
    expect(await page.getByRole('status').last().innerText()).toMatch(
      /Ki = 90 is outside what is allowed, from 0 to 40/,
    );
  });

  test('handing in gives the verdict in words and numbers, once', async () => {
    await gain(page, 'Kp').fill('14');
    await gain(page, 'Ki').fill('18');
    await gain(page, 'Kd').fill('7.5');
    expect(await page.locator('[data-nail][data-met=true]').count()).toBe(4);
    await page.getByRole('button', { name: 'Hand in' }).dblclick();
    const handed = page.getByRole('region', { name: 'Handed in' });
    await handed.getByText('6 of 6 points').waitFor();
    expect(await handed.innerText()).toMatch(/Overshoot [\d.]+ %, limit 15 %: holds\./);
    expect(await page.getByText('4 tries left').count()).toBe(1);
    // It is solved: what is offered is the next part, and no second try of the same.
    await page.getByRole('button', { name: 'Next open part' }).waitFor();
    expect(await page.getByRole('button', { name: 'Hand in' }).count()).toBe(0);
  });

  test('everything is also there as a table', async () => {
    await page.getByRole('button', { name: 'Table' }).first().click();
    expect(await page.getByRole('region', { name: 'Load position, m in numbers' }).getByRole('row').count()).toBe(22);
  });

  test('keys are listed under ?', async () => {
    await page.locator('body').press('?');
    expect(await page.getByRole('dialog').innerText()).toContain('coarse rung');
    await page.keyboard.press('Escape');
    expect(await page.getByRole('dialog').count()).toBe(0);
  });
});

describe('a transfer function and predictions', () => {
  let page: Page;
  beforeAll(async () => {
    page = await stage.windowOf('Ilse Okafor');
    await follow(page, 'Lighthouse lamp');
    await page.getByRole('button', { name: 'Write it down' }).click();
    await typed(page).waitFor();
  });

  test('what is typed is shown back, mistakes with their place', async () => {
    const field = typed(page);
    await field.fill('K*wn^2/(s^2 + 2zeta*wn*s');
    await page.getByText('A bracket opened here is never closed.').first().waitFor();
    expect(await page.locator('mark').innerText()).toBe('(');
    await field.fill('K*wn^2/(s^2 + 2zeta*wn*s + wn^2)');
    await page.getByText(/damping ratio 0\.\d+, natural frequency/).waitFor();
  });

  test('a megabyte of brackets pasted does no harm', async () => {
    await typed(page).evaluate((element: HTMLInputElement) => {
      Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(element, '('.repeat(1_000_000));
      element.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await page
      .getByText(/1,000,000 characters long; at most 2000 are read/)
      .first()
      .waitFor();
    expect(await page.getByRole('button', { name: 'Hand in' }).isDisabled()).toBe(true);
    await typed(page).fill('K*wn^2/(s^2 + 2zeta*wn*s + wn^2)');
  });

  test('the right one is right in any form', async () => {
    await page.getByRole('button', { name: 'Hand in' }).click();
    await page.getByText('The transfer function is right.').first().waitFor();
  });

  test('the curve appears only after every prediction', async () => {
    const [, zeta, wn] = (await page.getByText('Your numbers:').innerText()).match(/\d+(\.\d+)?/g)!.map(Number);
    const wd = wn! * Math.sqrt(1 - zeta! ** 2);
    const handIn = async (part: string, number: number) => {
      await page.getByRole('button', { name: part }).click();
      expect(await page.locator('[data-curve]').count()).toBe(0);
      await typed(page).fill(number.toPrecision(3));
      await page.getByRole('button', { name: 'Hand in' }).click();
      await page.getByText('3 of 3 points').waitFor();
    };
    await handIn('Predict the overshoot', 100 * Math.exp((-Math.PI * zeta! * wn!) / wd));
    expect(await page.locator('[data-curve]').count()).toBe(0);
    await handIn('Predict the peak time', Math.PI / wd);
    await page.getByText(/Expected .* s\./).waitFor();
    await page.locator('[data-curve=now]').waitFor();
  });
});

test('a lost connection is said, nothing is lost, and one try is one try', async () => {
  const page = await stage.windowOf('Kofi Lindqvist');
  await follow(page, 'Crane trolley');
  await page.getByRole('button', { name: 'Stand firm' }).click();
  await gain(page, 'Kp').fill('11');
  await page.context().setOffline(true);
  await gain(page, 'Kd').fill('4.5');
  await page.getByText(/Not saved: no connection/).waitFor();
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.getByText(/No connection to Nailset/).waitFor();
  await page.context().setOffline(false);
  await page.getByRole('button', { name: 'Hand in' }).click();
  await page.getByText('Try 3', { exact: true }).waitFor();
  await page.getByText(/^Saved/).waitFor();
  expect(await gain(page, 'Kd').inputValue()).toBe('4.5');
  expect(stage.complaintsSoFar().filter((text) => !text.includes('ERR_INTERNET_DISCONNECTED'))).toEqual([]);
});

test('on a phone the same work can be done', async () => {
  const page = await stage.windowOf('Mireille Anand', phone);
  await follow(page, 'Crane trolley');
  await page.getByRole('button', { name: 'Stand firm' }).click();
  const before = await gain(page, 'Kp').inputValue();
  await page.getByRole('button', { name: 'Kp up by 0.5' }).click();
  expect(Number(await gain(page, 'Kp').inputValue())).toBe(Number(before) + 0.5);
  const hand = await page.getByRole('button', { name: 'Hand in' }).boundingBox();
  expect(hand!.y + hand!.height).toBeLessThanOrEqual(phone.height);
});
