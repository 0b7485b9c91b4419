import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import path from 'node:path';
import { chromium } from 'playwright-core';
import { chromiumPath, home, installChromium, installPostgres } from '../launcher/install.mjs';
import { freePort, PrivatePostgres } from '../launcher/postgres.mjs';

/**
 * The demo in headless Chromium, for as long as `work` takes.
 * @param {(open: (who: string) => Promise<import('playwright-core').Page>, browser: import('playwright-core').Browser, url: string) => Promise<void>} work
 */
export async function withDemo(work) {
  await installPostgres();
  await installChromium();
  const scratch = mkdtempSync('/tmp/nailset-bench-');
  chmodSync(scratch, 0o755);
  const postgres = new PrivatePostgres(scratch, { settings: ['fsync=off'] });
  await postgres.create();
  await postgres.start();
  await postgres.createDatabase('bench');
  const port = await freePort(4500);
  const server = spawn(process.execPath, [path.join(home, 'packages/server/dist/run/main.js')], {
    env: {
      ...process.env,
      DATABASE_URL: postgres.url('bench'),
      NAILSET_PORT: String(port),
      NAILSET_DEMO: '1',
      NAILSET_LOG_LEVEL: 'silent',
    },
    stdio: 'ignore',
  });
  const browser = await chromium.launch({
    executablePath: chromiumPath(),
    args: [
      '--headless',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
    ],
  });
  try {
    const url = `http://127.0.0.1:${port}`;
    while (
      !(await fetch(`${url}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      ))
    ) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    await work(
      async (who) => {
        const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
        const page = await context.newPage();
        await page.goto(url);
        await page.getByRole('button', { name: new RegExp(who) }).click();
        await page.locator('header').waitFor();
        return page;
      },
      browser,
      url,
    );
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await postgres.stop();
    rmSync(scratch, { recursive: true, force: true });
  }
}
