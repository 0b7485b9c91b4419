import type { Page } from 'playwright-core';
import { stored, typed } from './hands';
import { follow, Stage } from './harness';

let stage: Stage;
let instructor: Page;
let student: Page;
beforeAll(async () => {
  stage = await Stage.open();
  instructor = await stage.windowOf('Marit Solano');
});
afterAll(() => stage.close());
afterEach(() => expect(stage.complaintsSoFar()).toEqual([]));

const addPart = async (kind: string) => {
  await instructor.getByRole('button', { name: 'Add a part' }).click();
  await instructor.getByRole('menuitem', { name: kind, exact: true }).click();
};
const part = (name: string) => student.getByRole('button', { name: new RegExp(name) }).click();
const handIn = () => student.getByRole('button', { name: 'Hand in' }).click();
const asked = () => instructor.getByRole('region', { name: 'Asked and accepted' });
const field = (label: string) => instructor.getByLabel(label, { exact: true });

test('an exercise of every kind is built, proved and published through the interface', async () => {
  await instructor.getByRole('button', { name: 'New exercise' }).click();
  await field('Title').fill('Capstan');
  await field('G, form').selectOption('second order');
  await field('Gain K').fill('2');
  await field('Damping ζ').fill('0.3');
  await field('ωn, rad/s').fill('3');
  await instructor.getByText('gain at rest 2; poles −0.9 ± 2.86j (ζ 0.3, ωn 3 rad/s)').waitFor();
  await instructor.getByRole('button', { name: 'Add a guard' }).click();
  await field('Guard 1').fill('overshootPercent(G) >= 30');
  await instructor.getByText('meets', { exact: true }).waitFor();
  await instructor.getByLabel('Add a table (CSV: time, value)').setInputFiles({
    name: 'record.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('t;y\n0;0\n0,5;0,4\n1;0,7\n2;0,9\n'),
  });
  await instructor.getByText('4 rows to 2 s').waitFor();
  for (const kind of ['transfer function', 'number', 'choice', 'prediction', 'trend table', 'curve match']) {
    await addPart(kind);
  }
  await instructor.getByText('7 parts', { exact: false }).first().waitFor();
  // Enabled once what was typed last has been examined.
  await instructor.locator('button:enabled', { hasText: 'Publish version 1' }).waitFor();
});

test('the proof says that it can be solved, and what usual wrong answers are told', async () => {
  await asked()
    .getByRole('button', { name: /^a Tune/ })
    .click();
  await instructor.getByRole('tab', { name: 'Proof' }).click();
  await instructor.getByRole('button', { name: 'Prove this part' }).click();
  await instructor.getByText(/^Yes|^For \d+ of \d+ draws/).waitFor();
  await instructor.getByRole('img', { name: /^Gain map over Kp and Kd/ }).waitFor();
  await asked()
    .getByRole('button', { name: /^b Write it down/ })
    .click();
  await instructor.getByRole('button', { name: 'Prove this part' }).click();
  const wrong = instructor.getByRole('region', { name: 'Usual wrong answers' });
  await wrong.getByText('It looks as if the factor 2 of 2ζωn is missing.', { exact: true }).waitFor();
  await instructor.getByRole('tab', { name: 'Student’s view' }).click();
  await instructor.getByRole('button', { name: 'Take the student’s place' }).click();
  const view = instructor.getByRole('region', { name: 'Student’s view' });
  await view.locator('[data-open]').getByRole('textbox').fill('18/(s^2 + 1.8s + 9)');
  await view.getByRole('button', { name: 'Hand in' }).click();
  await view.getByText('The transfer function is right.').first().waitFor();
  await instructor.getByRole('button', { name: 'Back to the builder' }).click();
  await instructor.getByRole('button', { name: 'Publish version 1' }).click();
  await instructor.getByRole('button', { name: 'Publish', exact: true }).click();
  await instructor.getByText('Version 1 is out').waitFor();
});

