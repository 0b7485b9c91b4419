import type { Session } from '@nailset/core';
import type { Begun } from './api/begun';

// Asks who is signed in, and then what the view at this address asks first, while the script that shows it is still on
// the way. A file of its own, which imports nothing: it is there long before the others.

const firstQuestions: readonly [address: RegExp, question: string][] = [
  [/^\/exercises\/([\w-]+)$/, '/exercises/$1/bench'],
  [/^\/exercises\/([\w-]+)\/(?:build|lectern)$/, '/exercises/$1/draft'],
  [/^\/exercises\/([\w-]+)\/class$/, '/exercises/$1/class'],
];

const begun = new Map<string, Begun>();
globalThis.nailsetBegun = begun;

const heard = (response: Response) => ({ response, at: Date.now() });

function ask(path: string, whose: string | undefined): Promise<Response> {
  const answer = fetch(`/api${path}`, { method: 'GET', headers: whose ? { 'x-nailset-person': whose } : {} });
  begun.set(path, { whose, at: Date.now(), answer: answer.then(heard) });
  return answer;
}

async function begin(address: string): Promise<void> {
  const session = await ask('/session', undefined);
  const { person } = (await session.clone().json()) as Session;
  const question = firstQuestions.find(([of]) => of.test(address));
  if (person && question) await ask(address.replace(...question), person.id);
}

// What fails here is asked again, and told, by the view.
begin(location.pathname).catch(() => undefined);
