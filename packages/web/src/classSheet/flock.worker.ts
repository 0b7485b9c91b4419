import type { Part } from '@nailset/core';
import { type FlockCurve, flockCurves, type FlockEntry, type Given, horizonOf } from './flock';

/** A question to the worker: the responses of a class to one part. */
export interface FlockRequest {
  readonly part: Part;
  readonly given: Given;
  readonly entries: readonly FlockEntry[];
}

export interface FlockMessage {
  readonly horizon: number;
  readonly curves: readonly FlockCurve[];
}

/** A whole class is computed off the page's thread. */
self.onmessage = ({ data: { part, given, entries } }: MessageEvent<FlockRequest>) => {
  const horizon = horizonOf(part, given, entries);
  const message: FlockMessage = { horizon, curves: flockCurves(part, given, entries, horizon) };
  self.postMessage(message);
};
