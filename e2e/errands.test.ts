import path from 'node:path';
import type { Locator, Page } from 'playwright-core';
import { Stage, until } from './harness';

/**
 * What people come to the open bench for. Each errand is done from an empty sheet in at most eight actions: one is a
 * field filled, a choice, a press, a drag or a click.
 */

const most = 8;

let stage: Stage;
let page: Page;
let actions: number;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());
beforeEach(async () => {
  page = await stage.window();
  await page.goto('/open');
  actions = 0;
});
afterEach(async () => {
  await page.context().close();
  expect(actions).toBeGreaterThan(0);
  expect(actions).toBeLessThanOrEqual(most);
  expect(stage.complaintsSoFar()).toEqual([]);
});

/** The text of a line; a line further down is begun with Enter in the one above. */
async function line(number: number, text: string): Promise<void> {
  actions += 1;
  const fields = page.locator('[data-text]');
  if (number > 1 && (await fields.count()) < number) await fields.nth(number - 2).press('Enter');
  await fields.nth(number - 1).fill(text);
}
const fill = async (field: string, text: string) => {
  actions += 1;
  await page.getByRole('textbox', { name: field }).fill(text);
};
const choose = async (list: string, option: string) => {
  actions += 1;
  await page.getByRole('combobox', { name: list }).selectOption(option);
};
const press = async (button: string, within: Page | Locator = page) => {
  actions += 1;
  await within.getByRole('button', { name: button, exact: true }).click();
};
const key = async (keys: string, field: Locator) => {
  actions += 1;
  await field.press(keys);
};
const pane = (title: RegExp) => page.getByRole('figure', { name: title });
/** A click on a plot, at a share of its width and height. */
const clickOn = async (plot: Locator, right: number, down: number) => {
  actions += 1;
  const { x, y, width, height } = (await plot.boundingBox())!;
  await page.mouse.click(x + right * width, y + down * height);
};
const curves = () => pane(/Response/).locator('path[data-curve]');
const seen = (id: string) => page.locator(`[data-curve="${id}"]`).first().waitFor();
const count = (locator: Locator, wanted: number) => locator.nth(wanted - 1).waitFor();
const row = (of: string) => page.getByRole('row', { name: new RegExp(`^${of} `) });
const facts = (of: string) => page.getByRole('region', { name: `Facts about ${of}` });

test('1. look at a fraction', async () => {
  await line(1, '(2s + 6)/(s^2 + 1.4s + 5)');
  for (const id of ['0 0', 'magnitude 0 0', 'nyquist 0 0']) await seen(id);
  await facts('G').getByText('Stable').waitFor();
});

test('2. three dampings, with their input', async () => {
  await choose('Add several lines', 'second order: K, ζ, ωn');
  await fill('zeta is', '0.15; 0.5; 1');
  await count(curves(), 3);
  await pane(/Response/)
    .getByText('input')
    .waitFor();
});

test('3. ζ and ωn changed, with their effect on poles and response', async () => {
  await choose('Add several lines', 'second order: K, ζ, ωn');
  await seen('3 0');
  const before = await page.locator('[data-system=G] path').first().getAttribute('d');
  await key('ArrowUp', page.getByRole('textbox', { name: 'zeta is' }));
  await fill('wn is', '4.2');
  await facts('G').getByText('4.2').waitFor();
  expect(await page.locator('[data-system=G] path').first().getAttribute('d')).not.toBe(before);
});

test('4. a ramp response beside its input', async () => {
  await line(1, '3/(s + 3)');
  await choose('Input', 'ramp');
  await pane(/Response to a unit ramp/)
    .getByText('input')
    .waitFor();
});

test('5. a first-order lag between two levels, 63 % of the way marked', async () => {
  await line(1, '1/(4s + 1)');
  await fill('Level before the step', '2');
  await fill('Size of the input', '5');
  const plot = pane(/from 2 to 5/).locator('svg');
  await plot.waitFor();
  await clickOn(plot, 0.3, 0.3);
  const reading = page.getByRole('slider', { name: 'Reading on the curve' });
  for (let k = 0; k < 40 && Math.abs(Number(await reading.getAttribute('aria-valuenow')) - 4) > 0.06; k++) {
    await reading.press(Number(await reading.getAttribute('aria-valuenow')) < 4 ? 'ArrowRight' : 'ArrowLeft');
  }
  actions += 1;
  expect(await reading.getAttribute('aria-valuetext')).toMatch(/^3\.[89]\d? at [34]/);
});

test('6. several readings on a locus, up to a gain', async () => {
  await line(1, '1/(s*(s + 2)*(s + 5))');
  await press('Locus');
  await press('Axes', pane(/Locus/));
  await fill('Largest gain of the locus', '40');
  await page.keyboard.press('Escape');
  await page.locator('[data-branch]').nth(2).waitFor();
  const box = (await pane(/Locus/).locator('svg').boundingBox())!;
  for (const share of [0.35, 0.65]) {
    actions += 1;
    const { x, y } = await page.evaluate<{ x: number; y: number }>(`(() => {
      const path = document.querySelectorAll('[data-branch]')[2];
      const { x, y } = path.getPointAtLength(path.getTotalLength() * ${share});
      return { x, y };
    })()`);
    await page.mouse.click(box.x + x, box.y + y);
  }
  await count(page.getByRole('slider', { name: 'Gain on the locus' }), 2);
});

