import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

const hoist = 'k/(s*(s + 1.7)*(s + a))';

/** The gain on the locus, then a lead beside it, with the response in view. */
export const mooringWinch: ExerciseDocument = {
  ...rules,
  title: 'Mooring winch, hold the line',
  solution: 'never',
  statement: [
    'The winch holds the mooring line of a ferry. From motor command to line length it behaves as',
    '',
    '$$G(s) = \\frac{ {{k}} }{s\\,(s+1.7)\\,(s+{{a}})}$$',
    '',
    'Drag the poles along the locus; then add a lead and drag its zero.',
  ].join('\n'),
  parameters: [
    { symbol: 'k', meaning: 'command gain', unit: 'm/s³', draw: { kind: 'range', from: 12, to: 20, step: 1 } },
    { symbol: 'a', meaning: 'drum corner', unit: 'rad/s', draw: { kind: 'range', from: 7, to: 10, step: 0.5 } },
  ],
  parts: [
    {
      id: 'line',
      kind: 'gains',
      title: 'Gain alone',
      prompt: 'Find the gain that keeps the overshoot low and settles in time.',
      plant: hoist,
      controller: {
        terms: 'compensator',
        form: 'factors',
        gains: [{ name: 'K', start: 1, fine: 0.02, coarse: 0.2, low: 0, high: 8 }],
      },
      output: 'Line length, m',
      horizon: 15,
      views: ['locus'],
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 14, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 6, points: 1 },
      ],
    },
    {
      id: 'lead',
      kind: 'gains',
      title: 'With a lead',
      prompt: 'Add a lead, its pole at most twelve times its zero, until all nails hold.',
      plant: hoist,
      controller: {
        terms: 'compensator',
        form: 'factors',
        largestRatio: 12,
        proper: true,
        gains: [
          { name: 'K', start: 1, fine: 0.2, coarse: 2, low: 0, high: 40 },
          { name: 'z1', start: -1, fine: 0.05, coarse: 0.5, low: -5, high: -0.1, optional: true },
          { name: 'p1', start: -8, fine: 0.2, coarse: 2, low: -40, high: -0.1, optional: true },
        ],
      },
      output: 'Line length, m',
      effort: 'Motor command',
      horizon: 6,
      views: ['effort', 'locus', 'bode', 'nyquist'],
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 25, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 2.2, points: 1 },
        { id: 'margin', quantity: 'phaseMargin', relation: 'atLeast', limit: 42, points: 1 },
      ],
    },
  ],
};

const slew = '1/(s*(s + a)*(s + b))';

/** Asymptotes, break point, critical gain and gain for a damping, by hand. */
export const slewingCrane: ExerciseDocument = {
  ...rules,
  title: 'Slewing crane, the locus by hand',
  solution: 'onceDone',
  statement: [
    'The slewing drive of a quay crane has the open loop',
    '',
    '$$K\\,L(s) = \\frac{K}{s\\,(s+{{a}})\\,(s+{{b}})}$$',
    '',
    'Sketch its root locus for $K$ from 0 on.',
  ].join('\n'),
  parameters: [
    { symbol: 'a', meaning: 'motor corner', unit: 'rad/s', draw: { kind: 'range', from: 2, to: 5, step: 1 } },
    { symbol: 'b', meaning: 'gear corner', unit: 'rad/s', draw: { kind: 'range', from: 6, to: 10, step: 1 } },
  ],
  parts: [
    {
      id: 'branches',
      kind: 'number',
      title: 'Branches',
      prompt: 'How many branches has the locus?',
      points: 1,
      formula: `branches(${slew})`,
      unit: '',
      tolerancePercent: 0,
    },
    {
      id: 'axis',
      kind: 'points',
      title: 'On the real axis',
      prompt: 'Which stretches of the real axis lie on the locus?',
      points: 1,
      of: slew,
      what: 'realAxis',
      tolerancePercent: 0,
    },
    {
      id: 'asymptotes',
      kind: 'points',
      title: 'Asymptotes',
      prompt: 'First where they meet, then a point on each.',
      points: 2,
      of: slew,
      what: 'asymptotes',
      tolerancePercent: 3,
      toleranceDegrees: 5,
    },
    {
      id: 'sketch',
      kind: 'points',
      title: 'Points of the locus',
      prompt: 'Mark five points that lie on the locus, off the real axis and well apart. The angle decides.',
      points: 3,
      of: slew,
      what: 'locus',
      offAxis: true,
      count: 5,
      toleranceDegrees: 6,
      tolerancePercent: 0,
    },
    {
      id: 'centroid',
      kind: 'number',
      title: 'Centroid',
      prompt: 'Where do the asymptotes meet?',
      points: 1,
      formula: `centroid(${slew})`,
      unit: 'rad/s',
      tolerancePercent: 1,
    },
    {
      id: 'break',
      kind: 'number',
      title: 'Break point',
      prompt: 'Where do branches leave the real axis?',
      points: 2,
      formula: `breakPoint(${slew})`,
      unit: 'rad/s',
      tolerancePercent: 2,
      hints: [{ text: 'On the real axis $K$ is largest where branches leave it.', cost: 0.5 }],
    },
    {
      id: 'crossing',
      kind: 'points',
      title: 'Crossings',
      prompt: 'Where do branches cross the imaginary axis?',
      points: 2,
      of: slew,
      what: 'axisCrossings',
      tolerancePercent: 5,
    },
    {
      id: 'critical',
      kind: 'number',
      title: 'Critical gain',
      prompt: 'Up to which $K$ is the closed loop stable?',
      points: 2,
      formula: `highestStableGain(${slew})`,
      unit: '',
      tolerancePercent: 2,
      hints: [{ text: 'The Routh array of $s^3 + \\dots + K$ has one entry that can change its sign.', cost: 0.5 }],
    },
    {
      id: 'damping',
      kind: 'number',
      title: 'Gain for a damping',
      prompt: 'Which $K$ gives a pair of poles with $\\zeta = 0.5$?',
      points: 2,
      formula: `gainForDamping(${slew}, 0.5)`,
      unit: '',
      tolerancePercent: 3,
    },
  ],
};

