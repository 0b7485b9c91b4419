import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Header } from './Header';
import { ErrorNote, Loading } from './states';

/** A page that needs one answer of the server: until it is there it says so, and why not if it does not come. */
export function PageOf<T>({
  query,
  what,
  children,
}: {
  query: UseQueryResult<T>;
  what: string;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  return (
    <>
      <Header />
      <main>
        {query.isPending ? (
          <Loading what={what} />
        ) : (
          <>
            <h1 className="sr-only">{what}: not done</h1>
            <ErrorNote error={query.error} retry={() => void query.refetch()} />
          </>
        )}
      </main>
    </>
  );
}
