import { type Dispatch, type SetStateAction, useEffect, useState } from 'react';

/** What views have set and shall find again when they come back. */
export type Kept = Map<string, unknown>;

/** State that outlives its view: as `useState`, but begun with what was kept under this name. */
export function useKept<Of>(kept: Kept, name: string, start: () => Of): [Of, Dispatch<SetStateAction<Of>>] {
  const [value, setValue] = useState<Of>(() => (kept.has(name) ? (kept.get(name) as Of) : start()));
  useEffect(() => void kept.set(name, value), [kept, name, value]);
  return [value, setValue];
}
