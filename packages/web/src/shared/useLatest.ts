import { type RefObject, useCallback, useEffect, useRef } from 'react';

/** A value as it was last drawn, for what runs later: timers, listeners, and callbacks that never change. */
export function useLatest<Of>(value: Of): RefObject<Of> {
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  return latest;
}

/** What is done on an event, as one function that never changes, so that what it is given to can stay as it is. */
export function useSteady<Given extends readonly unknown[]>(work: (...given: Given) => void) {
  const latest = useLatest(work);
  return useCallback((...given: Given) => latest.current(...given), [latest]);
}
