import type { ReactNode } from 'react';
import { ApiError } from '../api/client';
import { Button } from '../shared/Button';

/** Shown while something is on its way; waits a moment so that quick answers do not flicker. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-slate opacity-0 [animation:appear_1ms_0.3s_forwards]">
      {what} …
    </p>
  );
}

/** An error in the server's words, with a way on. */
export function ErrorNote({ error, retry }: { error: unknown; retry?: () => void }) {
  const message = error instanceof Error ? error.message : 'Something went wrong.';
  return (
    <div role="alert" className="m-6 max-w-lg border-l-2 border-brick py-1 pl-4">
      <p>{message}</p>
      {error instanceof ApiError && error.request && (
        <p className="mt-1 text-note text-slate">Request {error.request}</p>
      )}
      {retry && !(error instanceof ApiError && error.status === 404) && (
        <Button className="mt-3" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}

/** Nothing here yet, and what to do about it. */
export function Empty({
  title,
  children,
  isPage = false,
}: {
  title: string;
  children?: ReactNode;
  /** Whether it is all that the page says. */
  isPage?: boolean;
}) {
  const Title = isPage ? 'h1' : 'p';
  return (
    <div className="px-5 py-12 text-center">
      <Title className="font-serif text-lg">{title}</Title>
      {children && <div className="mt-2 text-slate">{children}</div>}
    </div>
  );
}

/** One line under a form that says why it was refused. */
export function FormError({ error }: { error: Error | null }) {
  return (
    <p role="alert" className="min-h-5 text-note text-brick">
      {error?.message}
      {error instanceof ApiError && error.request && ` (request ${error.request})`}
    </p>
  );
}
