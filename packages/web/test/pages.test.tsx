/** @jest-environment jsdom */
import type { CoursePeople, Home, Session, Shelf, ShelfRow } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { createMemoryRouter, MemoryRouter, Route, RouterProvider, Routes, useLocation } from 'react-router';
import { letGo } from '../src/api/page';
import { useSession } from '../src/api/queries';
import { newExercise } from '../src/builder/newExercise';
import { CoursePage } from '../src/course/CoursePage';
import { Broken } from '../src/page/Broken';
import { PeoplePage } from '../src/people/PeoplePage';
import { JoinPage } from '../src/signIn/JoinPage';
import { SignInPage } from '../src/signIn/SignInPage';
import { answered } from './page';

/** What the pages asked of the server, and what they are answered by method and path. */
const asked: { ask: string; body: unknown }[] = [];
let replies: Record<string, unknown> = {};
const sent = (which: string) => asked.find(({ ask }) => ask === which)?.body;
const refused = (status: number, message: string) => ({ refused: status, message });

beforeEach(() => {
  asked.length = 0;
  replies = {};
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    const ask = `${method} ${path.replace('/api', '')}`;
    asked.push({ ask, body: body ? JSON.parse(body as string) : undefined });
    const reply = replies[ask] as { refused?: number; message?: string } | undefined;
    if (!reply) throw new Error(`Nobody expected ${ask}.`);
    if (!reply.refused) return answered(200, reply);
    return answered(reply.refused, { error: { code: 'refused', message: reply.message } });
  }) as unknown as typeof fetch;
});

const person = { id: 'p1', name: 'Marit Solano', email: 'marit@harbour.example' };
const session = (role: 'instructor' | 'assistant' | 'student' | null): Session => ({
  csrfToken: 't',
  person: role ? person : null,
  memberships: role ? [{ courseId: 'c1', course: 'Harbour machinery', role, archived: false }] : [],
  demo: [],
  mail: false,
});

/** What is only there for someone signed in. */
const SignedIn = ({ children }: { children: ReactNode }) => (useSession().data ? children : null);

function Place() {
  const { pathname, search } = useLocation();
  return <output aria-label="place">{pathname + search}</output>;
}
function show(at: string, page: ReactNode, path: string) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const place = () => screen.getByLabelText('place').textContent;
  render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path={path} element={page} />
          <Route path="*" element={null} />
        </Routes>
        <Place />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { place };
}

const row = (change: Partial<ShelfRow>): ShelfRow => ({
  ...{
    id: 'e1',
    title: 'Ferry ramp',
    version: 1,
    changed: false,
    visibleFrom: null,
    dueAt: null,
    extensions: 0,
    parts: 2,
    points: 5,
  },
  ...{ students: 24, handedIn: 6, archived: false, wantingLook: 0 },
  ...change,
});

describe('the shelf', () => {
  const open = async (role: 'instructor' | 'assistant', exercises: ShelfRow[]) => {
    const shelf: Shelf = { course: 'Harbour machinery', joinCode: 'QUAY2026', exercises };
    Object.assign(replies, { 'GET /session': session(role), 'GET /courses/c1/shelf': shelf });
    const shown = show(
      '/courses/c1',
      <SignedIn>
        <CoursePage />
      </SignedIn>,
      '/courses/:courseId',
    );
    await screen.findByRole('heading', { name: 'Shelf' });
    return shown;
  };
  const rowOf = (title: string) => within(screen.getByRole('link', { name: title }).closest('tr')!);
  const choose = (name: string, text: string) => {
    const file = new File([text], name, { type: 'application/json' });
    // The file of this page cannot be read otherwise.
    file.text = async () => text;
    return userEvent.upload(screen.getByLabelText('Exercise file'), file);
  };

  test('tells what is published, what was changed since, and what wants a look', async () => {
    await open('instructor', [
      row({ wantingLook: 3 }),
      row({ id: 'e2', title: 'Lock gate', version: null, handedIn: 0 }),
      row({ id: 'e3', title: 'Crane', version: 4, changed: true }),
    ]);
    expect(rowOf('Ferry ramp').getByText('6 of 24')).not.toBeNull();
    expect(rowOf('Ferry ramp').getByText('3')).not.toBeNull();
    expect(rowOf('Lock gate').getByText('Draft')).not.toBeNull();
    expect(rowOf('Lock gate').queryByRole('link', { name: 'Class sheet' })).toBeNull();
    expect(rowOf('Crane').getByText('changed since')).not.toBeNull();
  });

  test('a new exercise begins as one that can be published, in its builder', async () => {
    replies['POST /courses/c1/exercises'] = { id: 'new' };
    const { place } = await open('instructor', []);
    expect(screen.getByText('The shelf is empty.')).not.toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'New exercise' }));
    await waitFor(() => expect(place()).toBe('/exercises/new/build'));
    expect(sent('POST /courses/c1/exercises')).toEqual(JSON.parse(JSON.stringify(newExercise())));
  });

  test('a file is taken in as it is', async () => {
    replies['POST /courses/c1/exercises'] = { id: 'taken' };
    const { place } = await open('instructor', []);
    const document = { ...newExercise(), title: 'From a colleague' };
    await choose('ramp.json', JSON.stringify(document));
    await waitFor(() => expect(place()).toBe('/exercises/taken/build'));
    expect(sent('POST /courses/c1/exercises')).toMatchObject({ title: 'From a colleague' });
  });

  test('a file that is none is named, and nothing is sent', async () => {
    await open('instructor', []);
    await choose('notes.json', 'Dear students');
    expect((await screen.findByText(/notes\.json/)).textContent).toBe(
      '“notes.json” is not an exercise file: its text is not JSON.',
    );
    expect(asked.filter(({ ask }) => ask.startsWith('POST'))).toEqual([]);
  });

  test('what the server finds in a file is said with its name', async () => {
    replies['POST /courses/c1/exercises'] = refused(400, 'The request: must have required property ‘format’.');
    const { place } = await open('instructor', []);
    await choose('half.json', '{"title": "Half"}');
    expect((await screen.findByText(/half\.json/)).textContent).toBe(
      '“half.json” was not taken in. The file: must have required property ‘format’.',
    );
    expect(place()).toBe('/courses/c1');
  });

  test('what was put away comes back', async () => {
    replies['PATCH /exercises/e9'] = { ok: true };
    await open('instructor', [row({}), row({ id: 'e9', title: 'Old winch', archived: true })]);
    expect(screen.getByText('Archived, 1')).not.toBeNull();
    await userEvent.click(screen.getByText('Back on the shelf'));
    expect(asked).toContainEqual({ ask: 'PATCH /exercises/e9', body: { archived: false } });
  });

  test('assistants look, and make nothing', async () => {
    await open('assistant', [row({ archived: true })]);
    expect(screen.queryByRole('button', { name: 'New exercise' })).toBeNull();
    expect(screen.queryByText('Back on the shelf')).toBeNull();
  });
});

