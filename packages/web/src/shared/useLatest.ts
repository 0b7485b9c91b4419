import { type RefObject, useEffect, useRef } from 'react';

/** A value as it was last drawn, for what runs later: timers, listeners, and callbacks that never change. */
export function useLatest<Of>(value: Of): RefObject<Of> {
  const latest = useRef(value);
  useEffect(() => {
    latest.current = value;
  });
  return latest;
}
