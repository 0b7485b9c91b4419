import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/** A float that was lifted by 1 m and let go into its well: what the recorder wrote, with the flutter of the pen. */
function recorded(): { times: number[]; values: number[] } {
  const times = Array.from({ length: 61 }, (_, k) => k / 2);
  const flutter = (time: number): number => 0.008 * Math.sin(7.3 * time) + 0.006 * Math.sin(17.9 * time + 1);
  const rise = (time: number): number => (time < 1.5 ? 0 : 0.84 * (1 - Math.exp(-(time - 1.5) / 4.2)));
  return { times, values: times.map((time) => Number((rise(time) + flutter(time)).toFixed(3))) };
}

/** A first-order model with dead time made to follow a measured curve. */
export const tideGauge: ExerciseDocument = {
  ...rules,
  title: 'Tide-gauge float, a model to a record',
  solution: 'afterDue',
  statement: [
    'The float of the tide gauge stands in a well that fills through a long pipe. The water outside was raised by 1 m at $t = 0$; the dots are what the recorder wrote.',
    '',
    'Make the model follow:',
    '',
    '$$G(s) = \\frac{K}{T\\,s + 1}\\,e^{-L\\,s}$$',
  ].join('\n'),
  parameters: [],
  series: [{ id: 'record', name: 'recorder', ...recorded() }],
  parts: [
    {
      id: 'model',
      kind: 'curve',
      title: 'Make it follow',
      prompt: 'From left to right: when it starts, how high it ends, how fast it gets there.',
      points: 4,
      model: 'K*exp(-L*s)/(T*s + 1)',
      knobs: [
        { symbol: 'K', unit: 'm', start: 0.5, fine: 0.02, coarse: 0.1, low: 0, high: 3 },
        { symbol: 'T', unit: 's', start: 1, fine: 0.1, coarse: 1, low: 0.1, high: 30 },
        { symbol: 'L', unit: 's', start: 0, fine: 0.1, coarse: 0.5, low: 0, high: 10 },
      ],
      target: { series: 'record' },
      output: 'Float, m',
      horizon: 30,
      misfitPercent: 2,
    },
    {
      id: 'time',
      kind: 'number',
      title: 'When is the float right?',
      prompt: 'A float with $K = 1$, $T = 4$ s and $L = 1.5$ s: how long until it stays within 2 %?',
      points: 2,
      formula: 'settlingTime(exp(-1.5 s)/(4 s + 1))',
      unit: 's',
      tolerancePercent: 2,
    },
  ],
};
