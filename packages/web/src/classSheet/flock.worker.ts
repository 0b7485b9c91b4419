import type { Part } from '@nailset/core';
import { flockCurves, type FlockEntry, type Given, horizonOf } from './flock';

/** A whole class is computed off the page's thread. */
self.onmessage = ({ data }: MessageEvent<{ id: number; part: Part; given: Given; entries: FlockEntry[] }>) => {
  const horizon = horizonOf(data.part, data.given, data.entries);
  self.postMessage({ id: data.id, horizon, curves: flockCurves(data.part, data.given, data.entries, horizon) });
};
