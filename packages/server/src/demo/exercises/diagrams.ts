import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

const common = { ...rules, solution: 'onceDone', parameters: [] } as const satisfies Partial<ExerciseDocument>;

/** One loop with a sensor, in letters. */
export const lampLoop: ExerciseDocument = {
  ...common,
  title: 'Lamp drive, one loop',
  statement:
    'The lamp of the lighthouse turns by $y$. A resolver $H$ measures it, the drive $G$ is led by the controller $C$, and the wind $d$ pushes at the drive.',
  systems: [
    {
      name: 'L',
      meaning: 'lamp loop',
      form: { kind: 'equations', text: 'e = r - b\nu = C*e\ny = G*(u + d)\nb = H*y', from: 'r', to: 'y' },
    },
  ],
  parts: [
    {
      id: 'closed',
      kind: 'diagram',
      title: 'Reference and wind',
      prompt: 'Both transfer functions to $y$, each with the other input at zero.',
      system: 'L',
      asked: [
        { id: 'reference', from: 'r', to: 'y', points: 2 },
        { id: 'wind', from: 'd', to: 'y', points: 2 },
      ],
      tolerancePercent: 0,
    },
    {
      id: 'effort',
      kind: 'diagram',
      title: 'What the drive is asked for',
      prompt: 'From the reference $r$ to the effort $u$.',
      system: 'L',
      asked: [{ id: 'effort', from: 'r', to: 'u', points: 2 }],
      tolerancePercent: 0,
    },
  ],
};

/** Two nested loops: loops first, then the whole. */
export const hoistLoops: ExerciseDocument = {
  ...common,
  title: 'Crane hoist, two nested loops',
  statement: 'The hoist has a fast inner loop for its speed $x$ and an outer one for the height $y$ of the load.',
  systems: [
    {
      name: 'N',
      meaning: 'hoist',
      form: { kind: 'equations', text: 'e = r - H2*y\nu = C*e - H1*x\nx = G1*u\ny = G2*x', from: 'r', to: 'y' },
    },
  ],
  parts: [
    {
      id: 'loops',
      kind: 'paths',
      title: 'Find the loops',
      prompt: 'The gain of every loop, with its sign.',
      system: 'N',
      from: 'r',
      to: 'y',
      list: 'loops',
      points: 2,
    },
    {
      id: 'inner',
      kind: 'diagram',
      title: 'Speed, then height',
      prompt: 'From the reference to the speed $x$ and to the height $y$.',
      system: 'N',
      asked: [
        { id: 'speed', from: 'r', to: 'x', points: 2 },
        { id: 'height', from: 'r', to: 'y', points: 2 },
      ],
      tolerancePercent: 0,
    },
  ],
};

/** Loops that cross: no one of them can be closed before the other is moved. */
export const rampLoops: ExerciseDocument = {
  ...common,
  title: 'Ferry ramp, crossing loops',
  statement:
    'Two cylinders lift the ferry ramp one behind the other. The first is guided by the second’s stroke, the second by the height $y$.',
  systems: [
    {
      name: 'X',
      meaning: 'ramp',
      form: {
        kind: 'equations',
        text: 'e1 = r - H1*x2\nx1 = G1*e1\ne2 = x1 - H2*y\nx2 = G2*e2\ny = G3*x2',
        from: 'r',
        to: 'y',
      },
    },
    {
      name: 'A',
      meaning: 'one loop',
      form: { kind: 'equations', text: 'e = r - (H1*G2 + H2)*y\ny = G1*G2*G3*e', from: 'r', to: 'y' },
    },
    {
      name: 'B',
      meaning: 'one loop, the first tap moved behind',
      form: { kind: 'equations', text: 'e = r - H1/G3*y - H2/G1*y\ny = G1*G2*G3*e', from: 'r', to: 'y' },
    },
  ],
  parts: [
    {
      id: 'equal',
      kind: 'choice',
      title: 'Which one is equal?',
      prompt: 'The ramp: ![The ramp with its crossing loops](diagram:X) Which of these has the same $y/r$?',
      points: 1,
      several: false,
      options: [
        {
          id: 'a',
          text: '![One loop with H1 G2 + H2](diagram:A)',
          right: { equal: ['A', 'X'] },
          remark: 'Follow the loop of H1: it does not pass G3.',
        },
        { id: 'b', text: '![One loop with H1/G3 and H2/G1](diagram:B)', right: { equal: ['B', 'X'] } },
      ],
    },
    {
      id: 'overall',
      kind: 'diagram',
      title: 'The whole ramp',
      prompt: 'From the reference to the height.',
      system: 'X',
      asked: [{ id: 'height', from: 'r', to: 'y', points: 3 }],
      tolerancePercent: 0,
    },
  ],
};