test('a student sees how each part stands, not the shelf', async () => {
  const home: Home = {
    course: 'Harbour machinery',
    exercises: [
      {
        ...{ id: 'e1', title: 'Ferry ramp', dueAt: '2020-01-01T12:00:00Z', extended: null, points: 2.5, outOf: 5 },
        parts: [
          { id: 'p', title: 'Tune', state: 'missed' },
          { id: 'p', title: 'Guess', state: 'open' },
        ],
      },
    ],
  };
  Object.assign(replies, { 'GET /session': session('student'), 'GET /courses/c1/home': home });
  show(
    '/courses/c1',
    <SignedIn>
      <CoursePage />
    </SignedIn>,
    '/courses/:courseId',
  );
  const link = await screen.findByRole('link', { name: /Ferry ramp/ });
  expect(link.getAttribute('href')).toBe('/exercises/e1');
  expect(link.textContent).toMatch(/Was due/);
  expect(link.textContent).toMatch(/Tune.*not all met.*Guess.*open/);
  expect(link.textContent).toMatch(/2\.5 of 5 points/);
});

describe('the people of a course', () => {
  const seat = { studentNumber: '', group: '', removed: false, waiting: false };
  const people: CoursePeople = {
    course: 'Harbour machinery',
    joinCode: 'QUAY2026',
    archived: false,
    mail: false,
    people: [
      { ...person, ...seat, role: 'instructor' },
      { id: 'p2', name: 'Bram Ozturk', email: 'bram@harbour.example', ...seat, role: 'student' },
    ],
  };
  const open = async (role: 'instructor' | 'assistant') => {
    Object.assign(replies, { 'GET /session': session(role), 'GET /courses/c1/people': people });
    show(
      '/courses/c1/people',
      <SignedIn>
        <PeoplePage />
      </SignedIn>,
      '/courses/:courseId/people',
    );
    await screen.findByRole('heading', { name: 'People' });
  };

  test('an instructor changes roles, but not their own', async () => {
    replies['PUT /courses/c1/people/p2/role'] = { role: 'assistant' };
    await open('instructor');
    expect(screen.queryByLabelText('Role of Marit Solano')).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('Role of Bram Ozturk'), 'assistant');
    expect(asked.map(({ ask }) => ask)).not.toContain('PUT /courses/c1/people/p2/role');
    await userEvent.click(await screen.findByRole('button', { name: 'Make assistant' }));
    expect(asked.map(({ ask }) => ask)).toContain('PUT /courses/c1/people/p2/role');
  });

  test('a refusal is told', async () => {
    replies['PUT /courses/c1/people/p2/role'] = refused(409, 'A course needs an instructor.');
    await open('instructor');
    await userEvent.selectOptions(screen.getByLabelText('Role of Bram Ozturk'), 'instructor');
    await userEvent.click(await screen.findByRole('button', { name: 'Make instructor' }));
    expect(await screen.findByText('A course needs an instructor.')).not.toBeNull();
  });

  test('others see who is there, and the way in', async () => {
    await open('assistant');
    expect(screen.queryByLabelText('Role of Bram Ozturk')).toBeNull();
    expect(screen.getByText(/\/join\?code=QUAY2026$/)).not.toBeNull();
  });
});

