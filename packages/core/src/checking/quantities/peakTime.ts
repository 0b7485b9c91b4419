import type { Quantity } from './quantity.js';

export const peakTime: Quantity = {
  name: 'peakTime',
  label: 'Peak time',
  short: 'Peak time',
  definition: 'Time of the highest point beyond the final value; there is none without overshoot.',
  unit: 's',
  excess: 's too late',
  lack: 's too early',
  usualRelation: 'atMost',
  usualLimit: 1,
  read: (measures) => measures.peakTime,
};
