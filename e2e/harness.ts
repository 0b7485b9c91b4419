import type { Session } from '@nailset/core';
import { type Browser, chromium, type Page } from 'playwright-core';
import { TestServer } from '../packages/server/test/harness';

export const desk = { width: 1280, height: 800 };
export const phone = { width: 390, height: 844 };

/** The demo on a server and database of its own, with real browsers in front of it. */
export class Stage {
  private readonly complaints: string[] = [];

  private constructor(
    readonly server: TestServer,
    private readonly browser: Browser,
  ) {}

  static async open(): Promise<Stage> {
    const server = await TestServer.start({ NAILSET_DEMO: '1' });
    const browser = await chromium.launch({
      executablePath: process.env['NAILSET_CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    });
    return new Stage(server, browser);
  }

  async close(): Promise<void> {
    await this.browser.close();
    await this.server.end();
  }

  /** A fresh browser window, with nobody signed in. What its console complains about is collected. */
  async window(viewport = desk): Promise<Page> {
    const context = await this.browser.newContext({ viewport, baseURL: this.server.url, locale: 'en-GB' });
    const page = await context.newPage();
    page.setDefaultTimeout(60_000);
    page.on('console', (message) => {
      if (message.type() === 'error' || message.type() === 'warning') this.complaints.push(message.text());
    });
    page.on('pageerror', (error) => this.complaints.push(error.message));
    return page;
  }

  /** A window in which someone of the demo course is signed in. */
  async windowOf(name: string, viewport = desk): Promise<Page> {
    const page = await this.window(viewport);
    const { request } = page.context();
    // By the API: the page for it has tests of its own, and is one more to be drawn before every other test.
    const session = (await (await request.get('/api/session')).json()) as Session;
    const email = session.demo.find((person) => person.name === name)?.email;
    const data = { email, password: session.demoPassword };
    await request.post('/api/session', { headers: { 'x-csrf-token': session.csrfToken }, data });
    await page.goto('/');
    await page.getByRole('button', { name: `Account of ${name}` }).waitFor();
    return page;
  }

  /** What the consoles complained about since the last call. */
  complaintsSoFar(): string[] {
    return this.complaints.splice(0);
  }
}

/** Follows links by their words, one after another. */
export async function follow(page: Page, ...words: (string | RegExp)[]): Promise<void> {
  for (const name of words) await page.getByRole('link', { name }).first().click();
}

/** Opens one of the harbour's sheets on the open bench, or another entry of that menu. */
export async function openSheet(page: Page, title: string): Promise<void> {
  await page.getByRole('button', { name: 'Open', exact: true }).click();
  await page.getByRole('menuitem', { name: title }).click();
}

/** Waits until something holds. @throws Error after a minute. */
export async function until(holds: () => Promise<boolean>): Promise<void> {
  for (let k = 0; k < 600; k++) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('What was waited for did not come to hold.');
}
