import { useCallback, useEffect } from 'react';
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
  return useCallback(() => history.back(), []);
}
