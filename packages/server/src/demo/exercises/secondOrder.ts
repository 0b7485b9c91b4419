import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/** Second order from its three numbers; predict, then see. */
export const lampTurntable: ExerciseDocument = {
  ...rules,
  title: 'Lighthouse lamp, first swing',
  solution: 'onceDone',
  statement: [
    'The lamp of the harbour light turns on a sprung table. After a step of the drive voltage it swings to its new angle as a second-order system with',
    '',
    '- gain $K = {{K}}$ degrees per volt,',
    '- damping ratio $\\zeta = {{zeta}}$,',
    '- natural frequency $\\omega_n = {{wn}}$ rad/s.',
    '',
    'Work on paper first. The curve appears once all three are done.',
  ].join('\n'),
  parameters: [
    { symbol: 'K', meaning: 'gain', unit: '°/V', draw: { kind: 'range', from: 1.2, to: 3, step: 0.2 } },
    { symbol: 'zeta', meaning: 'damping ratio', unit: '', draw: { kind: 'range', from: 0.25, to: 0.65, step: 0.05 } },
    { symbol: 'wn', meaning: 'natural frequency', unit: 'rad/s', draw: { kind: 'range', from: 1.5, to: 4, step: 0.5 } },
  ],
  systems: [
    {
      name: 'G',
      meaning: 'drive voltage to lamp angle',
      form: { kind: 'secondOrder', gain: 'K', dampingRatio: 'zeta', naturalFrequency: 'wn' },
    },
  ],
  parts: [
    {
      id: 'model',
      kind: 'transferFunction',
      title: 'Write it down',
      prompt: 'The transfer function from drive voltage to lamp angle.',
      points: 4,
      expected: 'G',
      tolerancePercent: 1,
    },
    {
      id: 'overshoot',
      kind: 'number',
      title: 'Predict the overshoot',
      prompt: 'How far does the lamp swing beyond its final angle, in per cent of it?',
      points: 3,
      formula: 'overshootPercent(G)',
      unit: '%',
      tolerancePercent: 3,
      hints: [
        { text: 'It depends on the damping ratio alone.', cost: 0 },
        { text: 'The damping ratio stands in the middle coefficient below: $2\\zeta\\omega_n$.', cost: 0.5 },
      ],
    },
    {
      id: 'peak',
      kind: 'number',
      title: 'Predict the peak time',
      prompt: 'When is it there, in seconds after the step?',
      points: 3,
      formula: 'peakTime(G)',
      unit: 's',
      tolerancePercent: 3,
    },
  ],
};

/** The same poles, with and without a zero on the right: say first, then see. */
export const twoTables: ExerciseDocument = {
  ...rules,
  title: 'Two lamp tables, one guess',
  solution: 'onceDone',
  statement: [
    'Two turntables have the same spring and the same damping. Table A is pushed by its motor; table B is pulled round by its counterweight, which leaves a zero at $s = {{z}}$:',
    '',
    '$$G_A(s) = {{A}}$$',
    '',
    '$$G_B(s) = \\left(1 - \\frac{s}{ {{z}} }\\right) G_A(s)$$',
    '',
    'Both get the same step. Say first what happens; the curves follow your answer.',
  ].join('\n'),
  parameters: [
    { symbol: 'wn', meaning: 'natural frequency', unit: 'rad/s', draw: { kind: 'range', from: 1.8, to: 3, step: 0.3 } },
    { symbol: 'zeta', meaning: 'damping ratio', unit: '', draw: { kind: 'list', values: [0.35, 0.42, 0.48] } },
    { symbol: 'z', meaning: 'place of the zero', unit: 'rad/s', draw: { kind: 'list', values: [1.6, 2.2, 2.8] } },
  ],
  systems: [
    {
      name: 'A',
      meaning: 'table A',
      form: { kind: 'secondOrder', gain: '1', dampingRatio: 'zeta', naturalFrequency: 'wn' },
    },
    { name: 'B', meaning: 'table B', form: { kind: 'expression', text: '(1 - s/z)*A' } },
  ],
  guards: ['undershootPercent(B) >= 15'],
  parts: [
    {
      id: 'dips',
      kind: 'choice',
      title: 'Which one turns the wrong way first?',
      prompt: 'Before it turns to its new angle.',
      points: 2,
      several: false,
      options: [
        { id: 'a', text: 'Table A', right: 'undershootPercent(A) > 5', remark: 'It has no zero: it sets off at once.' },
        { id: 'b', text: 'Table B', right: 'undershootPercent(B) > 5' },
        {
          id: 'none',
          text: 'Neither, as their poles are the same',
          right: false,
          remark: 'The poles say how it swings, the zero how it sets off.',
        },
      ],
      figure: {
        horizon: 6,
        curves: [
          { label: 'A', system: 'A', afterwards: true },
          { label: 'B', system: 'B', afterwards: true },
        ],
      },
    },
    {
      id: 'damped',
      kind: 'number',
      title: 'How fast do they swing?',
      prompt: 'The frequency with which both tables swing.',
      points: 2,
      formula: 'dampedFrequency(B)',
      unit: 'rad/s',
      tolerancePercent: 1.5,
    },
    {
      id: 'further',
      kind: 'number',
      title: 'How far does A swing?',
      prompt: 'The overshoot of table A. B goes further: look when you are done.',
      points: 3,
      formula: 'overshootPercent(A)',
      unit: '%',
      tolerancePercent: 4,
    },
  ],
};
