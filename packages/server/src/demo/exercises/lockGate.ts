import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/** Real loops: dead time, a pump that can only do so much, and a filter. */
export const lockGate: ExerciseDocument = {
  ...rules,
  title: 'Lock gate, a pump with limits',
  solution: 'never',
  late: { hours: 48, keepPercent: 50 },
  statement: [
    'The level in the lock chamber follows its pump with a lag and a dead time:',
    '',
    '$$G(s) = {{G}}$$',
    '',
    'The pump gives at most 3 and at least 0. The controller is in the ideal form',
    '',
    '$$C(s) = K_p\\left(1 + \\frac{1}{T_i\\,s}\\right)$$',
    '',
    'and its integrator does not wind up while the pump is at a limit.',
  ].join('\n'),
  parameters: [
    { symbol: 'T', meaning: 'lag of the chamber', unit: 's', draw: { kind: 'range', from: 11, to: 17, step: 1 } },
    { symbol: 'L', meaning: 'dead time', unit: 's', draw: { kind: 'list', values: [1.2, 1.8, 2.3] } },
  ],
  systems: [
    { name: 'G', meaning: 'pump to level', form: { kind: 'expression', text: '0.7*exp(-L*s)/(T*s + 1)' }, open: true },
  ],
  guards: ['L <= T/4'],
  parts: [
    {
      id: 'wait',
      kind: 'number',
      title: 'Before the loop is closed',
      prompt: 'After a step of the pump: how long until the level has made 63 % of its change?',
      points: 1,
      formula: 'time63(G)',
      unit: 's',
      tolerancePercent: 2,
    },
    {
      id: 'pi',
      kind: 'gains',
      title: 'Fill the chamber',
      prompt: 'No offset, hardly any overshoot, and quick.',
      plant: 'G',
      limits: { low: '0', high: '3', trackingTime: '4' },
      controller: {
        terms: 'PI',
        form: 'ideal',
        gains: [
          { name: 'Kp', start: 1, fine: 0.1, coarse: 1, low: 0, high: 12 },
          { name: 'Ti', start: 40, fine: 0.5, coarse: 5, low: 0.5, high: 90 },
        ],
      },
      output: 'Level, m',
      effort: 'Pump',
      horizon: 80,
      views: ['effort'],
      tunedStart: true,
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 5, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 26, points: 2 },
        { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.005, points: 1 },
        { id: 'margin', quantity: 'delayMargin', relation: 'atLeast', limit: 0.7, points: 1 },
      ],
    },
  ],
};
