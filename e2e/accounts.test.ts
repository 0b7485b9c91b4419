import { Stage } from './harness';

let stage: Stage;

beforeAll(async () => {
  stage = await Stage.open();
});
afterAll(() => stage.close());

test('a forgotten password: staff make a link, its owner sets a new one, and other browsers are signed out', async () => {
  const before = await stage.windowOf('Ilse Okafor');
  const teacher = await stage.windowOf('Marit Solano');
  await teacher.getByRole('link', { name: 'People' }).click();
  await teacher.getByRole('button', { name: 'New password for Ilse Okafor' }).click();
  await teacher.getByRole('button', { name: 'Make a link' }).click();
  const link = (await teacher.getByText('/new-password#').textContent())!;

  const anywhere = await stage.window();
  await anywhere.goto(link);
  const set = async (password: string) => {
    await anywhere.getByLabel('New password').fill(password);
    await anywhere.getByRole('button', { name: 'Set it and sign in' }).click();
  };
  await set('qwertyuiop12');
  await anywhere.getByText('This password is easy to guess').waitFor();
  await set('ferry at dawn');
  await anywhere.getByRole('button', { name: 'Account of Ilse Okafor' }).waitFor();

  await before.reload();
  await before.getByRole('button', { name: 'Sign in' }).waitFor();
  const again = await stage.window();
  await again.goto(link);
  await again.getByLabel('New password').fill('whale and lantern');
  await again.getByRole('button', { name: 'Set it and sign in' }).click();
  await again.getByText('This link has been used').waitFor();
});

test('one’s own account: the password is changed, and a browser elsewhere is signed out', async () => {
  const here = await stage.windowOf('Tomasz Berg');
  const there = await stage.windowOf('Tomasz Berg');
  await here.goto('/account');
  await here.getByText('this browser').waitFor();
  await here.getByRole('button', { name: /^Sign out Chrome/ }).click();
  await here.getByRole('button', { name: /^Sign out Chrome/ }).waitFor({ state: 'detached' });
  await there.reload();
  await there.getByRole('button', { name: 'Sign in' }).waitFor();

  await here.getByLabel('Present password').fill('harbour-lights');
  await here.getByLabel('New password').fill('ferry at dawn');
  await here.getByRole('button', { name: 'Change it' }).click();
  await here.getByText('Changed.').waitFor();
  await there.getByLabel('E-mail').fill('tomasz.berg@harbour.example');
  await there.getByLabel('Password').fill('ferry at dawn');
  await there.getByRole('button', { name: 'Sign in' }).click();
  await there.getByRole('button', { name: 'Account of Tomasz Berg' }).waitFor();
});

test('what the interface is made of can be read, and the description of the API keeps the strict policy', async () => {
  const page = await stage.windowOf('Bram Ozturk');
  stage.complaintsSoFar();
  await page.goto('/account');
  await page.getByRole('link', { name: 'Licences of what Nailset is made of' }).click();
  await page.getByText('@fontsource/ibm-plex-sans').first().waitFor();
  const answer = await page.goto('/reference');
  expect(answer!.headers()['content-security-policy']).not.toMatch(/unsafe/);
  await page.getByText('Who is signed in here').waitFor();
  // A style that the library would like inline is refused, and nothing is missed; no script is.
  expect(stage.complaintsSoFar().filter((text) => text.includes('script-src'))).toEqual([]);
});
