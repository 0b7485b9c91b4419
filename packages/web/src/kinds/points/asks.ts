import type { SeenOf } from '@nailset/core';

/** What is to be marked on the plane. */
export const pointAsks: Record<SeenOf<'points'>['what'], string> = {
  poles: 'Mark the poles.',
  zeros: 'Mark the zeros.',
  breakPoints: 'Mark where branches meet on the real axis.',
  axisCrossings: 'Mark where branches cross the imaginary axis.',
  realAxis: 'Mark the stretches of the real axis that lie on the locus.',
  asymptotes: 'Mark where the asymptotes meet, then a point on each.',
  locus: 'Mark points that lie on the locus.',
};
