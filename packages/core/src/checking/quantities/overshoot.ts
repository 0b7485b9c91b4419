import type { Quantity } from './quantity.js';

export const overshoot: Quantity = {
  name: 'overshootPercent',
  label: 'Overshoot',
  short: 'Overshoot',
  definition: 'How far the highest point lies beyond the final value, in % of the final value; 0 if never beyond.',
  unit: '%',
  excess: 'points too high',
  lack: 'points too low',
  usualRelation: 'atMost',
  usualLimit: 10,
  read: (measures) => measures.overshootPercent,
};
