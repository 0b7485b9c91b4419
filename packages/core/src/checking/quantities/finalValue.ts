import type { Quantity } from './quantity.js';

export const finalValue: Quantity = {
  name: 'finalValue',
  label: 'Final value',
  short: 'Final value',
  definition: 'Where the response to a unit step comes to rest.',
  unit: '',
  excess: 'too high',
  lack: 'too low',
  usualRelation: 'atLeast',
  usualLimit: 0.9,
  read: (measures) => measures.finalValue,
};
