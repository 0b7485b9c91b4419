import type { Session } from '@nailset/core';
import type { Answered, Begun } from './api/begun';

// Asks who is signed in, and then what the view at this address asks first, while the script that shows it is still on
// the way. A file of its own, which imports nothing: it is there long before the others.

const firstQuestions: readonly [address: RegExp, question: string][] = [
  [/^\/exercises\/([\w-]+)$/, '/exercises/$1/bench'],
  [/^\/exercises\/([\w-]+)\/(?:build|lectern)$/, '/exercises/$1/draft'],
  [/^\/exercises\/([\w-]+)\/class$/, '/exercises/$1/class'],
];

const begun = new Map<string, Begun>();
globalThis.nailsetBegun = begun;

async function ask(path: string, whose?: string): Promise<Answered> {
  const response = await fetch(`/api${path}`, {
    method: 'GET',
    headers: whose ? { 'x-nailset-person': whose } : {},
  });
  return { response, at: Date.now(), whose };
}

/** Asks as whoever is signed in. */
async function askAsPerson(path: string, session: Promise<Answered>): Promise<Answered | undefined> {
  const { response } = await session;
  const { person } = (await response.clone().json()) as Session;
  return person ? ask(path, person.id) : undefined;
}

/** What fails here is told by the view that takes it, or asked again. */
function begin(path: string, answer: Promise<Answered | undefined>): void {
  answer.catch(() => undefined);
  begun.set(path, { at: Date.now(), answer });
}

const session = ask('/session');
const question = firstQuestions.find(([of]) => of.test(location.pathname));
if (question) {
  const path = location.pathname.replace(...question);
  begin(path, askAsPerson(path, session));
}
begin('/session', session);
