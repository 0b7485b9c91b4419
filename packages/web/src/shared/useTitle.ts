import { useEffect } from 'react';

/** Name of the browser's tab. */
export function useTitle(title: string): void {
  useEffect(() => {
    document.title = title ? `${title} · Nailset` : 'Nailset';
  }, [title]);
}
