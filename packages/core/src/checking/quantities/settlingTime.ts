import type { Quantity } from './quantity.js';

export const settlingTime: Quantity = {
  name: 'settlingTime',
  label: 'Settling, 2 %',
  short: 'Settling time',
  definition: 'Earliest time after which the response stays within 2 % of its final value.',
  unit: 's',
  excess: 's too late',
  lack: 's too early',
  usualRelation: 'atMost',
  usualLimit: 2,
  read: (measures) => measures.settlingTime,
};
