import { must } from '@nailset/core';
import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { ApiError, askAgain } from './api/client';
import { App, opened } from './App';
import { Unforeseen } from './page/Unforeseen';

import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-500.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import '@fontsource/ibm-plex-serif/latin-500.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import 'katex/dist/katex.min.css';
import './styles.css';

// Components that add style sheets at run time need the nonce of the content policy.
setNonce(must(document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')).content);

/** The session has ended: asking who is signed in leads to the sign-in and back to this page. */
const onError = (error: Error): void => {
  if (error instanceof ApiError && error.status === 401) void queries.invalidateQueries({ queryKey: ['session'] });
};

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: {
    queries: { ...askAgain, staleTime: 5_000, networkMode: 'always' },
    // Without a network a request fails at once and says so; the views try again themselves.
    mutations: { retry: false, networkMode: 'always' },
  },
});

void opened(queries).then(() =>
  createRoot(must(document.getElementById('root'))).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
        <Unforeseen />
      </QueryClientProvider>
    </StrictMode>,
  ),
);
