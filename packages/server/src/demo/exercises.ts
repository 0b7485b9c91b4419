import type { ExerciseDocument } from '@nailset/core';

const rules = { format: 1, attempts: 5, verdict: 'atOnce' } as const;

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
  parts: [
    {
      id: 'model',
      kind: 'transferFunction',
      title: 'Write it down',
      prompt: 'The transfer function from drive voltage to lamp angle.',
      points: 4,
      expected: 'K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)',
      tolerancePercent: 1,
    },
    {
      id: 'overshoot',
      kind: 'number',
      title: 'Predict the overshoot',
      prompt: 'How far does the lamp swing beyond its final angle, in per cent of it?',
      points: 3,
      quantity: 'overshootPercent',
      system: 'K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)',
      tolerancePercent: 3,
    },
    {
      id: 'peak',
      kind: 'number',
      title: 'Predict the peak time',
      prompt: 'When is it there, in seconds after the step?',
      points: 3,
      quantity: 'peakTime',
      system: 'K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)',
      tolerancePercent: 3,
    },
  ],
};

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
      form: 'PD',
      output: 'Load position, m',
      start: { Kp: 1, Kd: 0 },
      rungs: { Kp: { fine: 0.5, coarse: 5 }, Kd: { fine: 0.1, coarse: 1 } },
      horizon: 4,
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
      form: 'PID',
      output: 'Load position, m',
      start: { Kp: 1, Ki: 0, Kd: 0 },
      rungs: {
        Kp: { fine: 0.5, coarse: 5 },
        Ki: { fine: 0.5, coarse: 2 },
        Kd: { fine: 0.1, coarse: 1 },
      },
      horizon: 4,
      nails: [
        { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
        { id: 'settling', quantity: 'settlingTime', relation: 'atMost', limit: 1.5, points: 2 },
        { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.001, points: 2 },
      ],
    },
  ],
};

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
      form: 'P',
      output: 'Cable paid out, m',
      start: { Kp: 0.1 },
      rungs: { Kp: { fine: 0.02, coarse: 0.1 } },
      horizon: 6,
      nails: [
        { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 15, points: 2 },
        { id: 'peak', quantity: 'peakTime', relation: 'atMost', limit: 2.5, points: 2 },
      ],
    },
  ],
};
