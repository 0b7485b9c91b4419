import { useState } from 'react';

/** Axes that stay as they are until someone asks for others. */
export interface Held<Axes> {
  readonly axes: Axes;
  /** Looks at something else. */
  readonly set: (axes: Axes) => void;
  readonly fit: () => void;
  /** To what was looked at before. */
  readonly back: () => void;
}

interface Kept<Axes> {
  readonly axes: Axes;
  readonly past: readonly Axes[];
  readonly isShown: boolean;
  readonly fits: number | string;
}

const deepest = 50;

/** Axes that hold still: made when there is first something to show, and again when someone asks for it. */
export function useHeld<Axes>(isShown: boolean, fits: number | string, make: () => Axes): Held<Axes> {
  const [held, setHeld] = useState((): Kept<Axes> => ({ axes: make(), past: [], isShown, fits }));
  const isFirst = isShown && !held.isShown;
  const now = isFirst || fits !== held.fits ? { axes: make(), past: [], isShown: held.isShown || isShown, fits } : held;
  if (now !== held) setHeld(now);
  const set = (axes: Axes) =>
    setHeld((old) => ({ ...old, axes, past: [...old.past.slice(1 - deepest), old.axes], isShown: true }));
  return {
    ...{ axes: now.axes, set },
    fit: () => set(make()),
    back: () => setHeld((old) => ({ ...old, axes: old.past.at(-1) ?? old.axes, past: old.past.slice(0, -1) })),
  };
}
