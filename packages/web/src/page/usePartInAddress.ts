import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';

/** The part that an address names, as in `?part=tune`. */
export function usePartAsked(): string | undefined {
  return useSearchParams()[0].get('part') ?? undefined;
}

/** Keeps the open part in the address once another is opened, so that a reload and a link come back to it. */
export function usePartInAddress(open: string): void {
  const [asked, ask] = useSearchParams();
  const [first] = useState(open);
  const stands = asked.get('part') ?? first;
  useEffect(() => {
    if (open === stands) return;
    const next = new URLSearchParams(asked);
    next.set('part', open);
    ask(next, { replace: true });
  }, [open, stands, asked, ask]);
}
