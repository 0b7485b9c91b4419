/** @jest-environment jsdom */
import { QueryClient } from '@tanstack/react-query';
import { askEarly, takeEarly } from '../src/api/early';
import { begin, refusal, server } from './fakeServer';

beforeEach(begin);

const path = '/exercises/e/bench';
const signedIn = (person: unknown) => ({ status: 200, body: { csrfToken: 't', person } });
const ada = { id: 'ada', name: 'Ada', email: 'ada@harbour.example' };

describe('what the first view needs', () => {
  test('is asked for by the one whose page it is, and taken once', async () => {
    server.answer = (asked) => (asked === '/api/session' ? signedIn(ada) : { status: 200, body: { title: 'Crane' } });
    await askEarly(new QueryClient(), path);
    expect(server.sent.map(({ path: asked, whose }) => [asked, whose])).toEqual([
      ['/api/session', undefined],
      [`/api${path}`, 'ada'],
    ]);
    expect([takeEarly(path), takeEarly(path)]).toEqual([{ title: 'Crane' }, undefined]);
  });

  test('is not asked for while nobody is signed in', async () => {
    server.answer = () => signedIn(null);
    await askEarly(new QueryClient(), path);
    expect([server.sent.length, takeEarly(path)]).toEqual([1, undefined]);
  });

  test('is left to the view when it is refused', async () => {
    server.answer = (asked) => (asked === '/api/session' ? signedIn(ada) : refusal(404, 'notFound'));
    await askEarly(new QueryClient(), path);
    expect(takeEarly(path)).toBeUndefined();
  });
});
