import { useState } from 'react';
import { useRouteError } from 'react-router';
import { pageOwner } from '../api/page';
import { Button } from '../shared/Button';
import { copyText } from '../shared/copyText';
import { forgetAll, unsavedText } from '../shared/keptHere';
import { Mark } from '../shared/Mark';

/** In place of a view that broke: says so, gives out what was typed and not saved, and leads on. */
export function Broken() {
  const error = useRouteError();
  const [whose] = useState(() => pageOwner().person?.id ?? '');
  const [work] = useState(() => unsavedText(whose));
  const [copied, setCopied] = useState(false);
  return (
    <>
      {/* No more than this: what a menu needs may be what cannot be loaded. */}
      <header className="flex min-h-[46px] items-center border-b border-rule px-5 py-1.5">
        <a href="/" className="flex items-center gap-2 font-serif text-[20px] leading-none" aria-label="Nailset, home">
          <Mark />
          Nailset
        </a>
      </header>
      <main className="m-6 max-w-xl">
        <div role="alert" className="border-l-2 border-brick py-1 pl-4">
          <h1 className="font-serif text-lg">This page cannot be shown.</h1>
          <p className="mt-1">Something in it broke; what was handed in is safe. Other pages work as before.</p>
          <p className="mt-1 text-note text-slate">{error instanceof Error ? error.message : String(error)}</p>
        </div>
        {work && (
          <>
            <p className="mt-5 mb-2">Work in this browser that has not reached the server:</p>
            <textarea readOnly aria-label="Unsaved work" className="input h-32 font-mono text-note" value={work} />
          </>
        )}
        <div className="mt-3 flex flex-wrap gap-3">
          {work && (
            <Button onClick={() => void copyText(work).then(setCopied)}>
              {copied ? 'Copied' : 'Copy the work out'}
            </Button>
          )}
          <Button look="strong" onClick={() => window.location.reload()}>
            Open the page again
          </Button>
          {work && (
            <Button
              look="quiet"
              onClick={() => {
                forgetAll(whose);
                window.location.reload();
              }}
            >
              Open it without that work
            </Button>
          )}
        </div>
      </main>
    </>
  );
}
