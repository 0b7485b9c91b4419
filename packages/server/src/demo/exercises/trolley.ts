import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

const trolley = 'b/(s^2 + a*s + k)';

/** Comes after the load has been moved. */
const gust = { kind: 'levels', from: 0, to: 1, at: 3.5 } as const;

/** Damping first, then stiffness against a gust, then an integral that brings the load back. */
export const craneTrolley: ExerciseDocument = {
  ...rules,
  title: 'Crane trolley, hold against the wind',
  solution: 'never',
  statement: [
    'A gust pushes at the load of a quay crane. From motor command to load position the trolley behaves as',
    '',
    '$$P(s) = \\frac{b}{s^2 + a\\,s + k}$$',
    '',
    'and the gust acts where the command does. The loop has unity feedback. Nudge the gains until every nail holds.',
  ].join('\n'),
  parameters: [
    { symbol: 'b', meaning: 'command gain', unit: 'm/s² per kN', draw: { kind: 'range', from: 1.8, to: 3, step: 0.2 } },
    { symbol: 'a', meaning: 'friction', unit: '1/s', draw: { kind: 'range', from: 0.5, to: 0.9, step: 0.05 } },
    { symbol: 'k', meaning: 'rope stiffness', unit: '1/s²', draw: { kind: 'fixed', value: 1.7 } },
  ],
  parts: [
    {
      id: 'pd',
      kind: 'gains',
      title: 'Stand firm',
      prompt: 'Damp the rope with $K_d$ first; then let $K_p$ hold against the gust. Watch what it costs.',
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
      disturbance: gust,
      horizon: 7,
      views: ['plane'],
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 15, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 1.5, points: 1 },
        { id: 'pushed', quantity: 'finalValue', signal: 'y', input: 'd', relation: 'atMost', limit: 0.08, points: 2 },
      ],
    },
    {
      id: 'pid',
      kind: 'gains',
      title: 'Bring it back',
      prompt: 'With $K_i$ the load comes back to its place while the gust lasts. Keep it quick and calm.',
      plant: trolley,
      controller: {
        terms: 'PID',
        form: 'parallel',
        filterTime: '0.02',
        gains: [
          { name: 'Kp', start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
          { name: 'Ki', start: 0, fine: 0.5, coarse: 2, low: 0, high: 40 },
          { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 24 },
        ],
      },
      output: 'Load position, m',
      effort: 'Motor command, kN',
      disturbance: gust,
      horizon: 7,
      views: ['effort', 'plane'],
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 15, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 1.2, points: 1 },
        {
          id: 'push',
          quantity: 'largestMagnitude',
          signal: 'y',
          input: 'd',
          relation: 'atMost',
          limit: 0.06,
          points: 2,
        },
        {
          id: 'away',
          quantity: 'integralAbsolute',
          signal: 'e',
          input: 'd',
          relation: 'atMost',
          limit: 0.09,
          points: 2,
        },
      ],
    },
  ],
};
