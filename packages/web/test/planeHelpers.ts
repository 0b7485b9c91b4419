import { type ControlLoop, fractionOf, parse } from '@nailset/core';
import type { FrequencyResponse } from '../src/frequency/frequencyData';

/** A controller that changes nothing. */
export const unity: ControlLoop['gains'] = { set: {}, pid: null, fraction: fractionOf(parse('1'), new Map()) };

/** The straight lines of a response at a frequency. */
export function asymptoteAt({ asymptote }: FrequencyResponse, omega: number): number {
  const k = Math.max(
    1,
    asymptote.findIndex((corner) => corner.omega >= omega),
  );
  const [a, b] = [asymptote[k - 1]!, asymptote[k]!];
  return a.db + ((b.db - a.db) * Math.log(omega / a.omega)) / Math.log(b.omega / a.omega);
}
