import { useCallback, useEffect, useRef } from 'react';
import { useLatest } from './useLatest';

const isOver = (): boolean => (history.state as { over?: boolean } | null)?.over === true;

/** While something lies over a page, Back closes it and stays on the page. Gives back how to close it otherwise. */
export function useBackCloses(onClose: () => void): () => void {
  const latest = useLatest(onClose);
  useEffect(() => {
    if (!isOver()) history.pushState({ ...(history.state as object | null), over: true }, '');
    const onBack = () => latest.current();
    window.addEventListener('popstate', onBack);
    return () => window.removeEventListener('popstate', onBack);
  }, [latest]);
  const going = useRef(false);
  // Once, however often it is pressed: the second step back would leave the page.
  return useCallback(() => {
    if (!going.current) history.back();
    going.current = true;
  }, []);
}
