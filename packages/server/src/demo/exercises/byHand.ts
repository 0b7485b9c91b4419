import type { ExerciseDocument, NumberPart } from '@nailset/core';
import { rules } from './rules.js';

const common = { ...rules, solution: 'onceDone' } as const satisfies Partial<ExerciseDocument>;

/** A number asked for, within two per cent. */
const number = (id: string, title: string, prompt: string, formula: string, unit: string, points = 2): NumberPart => ({
  ...{ id, kind: 'number', title, prompt, formula, unit, points },
  tolerancePercent: unit === '' && /branches|unstablePoles|encirclements/.test(formula) ? 0 : 2,
});

const arm = '(s + c)/(s*(s^2 + 2*s + 5))';

/** A complex pair of poles: in which direction branches leave, and where they end. */
export const gangwayArm: ExerciseDocument = {
  ...common,
  title: 'Gangway arm, angles',
  statement:
    'The gangway swings lightly damped. Its open loop is\n\n$$K\\,L(s) = \\frac{K\\,(s+{{c}})}{s\\,(s^2+2s+5)}$$',
  parameters: [
    { symbol: 'c', meaning: 'sensor corner', unit: 'rad/s', draw: { kind: 'range', from: 2, to: 6, step: 1 } },
  ],
  parts: [
    {
      ...{ id: 'poles', kind: 'points', title: 'Where branches start', prompt: 'Mark the poles of $L$.' },
      ...{ points: 2, of: arm, what: 'poles', tolerancePercent: 5 },
    },
    number(
      'angle',
      'Departure',
      'In which direction does the branch leave the upper pole?',
      `departureAngle(${arm})`,
      '°',
    ),
    number('centroid', 'Centroid', 'Where do the asymptotes meet?', `centroid(${arm})`, 'rad/s'),
  ],
};

const ferry = '(s + 2)/(s*(s - b))';

/** An unstable plant: from which gain on the loop is stable, and what the encirclements say. */
export const ferryFins: ExerciseDocument = {
  ...common,
  title: 'Ferry fins, stable from where?',
  statement:
    'Without fins the ferry rolls over. With them the open loop is\n\n$$K\\,L(s) = \\frac{K\\,(s+2)}{s\\,(s-{{b}})}$$',
  parameters: [
    { symbol: 'b', meaning: 'tilting rate', unit: '1/s', draw: { kind: 'range', from: 0.5, to: 2, step: 0.5 } },
  ],
  parts: [
    number(
      'open',
      'Unstable poles',
      'How many poles of $L$ lie in the right half-plane?',
      `unstablePoles(${ferry})`,
      '',
      1,
    ),
    {
      ...{ id: 'stable', kind: 'range', title: 'Stable gains', points: 2, tolerancePercent: 2 },
      prompt: 'With which $K > 0$ is the closed loop stable?',
      of: ferry,
    },
    number(
      'crossing',
      'Crossing',
      'At which frequency do branches cross the axis?',
      `crossingFrequency(${ferry})`,
      'rad/s',
    ),
    {
      ...{ id: 'turns', kind: 'choice', title: 'Encirclements', points: 1, several: false },
      prompt: 'With twice that gain, how often does $L(j\\omega)$ go round $-1$?',
      options: [
        {
          id: 'a',
          text: 'not at all',
          right: `encirclements(4*b*${ferry}) >= 0`,
          remark: 'Then the open loop’s unstable pole would stay.',
        },
        { id: 'b', text: 'once, counter-clockwise', right: `encirclements(4*b*${ferry}) < 0` },
      ],
    },
  ],
};

const sluice = 'K*exp(-T*s)/(s*(2*s + 1))';

