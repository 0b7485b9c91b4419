import type { Quantity } from './quantity.js';

export const riseTime: Quantity = {
  name: 'riseTime',
  label: 'Rise time, 10–90 %',
  short: 'Rise time',
  definition: 'First time at 90 % of the final value minus first time at 10 % of it.',
  unit: 's',
  excess: 's too slow',
  lack: 's too fast',
  usualRelation: 'atMost',
  usualLimit: 0.5,
  read: (measures) => measures.riseTime,
};
