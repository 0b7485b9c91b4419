import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { desk, follow, openSheet, Stage } from './harness';

const axe = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');

let stage: Stage;
beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());

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

const staff = 'Marit Solano';
const student = 'Kofi Lindqvist';

/** Opens an exercise and waits for its drawing. */
async function diagram(page: Page, name: string): Promise<void> {
  await follow(page, name);
  await page.locator('[data-shape]:visible').first().waitFor();
}

/** The open bench with a sheet of the harbour. */
async function openBench(page: Page): Promise<void> {
  await page.goto('/open');
  await openSheet(page, 'Winch and its controller');
  await page.locator('[data-curve]').first().waitFor();
}

const screens: [name: string, who: string | null, open: (page: Page) => Promise<unknown>][] = [
  ['sign-in', null, (page) => page.goto('/')],
  ['open bench', null, openBench],
  ['a new account', null, (page) => page.goto('/join?code=ABC')],
  ['the student’s home', student, (page) => page.getByRole('heading', { name: 'Harbour machinery' }).waitFor()],
  ['joining', student, (page) => page.goto('/join')],
  ['nowhere', student, (page) => page.goto('/no/such/page')],
  ['someone else’s exercise', student, (page) => page.goto('/exercises/00000000-0000-0000-0000-000000000000')],
  ['the bench for gains', student, (page) => follow(page, 'Crane trolley')],
  ['the bench for a fraction', student, (page) => follow(page, 'Lighthouse lamp')],
  [
    'the bench for a number',
    student,
    async (page) => {
      await follow(page, 'Lighthouse lamp');
      await page.getByRole('button', { name: 'Predict the overshoot' }).click();
      await page.locator('[data-curve=now]').waitFor();
      await page.getByRole('button', { name: 'Show the working' }).first().click();
      await page.getByRole('region', { name: 'Working' }).first().locator('li').first().waitFor();
    },
  ],
  [
    'practice',
    student,
    async (page) => {
      await follow(page, 'Lighthouse lamp');
      await page.getByRole('button', { name: 'Predict the overshoot' }).click();
      await follow(page, 'Practise with other numbers');
      await page.getByRole('textbox', { name: 'Overshoot' }).fill('12');
      await page.getByRole('button', { name: 'Check' }).click();
      await page.getByRole('region', { name: 'So far' }).waitFor();
    },
  ],
  ['the bench for a prediction', student, (page) => follow(page, 'Two lamp tables')],
  ['the bench for a trend table', student, (page) => follow(page, 'Ferry ramp')],
  ['the bench for a curve', student, (page) => follow(page, 'Tide-gauge float')],
  [
    'the bench for a loop with limits',
    student,
    async (page) => {
      await follow(page, 'Lock gate');
      await page.getByRole('button', { name: 'Fill the chamber' }).click();
      await page.getByRole('button', { name: 'Measures' }).click();
    },
  ],
  [
    's-plane and response',
    student,
    async (page) => {
      await follow(page, 'Mooring winch');
      await page.locator('[data-pole]').first().waitFor();
      await page.getByRole('button', { name: 'Read here' }).click();
    },
  ],
  [
    'Bode and Nyquist',
    student,
    async (page) => {
      await follow(page, 'Radar mast');
      await page.getByRole('button', { name: 'Raise the phase' }).click();
      await page.locator('[data-curve=nyquist]').waitFor();
    },
  ],
  [
    'points on the plane',
    student,
    async (page) => {
      await follow(page, 'Slewing crane');
      await page.getByRole('button', { name: 'Crossings' }).click();
      await page
        .getByRole('region', { name: /Crossings/ })
        .getByRole('textbox', { name: /^Or typed/ })
        .waitFor();
    },
  ],
  [
    'a sketch of the real axis',
    student,
    async (page) => {
      await follow(page, 'Slewing crane');
      await page.getByRole('button', { name: 'On the real axis' }).click();
      await page
        .getByRole('checkbox', { name: /^Real axis/ })
        .first()
        .waitFor();
    },
  ],
  [
    'a model over frequency',
    student,
    async (page) => {
      await follow(page, 'Crane boom');
      await page.getByRole('button', { name: 'Build the model' }).click();
      await page.locator('[data-curve=magnitude]').waitFor();
    },
  ],
  [
    'plots to choose from',
    student,
    async (page) => {
      await follow(page, 'Crane boom');
      await page.getByRole('button', { name: 'Which plot is it' }).click();
      await page.locator('[data-line]').first().waitFor();
    },
  ],
  [
    'the range of stable gains',
    student,
    async (page) => {
      await follow(page, 'Ferry fins');
      await page.getByRole('button', { name: 'Stable gains' }).click();
      await page.getByRole('textbox', { name: 'Stable gains' }).waitFor();
    },
  ],
  ['the builder of a model over frequency', staff, (page) => follow(page, 'Crane boom')],
  ['the bench for a diagram', student, (page) => diagram(page, 'Winch drive')],
  [
    'the ledger',
    student,
    async (page) => {
      await diagram(page, 'Tide gauge, step');
      // Kofi has reduced it already.
      await page.getByRole('button', { name: 'The diagram as given' }).click();
      await page.getByRole('button', { name: /^Sum: plus r/ }).click();
      await page
        .getByRole('button', { name: /^Tap before the sum/ })
        .first()
        .waitFor();
    },
  ],
  [
    'a choice of diagrams',
    student,
    async (page) => {
      await diagram(page, 'Ferry ramp, crossing');
      await page.getByRole('button', { name: 'Enlarge' }).first().click();
    },
  ],
  [
    'the diagram workshop',
    staff,
    async (page) => {
      await follow(page, 'Crane hoist');
      await page.getByRole('button', { name: 'Draw the diagram' }).click();
      await page.getByRole('button', { name: /^Block C: takes e/ }).click();
    },
  ],
  [
    'paths and loops',
    staff,
    async (page) => {
      await follow(page, 'Crane hoist');
      await page.getByRole('button', { name: 'Draw the diagram' }).click();
      await page.getByRole('button', { name: 'Paths and loops' }).click();
      await page.locator('[data-shape]:visible').first().waitFor();
    },
  ],
  [
    'the proof',
    staff,
    async (page) => {
      await follow(page, 'Crane trolley');
      await page.getByRole('tab', { name: 'Proof' }).click();
      await page.getByRole('button', { name: 'Prove this part' }).click();
      await page.getByText('Can it be solved').waitFor();
    },
  ],
  [
    'the lectern',
    staff,
    async (page) => {
      await follow(page, 'Mooring winch');
      await page.getByRole('button', { name: 'More' }).click();
      await page.getByRole('menuitem', { name: 'On the lectern' }).click();
      await page.getByRole('button', { name: 'Reveal' }).click();
      await page.locator('[data-curve=now]').waitFor();
    },
  ],
  ['the builder with a compensator', staff, (page) => follow(page, 'Mooring winch')],
  ['the builder with systems', staff, (page) => follow(page, 'Winch with a slow sensor')],
  ['the shelf', staff, (page) => page.getByRole('heading', { name: 'Shelf' }).waitFor()],
  ['people', staff, (page) => follow(page, 'People')],
  ['the builder', staff, (page) => follow(page, 'Crane trolley')],
  [
    'publishing',
    staff,
    async (page) => {
      await follow(page, 'Cable winch');
      await page.getByRole('button', { name: 'Publish version 1' }).click();
    },
  ],
  ['the class sheet', staff, (page) => follow(page, 'Class sheet')],
  [
    'an answer on the class sheet',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: /^Sefa Duarte, Write/ }).click();
      await page.getByRole('region', { name: 'Answer of Sefa Duarte' }).waitFor();
    },
  ],
  [
    'all answers to a part',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'All answers' }).click();
      await page.getByRole('rowheader').first().waitFor();
    },
  ],
  [
    'checking again',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Check again' }).click();
      await page.getByRole('button', { name: 'Check again' }).click();
      await page.getByText('Verdict then').waitFor();
    },
  ],
  [
    'answers from elsewhere',
    staff,
    async (page) => {
      await follow(page, 'Class sheet');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      await page.getByRole('menuitem', { name: 'Answers from elsewhere' }).click();
      await page.getByLabel('The table').waitFor();
    },
  ],
  ['the marks', staff, (page) => follow(page, 'Marks')],
  [
    'how marks are made',
    staff,
    async (page) => {
      await follow(page, 'Marks');
      await page.getByRole('button', { name: 'Weights …' }).click();
    },
  ],
  ['the term', staff, (page) => follow(page, 'Term')],
  ['the log', staff, (page) => follow(page, 'Log')],
  [
    'a list of names',
    staff,
    async (page) => {
      await follow(page, 'People');
      await page.getByRole('button', { name: 'Add from a list …' }).click();
      await page.getByLabel('Paste the list').fill('new.sailor@harbour.example; New Sailor');
      await page.getByRole('button', { name: 'Look at it' }).click();
      await page.getByText('gets an account').waitFor();
    },
  ],
  ['a student’s marks', student, (page) => follow(page, 'Your marks')],
];

