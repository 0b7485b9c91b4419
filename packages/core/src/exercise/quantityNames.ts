/** What a nail can limit and a student can be asked for. */
export const quantityNames = [
  'overshootPercent',
  'riseTime',
  'settlingTime',
  'peakTime',
  'stepError',
  'finalValue',
] as const;
export type QuantityName = (typeof quantityNames)[number];
