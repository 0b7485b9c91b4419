import type { Quantity } from './quantity.js';

export const stepError: Quantity = {
  name: 'stepError',
  label: 'Offset after a step',
  short: 'Offset',
  definition: 'How far the final value stays from a unit step of the reference, without sign.',
  unit: '',
  excess: 'too much',
  lack: 'too little',
  usualRelation: 'atMost',
  usualLimit: 0.01,
  read: ({ finalValue }) => (finalValue === null ? null : Math.abs(1 - finalValue)),
};
