import { useEffect, useState } from 'react';

/** A value once it has stayed the same for a while, in milliseconds; at first the value itself. */
export function useSettled<Of>(value: Of, quiet: number): Of {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), quiet);
    return () => clearTimeout(timer);
  }, [value, quiet]);
  return settled;
}
