import { startTransition, useEffect, useRef, useState } from 'react';

/** A value once it has stayed the same for a while, in milliseconds; at first the value itself. */
export function useSettled<Of>(value: Of, quiet: number): Of {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), quiet);
    return () => clearTimeout(timer);
  }, [value, quiet]);
  return settled;
}

/** A value that is followed once in so many milliseconds at most: a first change at once, and always the last one. */
export function usePaced<Of>(value: Of, every: number): Of {
  const [paced, setPaced] = useState(value);
  const followed = useRef(-Infinity);
  useEffect(() => {
    const follow = () => {
      followed.current = performance.now();
      startTransition(() => setPaced(value));
    };
    const timer = setTimeout(follow, Math.max(0, followed.current + every - performance.now()));
    return () => clearTimeout(timer);
  }, [value, every]);
  return paced;
}
