import isEqual from 'fast-deep-equal';
import { useState } from 'react';

/** The same object for as long as what it says is the same, so that what is worked out from it stays. */
export function useSame<Of>(value: Of): Of {
  const [kept, setKept] = useState(value);
  if (isEqual(kept, value)) return kept;
  setKept(value);
  return value;
}