test('a wrong answer is told its slip, a right one is right', async () => {
  student = await stage.windowOf('Tomasz Berg');
  await follow(student, 'Capstan');
  await part('Write it down');
  await typed(student).fill('18/(s^2 + 0.9s + 9)');
  await handIn();
  await student.getByText('It looks as if the factor 2 of 2ζωn is missing.').first().waitFor();
  await typed(student).fill('18/(s^2 + 1.8s + 9)');
  await handIn();
  await student.getByText('The transfer function is right.').first().waitFor();
});

test('a prediction has one try, and its curve follows', async () => {
  await part('Predict');
  await student.getByText('Say first, then see').waitFor();
  expect(await student.locator('[data-curve]').count()).toBe(0);
  await student.getByText('It swings beyond its final value.').click();
  await handIn();
  await student.getByText('That is right.').or(student.getByText('Right.')).first().waitFor();
  await student.locator('[data-curve]').waitFor({ state: 'attached' });
  await student.getByText('All tries are used').waitFor();
});

test('a trend table waits for every cell', async () => {
  await part('Up, down or the same');
  await student.getByText('2 cells are still open.').waitFor();
  expect(await student.getByRole('button', { name: 'Hand in' }).isDisabled()).toBe(true);
  for (const row of ['Rise time', 'Overshoot']) {
    await student
      .getByRole('radiogroup', { name: new RegExp(row) })
      .getByRole('radio', { name: 'stays' })
      .check({ force: true });
  }
  await handIn();
  await student.getByText('2 of 2 points').waitFor();
});

test('a model is made to follow, by ladder and keys', async () => {
  await part('Make it follow');
  await student.getByRole('textbox', { name: 'K, typed' }).fill('1.5');
  await student.getByRole('textbox', { name: 'T, typed' }).fill('0.65');
  await student.getByRole('button', { name: 'T down by 0.05' }).click();
  await student.locator('[data-nail][data-met=true]').waitFor();
  await handIn();
  await student.getByText('3 of 3 points').waitFor();
});

test('readings stand on the curve and move by keys; measures and families are drawn on demand', async () => {
  await part('Tune');
  const plot = student.getByRole('group', { name: /^Position after a step/ });
  await plot.click({ position: { x: 200, y: 120 } });
  await plot.click({ position: { x: 320, y: 120 } });
  const readings = student.getByRole('slider', { name: 'Reading on the curve' });
  expect(await readings.count()).toBe(2);
  const before = await readings.first().getAttribute('aria-valuetext');
  await readings.first().press('Shift+ArrowRight');
  expect(await readings.first().getAttribute('aria-valuetext')).not.toBe(before);
  await readings.first().press('Delete');
  expect(await readings.count()).toBe(1);
  await student.getByRole('button', { name: 'Measures' }).click();
  await student.getByText('90 %', { exact: true }).waitFor();
  await student.getByLabel('Family over a gain or parameter').selectOption('family over Kp');
  expect(await student.locator('[data-curve^=family]').count()).toBe(4);
  await student.getByLabel('Signal shown').selectOption('error');
  await student.getByText('Error, reference minus measured').waitFor();
});

test('a stop is named and pinned, and stays so after a reload', async () => {
  await student.getByLabel('Signal shown').selectOption('output');
  await student.getByRole('textbox', { name: 'Kp, typed' }).fill('6');
  await student.getByText(/^\d+ now$/).waitFor();
  await student
    .getByRole('textbox', { name: /^Name of stop/ })
    .last()
    .fill('bold');
  await student
    .getByRole('textbox', { name: /^Name of stop/ })
    .last()
    .press('Enter');
  const pin = student.getByRole('checkbox', { name: /^Pin stop/ }).last();
  await stored(student, () => pin.check());
  await student.reload();
  await part('Tune');
  expect(
    await student
      .getByRole('textbox', { name: /^Name of stop/ })
      .last()
      .inputValue(),
  ).toBe('bold');
  expect(
    await student
      .getByRole('checkbox', { name: /^Pin stop/ })
      .last()
      .isChecked(),
  ).toBe(true);
});
