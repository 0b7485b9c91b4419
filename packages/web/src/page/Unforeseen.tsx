import { useEffect, useState } from 'react';

const notLoaded = /dynamically imported module|importing a module script/i;

/** What the page says of an error that nothing else tells: a button must not do nothing in silence. */
export function Unforeseen() {
  const [said, setSaid] = useState('');
  useEffect(() => {
    const say = (error: unknown) => {
      // Browsers report by the same way what is no error of the page’s.
      if (!(error instanceof Error)) return;
      setSaid(
        notLoaded.test(error.message)
          ? 'A piece of this page could not be loaded. Check the network, then load the page again.'
          : `That did not work: ${error.message}`,
      );
    };
    const onError = (event: ErrorEvent) => say(event.error);
    const onRejection = (event: PromiseRejectionEvent) => say(event.reason);
    window.addEventListener('error', onError);
    window.addEventListener('unhandledrejection', onRejection);
    return () => {
      window.removeEventListener('error', onError);
      window.removeEventListener('unhandledrejection', onRejection);
    };
  }, []);
  if (!said) return null;
  return (
    <div
      role="alert"
      className="fixed inset-x-4 bottom-[66px] z-50 mx-auto flex max-w-lg items-start justify-between gap-4 rounded-[3px] border border-brick bg-sheet px-4 py-2.5 print:hidden"
    >
      <span>{said}</span>
      <button type="button" className="link shrink-0" onClick={() => setSaid('')}>
        Close
      </button>
    </div>
  );
}
