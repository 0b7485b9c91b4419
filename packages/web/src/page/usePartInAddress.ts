import { useCallback, useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';

/** The part that an address names, as in `?part=tune`. */
export function usePartAsked(): string | undefined {
  return useSearchParams()[0].get('part') ?? undefined;
}

/** Keeps the open part in the address once another is opened, so that a reload and a link come back to it. */
export function usePartInAddress(open: string): void {
  const [asked, ask] = useSearchParams();
  const [first] = useState(open);
  const set = useCallback(
    () =>
      ask((old) => new URLSearchParams([...old].filter(([name]) => name !== 'part').concat([['part', open]])), {
        replace: true,
      }),
    [ask, open],
  );
  const stands = asked.get('part') ?? first;
  useEffect(() => {
    if (open !== stands) set();
  }, [open, stands, set]);
}
