import type { Part } from '@nailset/core';
import { useMemo } from 'react';
import { useWorker } from '../shared/useWorker';
import type { FlockCurve, FlockEntry, Given } from './flock';
import type { FlockMessage, FlockRequest } from './flock.worker';

export interface Flock {
  readonly part: Part;
  readonly horizon: number;
  readonly curves: readonly FlockCurve[];
}

const start = () => new Worker(new URL('./flock.worker.ts', import.meta.url), { type: 'module' });

/**
 * Everyone's responses to a part, computed in a worker; undefined until they are there, and those from before until
 * there are newer ones. `broken` where none can come.
 */
export function useFlock(part: Part, given: Given, entries: readonly FlockEntry[]): Flock | 'broken' | undefined {
  const { systems, series } = given;
  const asked = useMemo(() => ({ part, given: { systems, series }, entries }), [part, systems, series, entries]);
  const last = useWorker<FlockRequest, FlockMessage>(start, asked);
  return useMemo(() => {
    if (last?.of.part.id !== part.id) return undefined;
    return last.answer ? { part: last.of.part, ...last.answer } : 'broken';
  }, [last, part.id]);
}
