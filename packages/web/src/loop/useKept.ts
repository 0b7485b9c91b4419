import { type Dispatch, type SetStateAction, useEffect, useState } from 'react';

/** What views have set and shall find again when they come back. */
export type Kept = Map<string, unknown>;

/** State that outlives its view: as `useState`, but begun with what was kept under this name. */
export function useKept<Of>(kept: Kept, name: string, start: () => Of): [Of, Dispatch<SetStateAction<Of>>] {
  const [value, setValue] = useState<Of>(() => (kept.has(name) ? (kept.get(name) as Of) : start()));
  useEffect(() => void kept.set(name, value), [kept, name, value]);
  return [value, setValue];
}

const deepest = 50;

/** What is looked at, kept as well, with the way back to what was looked at before. */
export function useKeptView<Of>(kept: Kept, name: string, start: () => Of) {
  const [{ now }, setViews] = useKept<{ now: Of; past: readonly Of[] }>(kept, name, () => ({
    now: start(),
    past: [],
  }));
  return {
    view: now,
    set: (to: Of) => setViews((old) => ({ now: to, past: [...old.past.slice(1 - deepest), old.now] })),
    back: () => setViews((old) => ({ now: old.past.at(-1) ?? old.now, past: old.past.slice(0, -1) })),
  };
}