/** Dead time takes phase and nothing else. */
export const tideSluice: ExerciseDocument = {
  ...common,
  title: 'Tide sluice, late by a pipe',
  statement:
    'The level of the basin answers the sluice after a dead time:\n\n$$L(s) = \\frac{ {{K}}\\,e^{-{{T}}s}}{s\\,(2s+1)}$$',
  parameters: [
    { symbol: 'K', meaning: 'loop gain', unit: '1/s', draw: { kind: 'range', from: 0.2, to: 0.4, step: 0.05 } },
    { symbol: 'T', meaning: 'dead time', unit: 's', draw: { kind: 'range', from: 0.4, to: 0.8, step: 0.1 } },
  ],
  parts: [
    number('crossover', 'Crossover', 'At which frequency is $|L| = 1$?', `gainCrossover(${sluice})`, 'rad/s'),
    number('margin', 'Phase margin', 'How large is the phase margin?', `phaseMargin(${sluice})`, '°'),
    number('delay', 'Delay margin', 'How much more dead time does the loop bear?', `delayMargin(${sluice})`, 's'),
    {
      id: 'calm',
      kind: 'gains',
      title: 'Calm it down',
      prompt: 'Set a gain $C$ in front of $L$, or add a lead, until the nails hold.',
      plant: sluice,
      controller: {
        ...{ terms: 'compensator', form: 'corners', largestRatio: 10, proper: true },
        gains: [
          { name: 'K', start: 2, fine: 0.05, coarse: 0.5, low: 0.05, high: 5 },
          { name: 'z1', start: -0.6, fine: 0.02, coarse: 0.2, low: -5, high: -0.05, optional: true },
          { name: 'p1', start: -5, fine: 0.1, coarse: 1, low: -40, high: -0.05, optional: true },
        ],
      },
      output: 'Level, m',
      horizon: 30,
      views: ['bode', 'nyquist'],
      nails: [
        { id: 'phase', quantity: 'phaseMargin', relation: 'atLeast', limit: 50, points: 1 },
        { id: 'delay', quantity: 'delayMargin', relation: 'atLeast', limit: 2, points: 1 },
        { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 1 },
      ],
    },
  ],
};

/** A lag for accuracy: slow corners, a ramp followed closely, the margin kept. */
export const pilotLift: ExerciseDocument = {
  ...common,
  solution: 'never',
  title: 'Pilot lift, follow the swell',
  statement: 'The lift follows the swell, a ramp for as long as it matters:\n\n$$G(s) = \\frac{ {{k}} }{s\\,(s+2)}$$',
  parameters: [{ symbol: 'k', meaning: 'lift gain', unit: 'm/s²', draw: { kind: 'range', from: 2, to: 4, step: 0.5 } }],
  parts: [
    {
      id: 'lag',
      kind: 'gains',
      title: 'A lag',
      prompt: 'Add a lag near the origin: the error on the ramp falls, and the margin stays.',
      plant: 'k/(s*(s + 2))',
      controller: {
        ...{ terms: 'compensator', form: 'factors', largestRatio: 20, proper: true },
        gains: [
          { name: 'K', start: 1, fine: 0.05, coarse: 0.5, low: 0, high: 4 },
          { name: 'z1', start: -0.1, fine: 0.01, coarse: 0.1, low: -0.5, high: -0.02, optional: true },
          { name: 'p1', start: -0.01, fine: 0.001, coarse: 0.01, low: -0.1, high: -0.002, optional: true },
        ],
      },
      output: 'Height, m',
      input: { kind: 'ramp', at: 0, amplitude: 1 },
      horizon: 8,
      views: ['locus', 'bode'],
      nails: [
        { id: 'ramp', quantity: 'rampError', relation: 'atMost', limit: 0.1, points: 1 },
        { id: 'margin', quantity: 'phaseMargin', relation: 'atLeast', limit: 50, points: 1 },
      ],
    },
  ],
};

/** The gain for a property, read off the locus. */
export const bollardArm: ExerciseDocument = {
  ...common,
  title: 'Bollard arm, which gain?',
  statement: 'The arm that lays the rope over the bollard has the open loop\n\n$$K\\,L(s) = \\frac{K}{s\\,(s+{{a}})}$$',
  parameters: [
    { symbol: 'a', meaning: 'joint corner', unit: 'rad/s', draw: { kind: 'range', from: 2, to: 6, step: 0.5 } },
  ],
  parts: [
    number('double', 'Two equal poles', 'Which $K$ gives two equal poles?', 'breakGain(1/(s*(s + a)))', ''),
    number('damped', 'Well damped', 'Which $K$ gives $\\zeta = 0.7$?', 'gainForDamping(1/(s*(s + a)), 0.7)', ''),
    {
      ...number(
        'quick',
        'Quick and calm',
        'Give a $K$ with which the step response overshoots by 10 % at most.',
        'gainForDamping(1/(s*(s + a)), 0.65)',
        '',
      ),
      condition: {
        symbol: 'x',
        holds: 'overshootPercent(closed(x/(s*(s + a)))) <= 10',
      },
    },
  ],
};
