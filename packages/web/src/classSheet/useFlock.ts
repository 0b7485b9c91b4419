import { must, type Part } from '@nailset/core';
import { useEffect, useRef, useState } from 'react';
import type { FlockCurve, FlockEntry, Given } from './flock';

export interface Flock {
  readonly part: Part;
  readonly horizon: number;
  readonly curves: readonly FlockCurve[];
}

/** Everyone's responses to a part, computed in a worker; undefined until they are there. */
export function useFlock(part: Part | undefined, given: Given, entries: readonly FlockEntry[]): Flock | undefined {
  const { systems, series } = given;
  const [flock, setFlock] = useState<Flock>();
  const worker = useRef<Worker>(undefined);
  const asked = useRef(0);
  useEffect(() => {
    worker.current = new Worker(new URL('./flock.worker.ts', import.meta.url), { type: 'module' });
    return () => worker.current?.terminate();
  }, []);
  useEffect(() => {
    if (!part) return;
    const id = ++asked.current;
    must(worker.current).onmessage = ({
      data,
    }: MessageEvent<{ id: number; horizon: number; curves: FlockCurve[] }>) => {
      if (data.id === id) setFlock({ part, horizon: data.horizon, curves: data.curves });
    };
    must(worker.current).postMessage({ id, part, given: { systems, series }, entries });
  }, [part, systems, series, entries]);
  return flock?.part.id === part?.id ? flock : undefined;
}