describe('getting in', () => {
  test('a wrong password is told, and what was typed stays', async () => {
    replies['POST /session'] = refused(401, 'E-mail and password do not match.');
    show('/', <SignInPage session={session(null)} />, '/');
    await userEvent.type(screen.getByLabelText('E-mail'), 'marit@harbour.example');
    await userEvent.type(screen.getByLabelText('Password'), 'lighthouse{Enter}');
    expect(await screen.findByText('E-mail and password do not match.')).not.toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>('E-mail').value).toBe('marit@harbour.example');
  });

  test('someone of the demo comes in with one click', async () => {
    replies['POST /session'] = person;
    const demo = [{ name: 'Ilse Okafor', email: 'ilse@harbour.example', role: 'student' as const }];
    show('/', <SignInPage session={{ ...session(null), demo, demoPassword: 'harbour-lights' }} />, '/');
    await userEvent.click(screen.getByRole('button', { name: /Ilse Okafor/ }));
    expect(asked).toContainEqual({
      ask: 'POST /session',
      body: { email: 'ilse@harbour.example', password: 'harbour-lights' },
    });
  });

  test('an invitation’s code is filled in, and goes with the new account', async () => {
    Object.assign(replies, { 'GET /session': session(null), 'POST /people': person });
    show('/join?code=QUAY2026', <JoinPage />, '/join');
    const code = await screen.findByLabelText('Course code');
    expect(code).toHaveProperty('value', 'QUAY2026');
    await userEvent.type(screen.getByLabelText('Name'), 'Ada Brandt');
    await userEvent.type(screen.getByLabelText('E-mail'), 'ada@harbour.example');
    await userEvent.type(screen.getByLabelText('Password'), 'ten letters{Enter}');
    expect(asked.find(({ ask }) => ask === 'POST /people')!.body).toEqual({
      ...{ name: 'Ada Brandt', email: 'ada@harbour.example', password: 'ten letters', joinCode: 'QUAY2026' },
    });
  });

  test('an account without a course sends no code', async () => {
    Object.assign(replies, { 'GET /session': session(null), 'POST /people': person });
    show('/join', <JoinPage />, '/join');
    await userEvent.type(await screen.findByLabelText('Name'), 'Ada Brandt');
    await userEvent.type(screen.getByLabelText('E-mail'), 'ada@harbour.example');
    await userEvent.type(screen.getByLabelText('Password'), 'ten letters{Enter}');
    expect(asked.find(({ ask }) => ask === 'POST /people')!.body).not.toHaveProperty('joinCode');
  });

  test('someone signed in joins by code, and is told when there is no such course', async () => {
    Object.assign(replies, {
      'GET /session': session('student'),
      'POST /memberships': refused(404, 'No course has this code.'),
    });
    const { place } = show('/join', <JoinPage />, '/join');
    await userEvent.type(await screen.findByLabelText('Course code'), 'NOWHERE1{Enter}');
    expect(await screen.findByText('No course has this code.')).not.toBeNull();
    expect(place()).toBe('/join');
    replies['POST /memberships'] = { id: 'c2' };
    await userEvent.click(screen.getByRole('button', { name: 'Join' }));
    await waitFor(() => expect(place()).toBe('/courses/c2'));
  });

  test('who teaches already needs no key for another course', async () => {
    Object.assign(replies, { 'GET /session': session('instructor'), 'POST /courses': { id: 'c3' } });
    const { place } = show('/join', <JoinPage />, '/join');
    await userEvent.type(await screen.findByLabelText('Name of the course'), 'Dry docks');
    expect(screen.queryByLabelText('Course key')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Start it' }));
    await waitFor(() => expect(place()).toBe('/courses/c3'));
    expect(asked.find(({ ask }) => ask === 'POST /courses')!.body).toEqual({ name: 'Dry docks' });
  });
});

test('a view that breaks says so, gives out the work that was not saved, and leaves the rest usable', async () => {
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
  letGo();
  replies['GET /session'] = session('student');
  localStorage.setItem('nailset unsaved p1 v1', '{"work":"1/(s+1)"}');
  localStorage.setItem('nailset unsaved p2 v1', '{"work":"of someone else"}');
  const Bad = (): ReactNode => {
    throw new Error('A shape from an earlier release.');
  };
  const Later = () => (useSession().data ? <Bad /> : null);
  const router = createMemoryRouter([{ errorElement: <Broken />, children: [{ path: '/', element: <Later /> }] }]);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  await screen.findByText('This page cannot be shown.');
  expect(screen.getByLabelText<HTMLTextAreaElement>('Unsaved work').value).toBe('{"work":"1/(s+1)"}');
  expect(screen.getByRole('button', { name: 'Copy the work out' })).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Nailset, home' })).toBeTruthy();
});
