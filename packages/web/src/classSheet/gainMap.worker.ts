import { type DrawValues, type GainsPart, modelOf, Problem, type Settings } from '@nailset/core';
import { type GainMap, gainMapAt } from '@nailset/core/checks';
import type { Given } from './flock';

/** A question to the worker: the map of a part around one student's answer. */
export interface GainMapRequest {
  readonly part: GainsPart;
  readonly given: Given;
  readonly values: DrawValues;
  readonly settings: Settings;
}

export type GainMapMessage = { map: GainMap } | { problem: string };

/** Several hundred loops are checked off the page's thread. */
self.onmessage = ({ data: { part, given, values, settings } }: MessageEvent<GainMapRequest>) => {
  const say = (message: GainMapMessage): void => self.postMessage(message);
  try {
    say({ map: gainMapAt(part, modelOf(given, values), settings) });
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    say({ problem: error.message });
  }
};