/** Numbers, two inputs, and a steady state by superposition. */
export const winchDrive: ExerciseDocument = {
  ...common,
  title: 'Winch drive, cable and load',
  statement: [
    'The motor of the winch turns with the speed $w$. Its current $i$ makes the torque, the cable pulls with $m_L$:',
    '',
    '![The motor drive](diagram:M)',
  ].join('\n'),
  parameters: [
    { symbol: 'R', meaning: 'resistance', unit: 'Ω', draw: { kind: 'list', values: [0.35, 0.45, 0.6] } },
    { symbol: 'kM', meaning: 'torque per current', unit: 'N m/A', draw: { kind: 'list', values: [1.3, 1.8, 2.2] } },
    { symbol: 'J', meaning: 'inertia', unit: 'kg m²', draw: { kind: 'range', from: 3, to: 6, step: 1 } },
    { symbol: 'B', meaning: 'friction', unit: 'N m s', draw: { kind: 'list', values: [0.6, 0.9] } },
  ],
  systems: [
    {
      name: 'M',
      meaning: 'motor drive',
      form: { kind: 'equations', text: 'i = 1/R*(u - kM*w)\nw = 1/(J*s + B)*(kM*i - mL)', from: 'u', to: 'w' },
    },
  ],
  parts: [
    {
      id: 'speed',
      kind: 'diagram',
      title: 'Voltage and load',
      prompt: 'From the voltage $u$ and from the load $m_L$ to the speed, in letters or with your numbers.',
      system: 'M',
      asked: [
        { id: 'voltage', from: 'u', to: 'w', points: 2 },
        { id: 'load', from: 'mL', to: 'w', points: 2 },
      ],
      tolerancePercent: 1,
    },
    {
      id: 'rest',
      kind: 'number',
      title: 'Both at once',
      prompt: 'The speed at rest with $u = 84$ V and a load of $m_L = 35$ N m.',
      points: 2,
      formula: '84*gainAtRest(w/u) + 35*gainAtRest(w/mL)',
      unit: 'rad/s',
      tolerancePercent: 1,
    },
    {
      id: 'states',
      kind: 'states',
      title: 'State form',
      prompt: 'State matrices from $u$ to $w$.',
      points: 2,
      expected: 'M',
      tolerancePercent: 1,
    },
  ],
};

/** From linearised differential equations. */
export const gateEquations: ExerciseDocument = {
  ...common,
  title: 'Lock gate, from its equations',
  statement: [
    'Near its rest the gate with the angle $x$ obeys',
    '',
    '$$J\\,\\ddot x = m - c\\,\\dot x - k\\,x$$',
    '',
    '$$m = K\\,(r - x)$$',
    '',
    'with the drive torque $m$, damping $c$ and the pull $k$ of the water.',
  ].join('\n'),
  systems: [
    {
      name: 'D',
      meaning: 'lock gate',
      form: { kind: 'equations', text: "m = K*(r - x)\nJ*x'' = m - c*x' - k*x", from: 'r', to: 'x' },
    },
  ],
  parts: [
    {
      id: 'gate',
      kind: 'diagram',
      title: 'Reference to angle',
      prompt: 'The transfer function of the loop, and that from the reference to the torque.',
      system: 'D',
      asked: [
        { id: 'angle', from: 'r', to: 'x', points: 3 },
        { id: 'torque', from: 'r', to: 'm', points: 1 },
      ],
      tolerancePercent: 0,
    },
  ],
};

/** Step by step, each result typed. */
export const gaugeSteps: ExerciseDocument = {
  ...common,
  title: 'Tide gauge, step by step',
  statement:
    'The gauge follows the float with a servo. Its own loop $H_1$ calms it, the outer one $H_2$ compares it with the float.',
  systems: [
    {
      name: 'S',
      meaning: 'servo of the gauge',
      form: {
        kind: 'equations',
        text: 'e = r - H2*y\nv = G1*e - H1*w\nw = G2*v\ny = G3*w + F*e',
        from: 'r',
        to: 'y',
      },
    },
  ],
  parts: [
    {
      id: 'steps',
      kind: 'reduction',
      title: 'Reduce it',
      prompt: 'Reduce the diagram to one block. Type what each step gives.',
      system: 'S',
      from: 'r',
      to: 'y',
      typed: 'atOnce',
      points: 4,
    },
    {
      id: 'paths',
      kind: 'paths',
      title: 'The ways forward',
      prompt: 'The gain of every forward path from $r$ to $y$.',
      system: 'S',
      from: 'r',
      to: 'y',
      list: 'forward',
      points: 2,
    },
  ],
};
