import { useState } from 'react';

/**
 * Axes that hold still: made when there is first something to show, and again when someone asks for it.
 * Gives back the axes, how to set them, and how to fit them.
 */
export function useHeld<Axes>(
  isShown: boolean,
  fits: number | string,
  make: () => Axes,
): [Axes, (axes: Axes) => void, () => void] {
  const [held, setHeld] = useState(() => ({ axes: make(), isShown, fits }));
  const isFirst = isShown && !held.isShown;
  const now = isFirst || fits !== held.fits ? { axes: make(), isShown: held.isShown || isShown, fits } : held;
  if (now !== held) setHeld(now);
  const set = (axes: Axes) => setHeld({ axes, isShown: true, fits });
  return [now.axes, set, () => set(make())];
}
