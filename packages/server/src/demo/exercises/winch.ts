import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/** Not published yet, so that the shelf shows a draft. */
export const cableWinch: ExerciseDocument = {
  ...rules,
  title: 'Cable winch, P alone',
  solution: 'afterDue',
  statement: [
    'The winch pays out cable at a rate that follows its motor with a lag:',
    '',
    '$$P(s) = \\frac{4}{s\\,(\\tau s + 1)}, \\qquad \\tau = {{tau}}\\ \\text{s}$$',
    '',
    'Choose $K_p$ alone.',
  ].join('\n'),
  parameters: [
    { symbol: 'tau', meaning: 'motor lag', unit: 's', draw: { kind: 'list', values: [0.2, 0.25, 0.4, 0.5] } },
  ],
  parts: [
    {
      id: 'p',
      kind: 'gains',
      title: 'One gain',
      prompt: 'As fast as the overshoot allows.',
      plant: '4/(s*(tau*s + 1))',
      controller: {
        terms: 'P',
        form: 'parallel',
        gains: [{ name: 'Kp', start: 0.1, fine: 0.02, coarse: 0.1, low: 0, high: 1.2 }],
      },
      output: 'Cable paid out, m',
      horizon: 6,
      views: ['effort', 'plane'],
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 15, points: 2 },
        { id: 'peak', quantity: 'peakTime', relation: 'atMost', limit: 2.5, points: 2 },
      ],
    },
  ],
};

const slowSensor = ['e = r - b', 'u = K*e', 'y = G*(u + d)', 'b = H*y'].join('\n');

/** A loop with a sensor and a load: transfer functions, margins, one gain that keeps both. */
export const winchSensor: ExerciseDocument = {
  ...rules,
  title: 'Winch with a slow sensor',
  solution: 'onceDone',
  statement: [
    'The winch pays out $y$ metres of cable. A counting wheel measures them with a lag, and the load $d$ acts on the drive:',
    '',
    '$$e = r - H\\,y$$',
    '',
    '$$y = G\\,(K\\,e + d)$$',
    '',
    '$$G(s) = {{G}}$$',
    '',
    '$$H(s) = {{H}}$$',
    '',
    'The controller is the gain $K = {{K}}$.',
  ].join('\n'),
  parameters: [
    { symbol: 'K', meaning: 'controller gain', unit: '', draw: { kind: 'range', from: 0.6, to: 1.2, step: 0.1 } },
    { symbol: 'tau', meaning: 'motor lag', unit: 's', draw: { kind: 'list', values: [0.2, 0.25, 0.4] } },
    { symbol: 'ts', meaning: 'sensor lag', unit: 's', draw: { kind: 'list', values: [0.05, 0.1] } },
  ],
  systems: [
    { name: 'G', meaning: 'drive to cable', form: { kind: 'expression', text: '4/(s*(tau*s + 1))' } },
    { name: 'H', meaning: 'counting wheel', form: { kind: 'expression', text: '1/(ts*s + 1)' } },
    { name: 'W', meaning: 'the loop', form: { kind: 'equations', text: slowSensor, from: 'r', to: 'y' } },
  ],
  guards: ['stable(W)', '15 <= phaseMargin(K*G*H) <= 60'],
  parts: [
    {
      id: 'closed',
      kind: 'transferFunction',
      title: 'Reference to cable',
      prompt: 'The transfer function from $r$ to $y$ of the closed loop.',
      points: 3,
      expected: 'closed(K*G, H)',
      tolerancePercent: 1,
    },
    {
      id: 'load',
      kind: 'transferFunction',
      title: 'Load to cable',
      prompt: 'The transfer function from $d$ to $y$, with $r = 0$.',
      points: 3,
      expected: 'y/d',
      tolerancePercent: 1,
    },
    {
      id: 'margin',
      kind: 'number',
      title: 'How far from ringing?',
      prompt: 'The phase margin of this loop.',
      points: 2,
      formula: 'phaseMargin(K*G*H)',
      unit: '°',
      tolerancePercent: 3,
    },
    {
      id: 'gain',
      kind: 'gains',
      title: 'A better gain',
      prompt: 'Find a gain that keeps a margin of 40° and does not let the load pull out too much cable.',
      plant: 'G',
      sensor: 'H',
      controller: {
        terms: 'P',
        form: 'parallel',
        gains: [{ name: 'Kp', start: 0.2, fine: 0.02, coarse: 0.1, low: 0, high: 2 }],
      },
      output: 'Cable paid out, m',
      effort: 'Drive, kN',
      disturbance: { kind: 'levels', from: 0, to: 0.2, at: 5 },
      horizon: 10,
      views: ['effort', 'plane'],
      nails: [
        { id: 'margin', quantity: 'phaseMargin', relation: 'atLeast', limit: 40, points: 2 },
        { id: 'load', quantity: 'finalValue', input: 'd', relation: 'atMost', limit: 0.5, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 4, points: 1 },
      ],
    },
  ],
};
