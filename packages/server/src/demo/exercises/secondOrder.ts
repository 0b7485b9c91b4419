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

/** Three systems that differ only in ζ: say first, then see. */
export const threeTables: ExerciseDocument = {
  ...rules,
  title: 'Three lamp tables, one guess',
  solution: 'onceDone',
  statement: [
    'Three turntables differ only in their damping. Each gets the same step of the drive voltage:',
    '',
    '$$G(s) = \\frac{ {{wn^2}} }{s^2 + 2\\zeta\\cdot {{wn}}\\,s + {{wn^2}} }$$',
    '',
    'Table A has $\\zeta = {{za}}$, table B $\\zeta = {{zb}}$, table C $\\zeta = -{{zc}}$. Say first what happens; the curves follow your answer.',
  ].join('\n'),
  parameters: [
    { symbol: 'wn', meaning: 'natural frequency', unit: 'rad/s', draw: { kind: 'range', from: 2, to: 4, step: 0.5 } },
    { symbol: 'za', meaning: 'damping of table A', unit: '', draw: { kind: 'list', values: [0.2, 0.25, 0.3] } },
    { symbol: 'zb', meaning: 'damping of table B', unit: '', draw: { kind: 'list', values: [1.2, 1.4, 1.6] } },
    {
      symbol: 'zc',
      meaning: 'damping of table C, turned round',
      unit: '',
      draw: { kind: 'list', values: [0.05, 0.08] },
    },
  ],
  systems: [
    {
      name: 'A',
      meaning: 'table A',
      form: { kind: 'secondOrder', gain: '1', dampingRatio: 'za', naturalFrequency: 'wn' },
    },
    {
      name: 'B',
      meaning: 'table B',
      form: { kind: 'secondOrder', gain: '1', dampingRatio: 'zb', naturalFrequency: 'wn' },
    },
    {
      name: 'C',
      meaning: 'table C',
      form: { kind: 'secondOrder', gain: '1', dampingRatio: '-zc', naturalFrequency: 'wn' },
    },
  ],
  guards: ['overshootPercent(A) >= 30', 'stable(B)'],
  parts: [
    {
      id: 'swings',
      kind: 'choice',
      title: 'Which one swings and comes to rest?',
      prompt: 'One of the three passes its final angle, swings back and settles.',
      points: 2,
      several: false,
      options: [
        { id: 'a', text: 'Table A', right: 'overshootPercent(A) > 5' },
        { id: 'b', text: 'Table B', right: 'overshootPercent(B) > 5', remark: 'With ζ above 1 nothing swings.' },
        { id: 'c', text: 'Table C', right: 'overshootPercent(C) > 5', remark: 'It swings, and never comes to rest.' },
      ],
      figure: {
        horizon: 8,
        curves: [
          { label: 'A', system: 'A', afterwards: true },
          { label: 'B', system: 'B', afterwards: true },
          { label: 'C', system: 'C', afterwards: true },
        ],
      },
    },
    {
      id: 'damped',
      kind: 'number',
      title: 'How fast does A swing?',
      prompt: 'The frequency with which table A swings.',
      points: 2,
      formula: 'dampedFrequency(A)',
      unit: 'rad/s',
      tolerancePercent: 1.5,
    },
    {
      id: 'slow',
      kind: 'number',
      title: 'How long does B take?',
      prompt: 'Settling time of table B, to 2 %. Its two poles are real.',
      points: 3,
      formula: 'settlingTime(B)',
      unit: 's',
      tolerancePercent: 4,
    },
  ],
};