const mast = 'K/(s*(s/2 + 1)*(s/10 + 1))';

/** Margins and what they say, and an unstable plant whose encirclements decide. */
export const radarMast: ExerciseDocument = {
  ...rules,
  title: 'Radar mast, margins',
  solution: 'onceDone',
  statement: [
    'The radar of the pilot station turns with the open loop',
    '',
    '$$L(s) = \\frac{ {{K}} }{s\\,(s/2+1)\\,(s/10+1)}$$',
  ].join('\n'),
  parameters: [{ symbol: 'K', meaning: 'loop gain', unit: '1/s', draw: { kind: 'range', from: 2, to: 5, step: 0.5 } }],
  parts: [
    {
      id: 'gain',
      kind: 'number',
      title: 'Gain margin',
      prompt: 'By how many decibels may the gain rise?',
      points: 2,
      formula: `gainMarginDb(${mast})`,
      unit: 'dB',
      tolerancePercent: 2,
    },
    {
      id: 'phase',
      kind: 'number',
      title: 'Phase margin',
      prompt: 'How large is the phase margin?',
      points: 2,
      formula: `phaseMargin(${mast})`,
      unit: '°',
      tolerancePercent: 2,
    },
    {
      id: 'turns',
      kind: 'number',
      title: 'Encirclements',
      prompt:
        'A crosswind makes the mast unstable: $L = \\frac{ {{K}} }{s-1}$. How often does $L(j\\omega)$ go round $-1$ clockwise, $\\omega$ from $-\\infty$ to $\\infty$?',
      points: 1,
      formula: 'encirclements(K/(s - 1))',
      unit: '',
      tolerancePercent: 0,
    },
    {
      id: 'steady',
      kind: 'gains',
      title: 'Raise the phase',
      prompt: 'Set the gain and the two corners on the Bode plot until the nails hold.',
      plant: mast,
      controller: {
        terms: 'compensator',
        form: 'corners',
        largestRatio: 12,
        proper: true,
        gains: [
          { name: 'K', start: 1, fine: 0.02, coarse: 0.2, low: 0.05, high: 20 },
          { name: 'z1', start: -4, fine: 0.1, coarse: 1, low: -100, high: -0.1 },
          { name: 'p1', start: -5, fine: 0.2, coarse: 2, low: -200, high: -0.1 },
        ],
      },
      output: 'Bearing, °',
      horizon: 6,
      views: ['bode', 'nyquist'],
      nails: [
        { id: 'phase', quantity: 'phaseMargin', relation: 'atLeast', limit: 50, points: 1 },
        { id: 'gain', quantity: 'gainMarginDb', relation: 'atLeast', limit: 10, points: 1 },
        { id: 'bandwidth', quantity: 'gainCrossover', relation: 'atLeast', limit: 2.5, points: 1 },
        { id: 'peak', quantity: 'sensitivityPeak', relation: 'atMost', limit: 1.6, points: 1 },
      ],
    },
  ],
};
