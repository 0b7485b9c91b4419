import { bandwidthOf, peakOf } from '../frequency/peaks.js';
import { dcGainOf } from '../response/respond.js';
import type { QuantityName } from './names.js';
import type { Quantity } from './quantity.js';

const system = { source: 'system', unit: '', excess: 'too high', lack: 'too low' } as const;

/** What is read off a system's poles and its frequency response. */
export const systemQuantities = {
  dampingRatio: {
    ...system,
    label: 'Damping ratio',
    short: 'Damping ratio',
    definition: 'Damping ratio ζ of the slowest poles, those with the largest real part.',
    usualRelation: 'atLeast',
    usualLimit: 0.5,
    read: ({ slowest }) => slowest?.dampingRatio ?? null,
  },
  naturalFrequency: {
    ...system,
    label: 'Natural frequency',
    short: 'Natural frequency',
    definition: 'Distance of the slowest poles from the origin.',
    unit: 'rad/s',
    usualRelation: 'atLeast',
    usualLimit: 1,
    read: ({ slowest }) => slowest?.naturalFrequency ?? null,
  },
  dampedFrequency: {
    ...system,
    label: 'Damped frequency',
    short: 'Damped frequency',
    definition: 'Imaginary part of the slowest poles, with which the response swings.',
    unit: 'rad/s',
    usualRelation: 'atLeast',
    usualLimit: 1,
    read: ({ slowest }) => (slowest && slowest.im !== 0 ? Math.abs(slowest.im) : null),
  },
  timeConstant: {
    ...system,
    label: 'Time constant',
    short: 'Time constant',
    definition: 'Time constant of the slowest poles, in which their part falls to 37 %.',
    unit: 's',
    excess: 's too slow',
    lack: 's too fast',
    usualRelation: 'atMost',
    usualLimit: 0.5,
    read: ({ slowest }) => slowest?.timeConstant ?? null,
  },
  slowestRealPart: {
    ...system,
    label: 'Real part, slowest poles',
    short: 'Slowest real part',
    definition: 'The largest real part of the poles: the further left, the faster the response dies out.',
    unit: '1/s',
    usualRelation: 'atMost',
    usualLimit: -1,
    read: ({ slowest }) => slowest?.re ?? null,
  },
  gainAtRest: {
    ...system,
    label: 'Gain at rest',
    short: 'Gain at rest',
    definition: 'Output per input when both are at rest: the value at s = 0.',
    usualRelation: 'atLeast',
    usualLimit: 1,
    read: ({ transfer }) => dcGainOf(transfer),
  },
  bandwidth: {
    ...system,
    label: 'Bandwidth',
    short: 'Bandwidth',
    definition: 'Lowest frequency at which the magnitude has fallen to 1/√2 of its value at rest.',
    unit: 'rad/s',
    usualRelation: 'atLeast',
    usualLimit: 5,
    read: ({ transfer }) => bandwidthOf(transfer),
  },
  resonancePeak: {
    ...system,
    label: 'Resonance peak',
    short: 'Resonance peak',
    definition: 'Largest magnitude over all frequencies, a ratio.',
    usualRelation: 'atMost',
    usualLimit: 1.3,
    read: ({ stable, transfer }) => (stable ? peakOf(transfer).magnitude : null),
  },
} satisfies Partial<Record<QuantityName, Quantity>>;
