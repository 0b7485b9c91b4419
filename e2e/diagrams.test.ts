import type { Page } from 'playwright-core';
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

const shape = (page: Page, name: string) => page.getByRole('button', { name, exact: true });
const equations = () => instructor.getByRole('textbox', { name: /^Signal equations/ });
const addPart = async (kind: string) => {
  await instructor.getByRole('button', { name: 'Add a part' }).click();
  await instructor.getByRole('menuitem', { name: kind }).click();
};
const handIn = () => student.getByRole('button', { name: 'Hand in' }).click();

/** Chooses a part of the picture by keyboard and makes a gesture by its key. */
async function gesture(part: string, key: string, ...values: string[]): Promise<void> {
  await shape(instructor, part).focus();
  await instructor.keyboard.press('Enter');
  await instructor.keyboard.press(key);
  for (const [k, value] of values.entries()) {
    if (k > 0) await instructor.keyboard.press('Tab');
    const active = instructor.locator(':focus');
    if (await active.evaluate((element) => element.tagName === 'SELECT')) await active.selectOption(value);
    else await active.fill(value);
  }
  if (values.length > 0) await instructor.getByRole('button', { name: 'Do it' }).click();
}

test('a diagram is built by gestures only, by keyboard', async () => {
  await instructor.getByRole('button', { name: 'New exercise' }).click();
  await instructor.getByLabel('Title', { exact: true }).fill('Mooring drive');
  await addPart('diagram, transfer functions');
  await instructor.getByRole('button', { name: 'Draw the diagram' }).click();
  await instructor.getByLabel('Start from').selectOption('single loop');
  expect(await equations().inputValue()).toBe('e = r - y\nu = C*e\ny = G*u');
  await shape(instructor, 'Block C: takes e, gives u').focus();
  await instructor.keyboard.press('Enter');
  await shape(instructor, 'Block G: takes u, gives y').focus();
  await instructor.keyboard.press('Shift+Enter');
  await instructor.keyboard.press('g');
  await instructor.locator(':focus').fill('L');
  await instructor.keyboard.press('Enter');
  await shape(instructor, 'Block L: takes e, gives y').waitFor();
  expect(await equations().inputValue()).toMatch(/^e = r - y\ny = L\*e/);
  await instructor.keyboard.press('Control+z');
  await shape(instructor, 'Block C: takes e, gives u').waitFor();
  await gesture('Line y to the sum for e', 'B', 'H');
  await gesture('Line u to block G', 'I', 'd', '+');
  await gesture('Block C: takes e, gives u', 'E', 'Kc');
  await gesture('Line r to the sum for e', 'B', 'F');
  await gesture('Output y', 'N', 'x');
  expect(await equations().inputValue()).toBe('e = F*r - H*x\nu = Kc*e\nx = G*(u + d)');
  await instructor.keyboard.press('Control+z');
  expect(await equations().inputValue()).toBe('e = F*r - H*y\nu = Kc*e\ny = G*(u + d)');
  await shape(instructor, 'Block F: takes r').waitFor();
});

test('a diagram is built by text only, and the picture follows', async () => {
  await equations().fill('e = r - m\nu = C*e\ny = G*(u + d)\nm = H*y');
  await shape(instructor, 'Block H: takes y, gives m').waitFor();
  await equations().fill('e = r - m\nu = C*(e\ny = G*(u + d)\nm = H*y');
  await instructor.getByRole('alert').getByText('Equation 2: A bracket opened here is never closed.').waitFor();
  await equations().fill('e = r - m\nu = C*e\ny = G*(u + d)\nm = H*y');
  await instructor.getByRole('button', { name: 'Paths and loops' }).click();
  await instructor.getByRole('button', { name: 'loop 1' }).focus();
  const paths = instructor.getByRole('group', { name: 'Paths from r to y' });
  expect(await paths.locator('[data-shape=m] rect').last().getAttribute('stroke-width')).toBe('2.2');
  await instructor.getByRole('button', { name: 'Reduction', exact: true }).click();
  await instructor.getByRole('button', { name: 'Next step' }).click();
  await instructor.getByText('1 of 2').waitFor();
  await instructor.getByRole('button', { name: 'Done' }).click();
});

test('it is published with a part to reduce', async () => {
  await addPart('diagram, reduced in steps');
  await instructor.getByRole('button', { name: 'Remove part Tune' }).click();
  await instructor.getByRole('button', { name: 'Remove', exact: true }).click();
  await instructor.getByRole('button', { name: 'Publish version 1' }).click();
  await instructor.getByRole('button', { name: 'Publish', exact: true }).click();
  await instructor.getByText('Version 1 is out').waitFor();
});

test('a wrong sign is recognised and its place marked; the right answer in any order is right', async () => {
  student = await stage.windowOf('Tomasz Berg');
  await follow(student, 'Mooring drive');
  const field = student.getByRole('textbox', { name: /^From r to y/ });
  await field.fill('C*G/(1 - C*G*H)');
  await handIn();
  await student.getByText('As if the feedback at the first sum were added.').waitFor();
  expect(await student.locator('[data-shape=e] circle').getAttribute('stroke')).toBe('var(--color-brick)');
  await field.fill('G*C/(H*G*C + 1)');
  await handIn();
  await student.getByText('y/r is right.').waitFor();
});

test('the diagram is reduced to one block, each result typed', async () => {
  await student.getByRole('button', { name: /Reduce it/ }).click();
  const make = async (parts: string[], move: string | RegExp, gain: string) => {
    for (const part of parts) await shape(student, part).click();
    await student.getByRole('region', { name: 'Moves' }).getByRole('button', { name: move }).click();
    await student.getByRole('textbox', { name: 'What does it give?' }).fill(gain);
    await student.getByRole('button', { name: 'Make the step' }).click();
  };
  // The other input is zero, so its sum is a line.
  await make(['Block C: takes e, gives u', 'Block G: takes u, gives y'], /^Series/, 'C*G');
  await make(['Block C*G: takes e, gives y'], /^Loop/, 'C*G/(1 + C*G*H)');
  await student.getByText('One block is left').waitFor();
  await handIn();
  await student.getByText('4 of 4 points').waitFor();
});

test('the class sheet shows the steps', async () => {
  await instructor.getByRole('link', { name: 'Class sheet' }).click();
  await instructor.getByRole('button', { name: /^Tomasz Berg, Reduce it/ }).click();
  await instructor.getByRole('region', { name: 'Answer of Tomasz Berg' }).getByText(/^loop/).waitFor();
});
