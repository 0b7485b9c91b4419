import type { QuantityName } from './names.js';
import type { Quantity } from './quantity.js';

const response = { source: 'response', usualRelation: 'atMost' } as const;
const time = { ...response, unit: 's', excess: 's too late', lack: 's too early' } as const;
const percent = {
  ...response,
  unit: '%',
  excess: 'percentage points too high',
  lack: 'percentage points too low',
} as const;
const level = { ...response, unit: '', excess: 'too high', lack: 'too low' } as const;

/** What is read off the response to a step. */
export const stepQuantities = {
  overshootPercent: {
    ...percent,
    label: 'Overshoot',
    short: 'Overshoot',
    definition: 'How far the highest point lies beyond the final value, in % of the final value; 0 if never beyond.',
    usualLimit: 10,
    read: ({ measures }) => measures.overshootPercent,
  },
  undershootPercent: {
    ...percent,
    label: 'Undershoot',
    short: 'Undershoot',
    definition: 'How far the response goes the wrong way first, in % of the final value.',
    usualLimit: 20,
    read: ({ measures }) => measures.undershootPercent,
  },
  riseTime: {
    ...time,
    label: 'Rise time, 10–90 %',
    short: 'Rise time',
    definition: 'First time at 90 % of the final value minus first time at 10 % of it.',
    excess: 's too slow',
    lack: 's too fast',
    usualLimit: 0.5,
    read: ({ measures }) => measures.riseTime,
  },
  riseTimeFull: {
    ...time,
    label: 'Rise time, 0–100 %',
    short: 'Rise time to 100 %',
    definition: 'First time at the final value; there is none when it is never reached.',
    excess: 's too slow',
    lack: 's too fast',
    usualLimit: 0.8,
    read: ({ measures }) => measures.riseTimeFull,
  },
  delayTime: {
    ...time,
    label: 'Delay time',
    short: 'Delay time',
    definition: 'First time at half the final value.',
    usualLimit: 0.3,
    read: ({ measures }) => measures.delayTime,
  },
  time63: {
    ...time,
    label: 'Time to 63 %',
    short: 'Time to 63 %',
    definition: 'First time at 63.2 % of the final value; the time constant of a first-order system.',
    usualLimit: 0.5,
    read: ({ measures }) => measures.time63,
  },
  settlingTime: {
    ...time,
    label: 'Settling, 2 %',
    short: 'Settling time',
    definition: 'Earliest time after which the response stays within 2 % of its final value.',
    usualLimit: 2,
    read: ({ measures }) => measures.settlingTime,
  },
  settlingTime5: {
    ...time,
    label: 'Settling, 5 %',
    short: 'Settling time to 5 %',
    definition: 'Earliest time after which the response stays within 5 % of its final value.',
    usualLimit: 1.5,
    read: ({ measures }) => measures.settlingTime5,
  },
  peakTime: {
    ...time,
    label: 'Peak time',
    short: 'Peak time',
    definition: 'Time of the highest point beyond the final value; there is none without overshoot.',
    usualLimit: 1,
    read: ({ measures }) => measures.peakTime,
  },
  peakValue: {
    ...level,
    label: 'Peak value',
    short: 'Peak',
    definition: 'The highest point beyond the final value; there is none without overshoot.',
    usualLimit: 1.2,
    read: ({ measures }) => measures.peakValue,
  },
  finalValue: {
    ...level,
    label: 'Final value',
    short: 'Final value',
    definition: 'Where the response to a unit step comes to rest.',
    usualRelation: 'atLeast',
    usualLimit: 0.9,
    read: ({ measures }) => measures.finalValue,
  },
  largestMagnitude: {
    ...level,
    label: 'Largest value',
    short: 'Largest value',
    definition: 'The largest value of the response, without sign; infinite when it starts with an impulse.',
    usualLimit: 10,
    read: ({ stable, largest }) => (stable ? largest : null),
  },
} satisfies Partial<Record<QuantityName, Quantity>>;
