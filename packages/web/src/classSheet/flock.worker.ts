import type { Part } from '@nailset/core';
import { type FlockEntry, flockCurves, horizonOf } from './flock';

/** A whole class is computed off the page's thread. */
self.onmessage = ({ data }: MessageEvent<{ id: number; part: Part; entries: FlockEntry[] }>) => {
  const horizon = horizonOf(data.part, data.entries);
  self.postMessage({ id: data.id, horizon, curves: flockCurves(data.part, data.entries, horizon) });
};
