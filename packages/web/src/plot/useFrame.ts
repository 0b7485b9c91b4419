import { useState } from 'react';
import type { Frame } from './frame';

interface Held {
  /** The time that the plot is about. */
  readonly of: number;
  readonly frame: Frame;
  readonly past: readonly Frame[];
}

const deepest = 50;

/**
 * The frame of a plot, which holds still until someone changes it, and the way back to the one before. When the time
 * that the plot is about changes, all of it is shown.
 */
export function useFrame(
  tMax: number,
  start: () => Frame,
): [frame: Frame, set: (frame: Frame) => void, back: () => void] {
  const [held, setHeld] = useState((): Held => ({ of: tMax, frame: start(), past: [] }));
  const { yMin, yMax } = held.frame;
  const now: Held = held.of === tMax ? held : { of: tMax, frame: { tMax, yMin, yMax }, past: [] };
  if (now !== held) setHeld(now);
  const set = (frame: Frame) =>
    setHeld((old) => ({ ...old, frame, past: [...old.past.slice(1 - deepest), old.frame] }));
  const back = () => setHeld((old) => ({ ...old, frame: old.past.at(-1) ?? old.frame, past: old.past.slice(0, -1) }));
  return [now.frame, set, back];
}
