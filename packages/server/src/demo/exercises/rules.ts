import type { ExerciseDocument } from '@nailset/core';

/** What the demo's exercises have in common. */
export const rules = {
  format: 2,
  systems: [],
  guards: [],
  series: [],
  pictures: [],
  attempts: 5,
  verdict: 'atOnce',
  shows: { measured: true, slip: true },
  late: null,
} as const satisfies Partial<ExerciseDocument>;