/** Views whose colours meet all others’. */
const alsoByNight = new Set([
  ...['sign-in', 'open bench', 'the student’s home', 'the bench for gains', 'the bench for a number'],
  ...['points on the plane', 'the class sheet', 'the builder', 'the marks', 'the term', 'people'],
]);
/** Views that are also opened on the narrowest phone, not only made as narrow. */
const alsoOnPhone = new Set([
  ...['sign-in', 'the student’s home', 'the bench for gains', 'the bench for a number', 'practice'],
  ...['points on the plane', 'a choice of diagrams', 'the shelf', 'the class sheet', 'the builder'],
]);

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
}

beforeEach(() => void stage.complaintsSoFar());

test.each(screens)('%s is clean: at a desk, twice and four times as large, and by night', async (name, who, open) => {
  const page = await windowFor(who, desk);
  await openIn(page, open);
  expect(await violations(page)).toEqual([]);
  expect(await page.locator('h1').count()).toBe(1);
  expect(await page.title()).toMatch(/Nailset/);
  if (alsoByNight.has(name)) {
    await page.emulateMedia({ colorScheme: 'dark' });
    // Colours that fade into each other.
    await page.waitForTimeout(400);
    expect(await violations(page, 'colours')).toEqual([]);
    await page.emulateMedia({ colorScheme: 'light' });
  }
  expect(await overflow(page)).toBe(0);
  await page.setViewportSize(zoomed);
  expect(await overflow(page)).toBe(0);
  await page.setViewportSize(narrow);
  await page.waitForTimeout(300);
  expect(await overflow(page)).toBe(0);
  expect(await violations(page, 'shapes')).toEqual([]);
  const allowed = name === 'someone else’s exercise' ? /404/ : /^$/;
  expect(stage.complaintsSoFar().filter((text) => !allowed.test(text))).toEqual([]);
  await page.keyboard.press('Escape');
});

const onPhone = screens.filter(([name]) => alsoOnPhone.has(name));
test.each(onPhone)('%s is clean, opened on a phone', async (_name, who, open) => {
  const page = await windowFor(who, narrow);
  await openIn(page, open);
  expect(await violations(page)).toEqual([]);
  expect(await overflow(page)).toBe(0);
  expect(stage.complaintsSoFar()).toEqual([]);
  await page.keyboard.press('Escape');
});
