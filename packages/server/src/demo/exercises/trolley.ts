import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

const trolley = 'b/(s^2 + a*s + k)';

/** PD, then PID, until all nails hold. */
export const craneTrolley: ExerciseDocument = {
  ...rules,
  title: 'Crane trolley, hold the load still',
  solution: 'never',
  statement: [
    'The trolley moves a load along the quay. From motor command to load position it behaves as',
    '',
    '$$P(s) = \\frac{b}{s^2 + a\\,s + k}$$',
    '',
    'The loop has unity feedback. Nudge the gains until every nail holds.',
  ].join('\n'),
  parameters: [
    { symbol: 'b', meaning: 'command gain', unit: 'm/s² per kN', draw: { kind: 'range', from: 2.4, to: 4, step: 0.2 } },
    { symbol: 'a', meaning: 'friction', unit: '1/s', draw: { kind: 'range', from: 0.8, to: 1.6, step: 0.1 } },
    { symbol: 'k', meaning: 'rope stiffness', unit: '1/s²', draw: { kind: 'fixed', value: 0.8 } },
  ],
  parts: [
    {
      id: 'pd',
      kind: 'gains',
      title: 'Stop the ringing',
      prompt: 'Raise $K_p$ until it is fast, then $K_d$ until it stops ringing.',
      plant: trolley,
      controller: {
        terms: 'PD',
        form: 'parallel',
        gains: [
          { name: 'Kp', start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
          { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 12 },
        ],
      },
      output: 'Load position, m',
      horizon: 4,
      views: ['plane'],
      nails: [
        { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 1.2, points: 1 },
        { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.05, points: 1 },
      ],
    },
    {
      id: 'pid',
      kind: 'gains',
      title: 'Remove the offset',
      prompt: 'Add $K_i$ so that nothing is left of the offset, and keep the rest.',
      plant: trolley,
      controller: {
        terms: 'PID',
        form: 'parallel',
        filterTime: '0.02',
        gains: [
          { name: 'Kp', start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
          { name: 'Ki', start: 0, fine: 0.5, coarse: 2, low: 0, high: 24 },
          { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 12 },
        ],
      },
      output: 'Load position, m',
      effort: 'Motor command, kN',
      horizon: 4,
      views: ['effort', 'plane'],
      nails: [
        { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 1.5, points: 2 },
        { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.001, points: 2 },
      ],
    },
  ],
};
