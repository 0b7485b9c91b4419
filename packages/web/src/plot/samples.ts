import type { Curve, Samples } from '@nailset/core';

/** Points that came over the network, as a curve. */
export const curveFrom = ({ times, values }: Pick<Samples, 'times' | 'values'>): Curve => ({
  times: Float64Array.from(times),
  values: Float64Array.from(values),
});
