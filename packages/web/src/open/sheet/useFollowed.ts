import { startTransition, useEffect, useState } from 'react';

/** What follows once the hands rest, as letters are painted first; or what goes along at once. */
export function useFollowed<Of>(value: Of, atOnce: boolean): Of {
  const [settled, setSettled] = useState(value);
  if (atOnce && settled !== value) setSettled(value);
  useEffect(() => startTransition(() => setSettled(value)), [value]);
  return atOnce ? value : settled;
}
