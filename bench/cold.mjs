import { median, row, slowToQuarter } from './figures.mjs';

/** A phone in a lecture hall: a quarter of this processor, 1.6 Mbit/s with 150 ms, nothing cached. */
const network = { offline: false, latency: 150, downloadThroughput: 200_000, uploadThroughput: 100_000 };

/**
 * How long a cold page takes until it can be used.
 * @param {import('playwright-core').Browser} browser
 * @param {string} url
 */
export async function cold(browser, url) {
  console.log('Cold, a quarter of the processor, 1.6 Mbit/s with 150 ms: until the page can be used');
  const [student, teacher] = [await cookiesOf(browser, url, 'Ilse'), await cookiesOf(browser, url, 'Marit')];
  const addressOf = async (/** @type {any[]} */ cookies, /** @type {string} */ title, /** @type {string} */ list) => {
    const asked = { headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') } };
    const { memberships } = await (await fetch(`${url}/api/session`, asked)).json();
    const { exercises } = await (await fetch(`${url}/api/courses/${memberships[0].courseId}/${list}`, asked)).json();
    return exercises.find((/** @type {any} */ each) => each.title.includes(title)).id;
  };
  const trolley = await addressOf(student, 'Crane trolley', 'home');
  const gate = await addressOf(student, 'from its equations', 'home');
  const button = (/** @type {string} */ name) => (/** @type {import('playwright-core').Page} */ page) =>
    page.getByRole('button', { name }).first().waitFor();
  const gains = async (/** @type {import('playwright-core').Page} */ page) => {
    await page.getByRole('textbox', { name: 'Kp, typed' }).waitFor();
    await page.locator('main svg path').first().waitFor({ state: 'attached' });
  };
  const diagram = async (/** @type {import('playwright-core').Page} */ page) => {
    await page.locator('main svg rect').first().waitFor({ state: 'attached' });
  };
  await timed('sign-in', 2, '/', [], button('Sign in'));
  await timed('gains bench', 4, `/exercises/${trolley}`, student, gains);
  await timed('diagram bench with its picture', 6, `/exercises/${gate}`, student, diagram);
  await timed('builder', 5, `/exercises/${trolley}/build`, teacher, (page) =>
    page.getByRole('textbox', { name: 'Title', exact: true }).waitFor(),
  );

  /**
   * @param {string} name @param {number} wanted @param {string} address @param {any[]} cookies
   * @param {(page: import('playwright-core').Page) => Promise<void>} usable
   */
  async function timed(name, wanted, address, cookies, usable) {
    const times = [];
    const rates = [];
    let bytes = 0;
    for (let k = 0; k < 3; k++) {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      await context.addCookies(cookies);
      const page = await context.newPage();
      const session = await context.newCDPSession(page);
      bytes = 0;
      await session.send('Network.enable');
      session.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength));
      await session.send('Network.emulateNetworkConditions', network);
      rates.push(await slowToQuarter(session));
      const from = performance.now();
      await page.goto(url + address, { waitUntil: 'commit' });
      await usable(page);
      times.push((performance.now() - from) / 1000);
      await context.close();
    }
    const middle = median(times);
    const verdict = `${middle <= wanted ? 'within' : 'BEYOND'} ${wanted} s`;
    row(
      name,
      `${middle.toFixed(1)} s`,
      `${(bytes / 1000).toFixed(0)} kB`,
      verdict,
      `slowed ${median(rates).toFixed(1)}`,
    );
  }
}

/** The cookies of someone of the demo. @param {import('playwright-core').Browser} browser @param {string} url @param {string} who */
async function cookiesOf(browser, url, who) {
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(url);
  await page.getByRole('button', { name: new RegExp(who) }).click();
  await page.locator('header').waitFor();
  const cookies = await context.cookies();
  await context.close();
  return cookies;
}
