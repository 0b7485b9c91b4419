import { useState } from 'react';
import type { Frame } from './frame';

/** The frame of a plot, which holds still until someone changes it; the time shown follows its part. */
export function useFrame(tMax: number, start: () => Frame): [Frame, (frame: Frame) => void] {
  const [frame, setFrame] = useState(start);
  if (frame.tMax === tMax) return [frame, setFrame];
  const next = { ...frame, tMax };
  setFrame(next);
  return [next, setFrame];
}
