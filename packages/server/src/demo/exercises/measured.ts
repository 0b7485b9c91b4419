import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/**
 * A crane boom that was shaken at its foot: what the sensor at its tip gave, with the scatter of a test on the quay.
 * Level, a first resonance, a pair of zeros beyond it.
 */
function shaken(): { omegas: number[]; magnitudesDb: number[]; phasesDegrees: number[] } {
  const omegas = Array.from({ length: 41 }, (_, k) => Number((0.2 * 10 ** (k / 16)).toPrecision(3)));
  const pair = (omega: number, corner: number, damping: number) => {
    const [re, im] = [1 - (omega / corner) ** 2, (2 * damping * omega) / corner];
    return { db: 20 * Math.log10(Math.hypot(re, im)), degrees: (180 / Math.PI) * Math.atan2(im, re) };
  };
  const at = (omega: number) => {
    const [first, notch] = [pair(omega, 3, 0.12), pair(omega, 9, 0.08)];
    return { db: 20 * Math.log10(2.5) - first.db + notch.db, degrees: notch.degrees - first.degrees };
  };
  const scatter = (k: number): number => Math.sin(12.9 * k + 1) + Math.sin(7.1 * k);
  return {
    omegas,
    magnitudesDb: omegas.map((omega, k) => Number((at(omega).db + 0.12 * scatter(k)).toFixed(2))),
    phasesDegrees: omegas.map((omega, k) => Number((at(omega).degrees + 0.8 * scatter(k + 50)).toFixed(1))),
  };
}

/** A model built to measured points from left to right. */
export const shakenBoom: ExerciseDocument = {
  ...rules,
  title: 'Crane boom, a model to a shaking test',
  solution: 'afterDue',
  statement: [
    'The foot of a crane boom was shaken at one frequency after another; the dots are what a sensor at its tip gave.',
    '',
    'Build a model that follows them, from left to right.',
  ].join('\n'),
  parameters: [],
  parts: [
    {
      id: 'boom',
      kind: 'bode',
      title: 'Build the model',
      prompt: 'First the level, then the resonance, then the dip. Refine at the end.',
      points: 6,
      target: { name: 'boom', ...shaken() },
      terms: ['origin', 'poles', 'zeros', 'polePairs', 'zeroPairs'],
      misfitDb: 0.6,
      misfitDegrees: 4,
      refine: true,
    },
    {
      id: 'which',
      kind: 'choice',
      title: 'Which plot is it?',
      prompt: 'One of these is the step response of the boom’s foot, $G(s) = 9/(s^2 + 0.72 s + 9)$.',
      points: 2,
      several: false,
      options: (
        [
          ['a', '9/(s^2 + 0.72*s + 9)', true],
          ['b', '9/(s^2 + 3*s + 9)', 'This swing dies out in one turn: its damping is 0.5, not 0.12.'],
          ['c', '1/(s^2 + 0.24*s + 1)', 'The damping fits, but it swings three times as slowly.'],
          ['d', '9*(1 - 0.3*s)/(s^2 + 0.72*s + 9)', 'This one starts the wrong way: it has a zero on the right.'],
        ] as const
      ).map(([id, system, remark]) => ({
        ...{ id, text: `Plot ${id.toUpperCase()}`, right: remark === true },
        ...(remark === true ? {} : { remark }),
        plot: { kind: 'step', system },
      })),
    },
    {
      id: 'lamp',
      kind: 'bode',
      title: 'A lamp drive',
      prompt: 'The same for a lamp drive: one integrator, then corners. No refining here.',
      points: 4,
      target: { system: '6*(1 + s/20)/(s*(1 + s/2))', from: 0.1, to: 200 },
      terms: ['origin', 'poles', 'zeros'],
      misfitDb: 0.5,
      misfitDegrees: 4,
    },
  ],
};
