import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act } from '@testing-library/react';
import { type ReactNode, useState } from 'react';
import { letGo } from '../src/api/page';
import { answered } from './page';

type Reply = { status: number; body: unknown; text?: () => Promise<string> } | 'lost';

/** The server as `fetch` sees it: what the page sent, and what it is answered. */
export const server = {
  sent: [] as {
    method: string;
    path: string;
    body: unknown;
    token: string | undefined;
    whose: string | undefined;
  }[],
  date: null as string | null,
  answer: (_path: string): Reply | Promise<Reply> => ({ status: 200, body: {} }),
};

/** Puts it in the place of the network, with nothing sent and nobody's page. */
export function begin(): void {
  server.sent.length = 0;
  server.date = null;
  letGo();
  globalThis.fetch = (async (path: string, { method, body, headers }: RequestInit) => {
    const given = headers as Record<string, string>;
    server.sent.push({
      method: method!,
      path,
      body: body ? JSON.parse(body as string) : undefined,
      token: given['x-csrf-token'],
      whose: given['x-nailset-person'],
    });
    const reply = await server.answer(path);
    if (reply === 'lost') throw new TypeError('Failed to fetch');
    return answered(reply.status, reply.body, server.date, reply.text);
  }) as unknown as typeof fetch;
}

export const refusal = (status: number, code: string) => ({
  status,
  body: { error: { code, message: `It is ${code}.` } },
});

/** What hooks that share their answers are rendered in. */
export function shared() {
  const client = new QueryClient({ defaultOptions: { mutations: { networkMode: 'always' } } });
  return ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
}

export const wrapper = ({ children }: { children: ReactNode }) => {
  const [Wrapper] = useState(() => shared());
  return <Wrapper>{children}</Wrapper>;
};

/** Lets fake time pass. */
export const pass = (milliseconds: number) => act(() => jest.advanceTimersByTimeAsync(milliseconds));
