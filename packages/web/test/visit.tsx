import type { Session } from '@nailset/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { begin, refusal, server } from './fakeServer';

type Role = 'instructor' | 'assistant' | 'student';

/** What the server answers, by the end of the path, and by method where it matters: `POST /hints`. */
export type Answers = Record<string, unknown>;

/** A view at its address, for someone with a role in the course “Harbour machinery”. */
export function visit(at: string, route: string, view: ReactElement, role: Role, answers: Answers): void {
  begin();
  const session: Session = {
    ...{
      csrfToken: 't',
      demo: [],
      mail: false,
      person: { id: 'me', name: 'Marit Solano', email: 'marit@harbour.example' },
    },
    memberships: [{ courseId: 'c', course: 'Harbour machinery', role, archived: false }],
  };
  server.answer = (path) => {
    const method = server.sent.at(-1)?.method ?? 'GET';
    if (path.endsWith('/session') && method === 'GET') return { status: 200, body: session };
    const found = Object.entries(answers).find(([ask]) => {
      const [verb, end] = ask.includes(' ') ? ask.split(' ') : ['GET', ask];
      return verb === method && path.endsWith(end!);
    });
    if (!found) return { status: 200, body: {} };
    const [, body] = found;
    return body instanceof Error ? refusal(409, body.message) : { status: 200, body };
  };
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path={route} element={view} />
          <Route path="*" element={<p>Somewhere else</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

/** What was sent with a method, oldest first. */
export const sentBy = (method: string) => server.sent.filter((each) => each.method === method);