test('7. all margins, and the encirclements', async () => {
  await line(1, '60/(s*(s + 2)*(s + 5))');
  await press('Margins');
  await page.locator('[data-margin=gain]').first().waitFor();
  await page.locator('[data-margin=phase]').first().waitFor();
  await pane(/Nyquist/)
    .getByTitle('G: not round −1; the loop is stable')
    .waitFor();
  await line(1, '90/(s*(s + 2)*(s + 5))');
  await pane(/Nyquist/)
    .getByTitle('G: 2 × round −1; the loop is unstable')
    .waitFor();
});

test('8. two Bode plots of one shape with different numerators', async () => {
  await line(1, '2/(s + 1)');
  await line(2, '20/(s + 1)');
  await seen('magnitude 0 0');
  await seen('magnitude 1 0');
});

test('9. two blocks in series under ramp and step, then an integral controller round them', async () => {
  await line(1, '2/(s + 1)');
  await line(2, '3/(s + 4)');
  await line(3, 'G*C');
  await press('Add an input');
  await seen('2 0 1');
  await line(4, '0.4/s');
  await line(5, 'closed(H*L)');
  await seen('4 0');
  await facts('T').getByText('gain at rest 1').waitFor();
});

test('10. mass and spring under PID to a level', async () => {
  await line(1, "2*x'' + 3*x' + 10*x = F");
  await choose('Add several lines', 'PID in front of it, loop closed');
  await fill('Kp is', '20');
  await fill('Ki is', '15');
  await fill('Size of the input', '0.3');
  await pane(/a step of 0.3/).waitFor();
  await row('T').getByText('1', { exact: true }).first().waitFor();
});

test('11. two inputs, one at a time', async () => {
  await line(1, 'y = 3*(r + 0.5*d)/(s + 3)');
  await choose('Input of G', 'd');
  await row('G').getByText('0.5', { exact: true }).first().waitFor();
  await choose('Input of G', 'r');
  await row('G').getByText('1', { exact: true }).first().waitFor();
});

test('12. a drive: speed above position, under load', async () => {
  await line(1, 'w = (u - M)/(0.4*s + 0.1); x = w/s');
  await press('w', page.getByRole('group', { name: 'Signals of G' }));
  await choose('Input of G', 'all together');
  await press('Add an input');
  await press('Stack');
  await count(page.getByRole('figure', { name: /: response to/ }), 2);
});

test('13. a loop with a parameter at three values, 0 and a negative one among them', async () => {
  await line(1, '-1; 0; 2.5');
  await fill('Name of line 1', 'T');
  await line(2, '4/(s*(s + 2))');
  await line(3, 'closed(G*(1 + T*s/4))');
  await count(curves(), 4);
  await row('C, T = −1').waitFor();
});

test('14. a PID nudged, with figures of what it improved', async () => {
  await line(1, '4/(s^2 + s + 4)');
  await choose('Add several lines', 'PID in front of it, loop closed');
  await key('Shift+ArrowUp', page.getByRole('textbox', { name: 'Kp is' }));
  await row('T').waitFor();
  const figures = page.getByRole('region', { name: 'Measures of the step response' });
  await until(async () => /[+−]\d+ %/.test(await figures.innerText()));
});

test('15. specifications to PD gains with the working, the discrepancy, then a lead', async () => {
  await line(1, '3/(s*(s + 2))');
  await press('Design a controller');
  const dialog = page.getByRole('dialog');
  await dialog.getByText('The overshoot gives the damping ratio.').waitFor();
  await dialog.getByText(/The rules know no zeros/).waitFor();
  await choose('Controller', 'a lead, on the locus');
  await dialog.getByText(/the lead gives what is lacking/).waitFor();
  await press('Put it on the bench');
  await facts('T').getByText('Stable').waitFor();
});

test('16. dead time, with both forms of a PID', async () => {
  await line(1, '2*exp(-0.5*s)/(5*s + 1)');
  await choose('Add several lines', 'PID in front of it, loop closed');
  actions += 1;
  await page.getByRole('textbox', { name: 'G is' }).click();
  await choose('Add several lines', 'PID by Kp, Ti, Td in front of it, loop closed');
  await row('T').waitFor();
  await row('T1').waitFor();
});

test('17. limits, without and with anti-windup', async () => {
  await line(1, '1/(4*s + 1)');
  await choose('Add several lines', 'PI with limits, without and with anti-windup');
  const overshoot = async (of: string) => Number.parseFloat(await row(of).getByRole('cell').nth(4).innerText());
  await row('A').waitFor();
  await press('u', page.getByRole('group', { name: 'Signals of A' }));
  expect(await overshoot('W')).toBeGreaterThan(await overshoot('A, y'));
});

test('18. a model to a measured Bode plot', async () => {
  actions += 1;
  await page
    .locator('input[type=file][aria-label="Measured data"]')
    .setInputFiles(path.join(__dirname, 'crane-boom.csv'));
  await choose('Fit a model to crane-boom', 'K, ζ, ωn');
  await page.getByText(/misfit/).waitFor();
  await page.locator('[data-dots=crane-boom] circle').first().waitFor();
  await seen('magnitude 0 0');
});

test('19. state space, there and back, with the states from initial values', async () => {
  await line(1, 'states([0 1; -4 -1.2], [0; 4], [1 0], 0)');
  await press('x2', page.getByRole('group', { name: 'Signals of G' }));
  await choose('Input', 'nothing');
  await fill('Initial values', '1; 0');
  await count(curves(), 2);
  await choose('Convert the line', 'coefficients, highest power first');
  await until(async () => (await page.locator('[data-text]').first().inputValue()).startsWith('[4]/[1, 1.2, 4]'));
  await choose('Convert the line', 'state matrices');
  await until(async () => (await page.locator('[data-text]').first().inputValue()).startsWith('states('));
});
