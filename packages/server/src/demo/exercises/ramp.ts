import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/** What each gain does: a table to fill in before anything is tried. */
export const ferryRamp: ExerciseDocument = {
  ...rules,
  title: 'Ferry ramp, which gain does what',
  attempts: 2,
  solution: 'onceDone',
  statement: [
    'A hydraulic drive lowers the ramp onto the ferry. With the controller $C(s) = K_p + K_d\\,s$ and unity feedback it rings and stays a little too high:',
    '',
    '$$G(s) = {{G}}$$',
    '',
    '$K_p = {{Kp}}$, $K_d = {{Kd}}$.',
    '',
    'One gain at a time is raised by half. Say what happens; then see.',
  ].join('\n'),
  parameters: [
    {
      symbol: 'a',
      meaning: 'damping of the drive',
      unit: '1/s',
      draw: { kind: 'range', from: 0.8, to: 1.4, step: 0.2 },
    },
    { symbol: 'Kp', meaning: 'proportional gain', unit: '', draw: { kind: 'list', values: [6, 8, 10] } },
    { symbol: 'Kd', meaning: 'derivative gain', unit: 's', draw: { kind: 'list', values: [0.8, 1] } },
  ],
  systems: [
    {
      name: 'G',
      meaning: 'drive to ramp angle',
      form: { kind: 'coefficients', numerator: ['2'], denominator: ['1', 'a', '2'] },
    },
    { name: 'C', meaning: 'controller', form: { kind: 'expression', text: 'Kp + Kd*s' } },
    { name: 'T', meaning: 'closed loop', form: { kind: 'expression', text: 'closed(C*G)' } },
  ],
  guards: ['overshootPercent(T) >= 15'],
  parts: [
    {
      id: 'table',
      kind: 'trend',
      title: 'Up, down or the same?',
      prompt: 'What happens to each quantity when a gain goes up by half?',
      points: 6,
      changes: [
        { id: 'kp', label: 'Kp up', symbol: 'Kp', factor: 1.5 },
        { id: 'kd', label: 'Kd up', symbol: 'Kd', factor: 1.5 },
      ],
      rows: [
        { id: 'rise', label: 'Rise time', formula: 'riseTime(T)' },
        { id: 'overshoot', label: 'Overshoot', formula: 'overshootPercent(T)' },
        { id: 'offset', label: 'Offset', formula: 'stepError(C*G)' },
      ],
      samePercent: 1,
      figure: {
        horizon: 5,
        curves: [
          { label: 'now', system: 'T', afterwards: false },
          { label: 'Kp up', system: 'closed((1.5*Kp + Kd*s)*G)', afterwards: true },
          { label: 'Kd up', system: 'closed((Kp + 1.5*Kd*s)*G)', afterwards: true },
        ],
      },
    },
  ],
};
