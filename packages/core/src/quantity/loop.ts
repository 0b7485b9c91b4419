import { sensitivityPeak } from '../frequency/peaks.js';
import type { QuantityName } from './names.js';
import type { Quantity } from './quantity.js';
import type { Subject } from './subject.js';

const loop = { source: 'loop', unit: '', excess: 'too high', lack: 'too low' } as const;
const error = {
  ...loop,
  excess: 'too much',
  lack: 'too little',
  usualRelation: 'atMost',
  usualLimit: 0.01,
} as const;
const constant = { ...loop, usualRelation: 'atLeast', usualLimit: 10 } as const;
const margin = { ...loop, usualRelation: 'atLeast' } as const;

const withoutSign = (value: number | null): number | null => (value === null ? null : Math.abs(value));

/** The margin that decides: the one nearest to instability, by factor. Infinite when there is none. */
function decidingGain({ margins }: Subject): { omega: number; gain: number } | null {
  if (!margins.closedLoopStable) return null;
  let deciding = { omega: NaN, gain: Infinity };
  for (const margin of margins.gainMargins) {
    if (Math.abs(Math.log(margin.gain)) < Math.abs(Math.log(deciding.gain))) deciding = margin;
  }
  return deciding;
}

function decidingPhase({ margins }: Subject): { omega: number; degrees: number } | null {
  if (!margins.closedLoopStable) return null;
  let deciding = { omega: NaN, degrees: Infinity };
  for (const margin of margins.phaseMargins) {
    if (Math.abs(margin.degrees) < Math.abs(deciding.degrees)) deciding = margin;
  }
  return deciding;
}

const omegaOf = (margin: { omega: number } | null): number | null =>
  margin && Number.isFinite(margin.omega) ? margin.omega : null;

/** What is read off the open loop L, with unity feedback around it. */
export const loopQuantities = {
  stepError: {
    ...error,
    label: 'Offset after a step',
    short: 'Offset',
    definition: 'The error that stays after a unit step of the reference, without sign.',
    read: ({ steadyState }) => withoutSign(steadyState.stepError),
  },
  rampError: {
    ...error,
    label: 'Error on a ramp',
    short: 'Ramp error',
    definition: 'The error that stays while the reference rises by 1 each second, without sign.',
    usualLimit: 0.1,
    read: ({ steadyState }) => withoutSign(steadyState.rampError),
  },
  parabolaError: {
    ...error,
    label: 'Error on a parabola',
    short: 'Parabola error',
    definition: 'The error that stays while the reference is t²/2, without sign.',
    usualLimit: 0.5,
    read: ({ steadyState }) => withoutSign(steadyState.parabolaError),
  },
  positionConstant: {
    ...constant,
    label: 'Position constant',
    short: 'Position constant',
    definition: 'L(s) for s → 0; the offset after a step is 1/(1 + it).',
    read: ({ steadyState }) => steadyState.positionConstant,
  },
  velocityConstant: {
    ...constant,
    label: 'Velocity constant',
    short: 'Velocity constant',
    definition: 's·L(s) for s → 0; the error on a unit ramp is 1/it.',
    unit: '1/s',
    read: ({ steadyState }) => steadyState.velocityConstant,
  },
  accelerationConstant: {
    ...constant,
    label: 'Acceleration constant',
    short: 'Acceleration constant',
    definition: 's²·L(s) for s → 0; the error on a unit parabola is 1/it.',
    unit: '1/s²',
    read: ({ steadyState }) => steadyState.accelerationConstant,
  },
  gainMargin: {
    ...margin,
    label: 'Gain margin',
    short: 'Gain margin',
    definition: 'The factor on the loop gain, nearest to 1, that makes the loop unstable.',
    usualLimit: 2,
    read: (subject) => decidingGain(subject)?.gain ?? null,
  },
  gainMarginDb: {
    ...margin,
    label: 'Gain margin in dB',
    short: 'Gain margin',
    definition: 'The factor on the loop gain, nearest to 1, that makes the loop unstable, in decibels.',
    unit: 'dB',
    excess: 'dB too high',
    lack: 'dB too low',
    usualLimit: 6,
    read(subject) {
      const gain = decidingGain(subject)?.gain;
      return gain === undefined ? null : 20 * Math.log10(gain);
    },
  },
  phaseMargin: {
    ...margin,
    label: 'Phase margin',
    short: 'Phase margin',
    definition: 'The smallest angle between L and −1 where |L| = 1.',
    unit: '°',
    excess: '° too large',
    lack: '° too small',
    usualLimit: 45,
    read: (subject) => decidingPhase(subject)?.degrees ?? null,
  },
  delayMargin: {
    ...margin,
    label: 'Delay margin',
    short: 'Delay margin',
    definition: 'The smallest dead time that makes the loop unstable.',
    unit: 's',
    excess: 's too long',
    lack: 's too short',
    usualLimit: 0.1,
    read: ({ margins }) => margins.delayMargin,
  },
  gainCrossover: {
    ...margin,
    label: 'Gain crossover',
    short: 'Gain crossover',
    definition: 'The frequency at which the phase margin is read: |L| = 1.',
    unit: 'rad/s',
    usualLimit: 5,
    read: (subject) => omegaOf(decidingPhase(subject)),
  },
  phaseCrossover: {
    ...margin,
    label: 'Phase crossover',
    short: 'Phase crossover',
    definition: 'The frequency at which the gain margin is read: L is real and negative.',
    unit: 'rad/s',
    usualLimit: 5,
    read: (subject) => omegaOf(decidingGain(subject)),
  },
  sensitivityPeak: {
    ...loop,
    label: 'Sensitivity peak',
    short: 'Sensitivity peak',
    definition: 'Largest |1/(1 + L)| over all frequencies: 1 over the smallest distance of L from −1.',
    usualRelation: 'atMost',
    usualLimit: 1.7,
    read: ({ open, margins }) => (margins.closedLoopStable ? sensitivityPeak(open).magnitude : null),
  },
} satisfies Partial<Record<QuantityName, Quantity>>;
