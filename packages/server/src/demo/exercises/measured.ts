import type { ExerciseDocument } from '@nailset/core';
import { rules } from './rules.js';

/**
 * A crane boom that was shaken at its foot: what the sensor at its tip gave, with the scatter of a test on the quay.
 * A dip, where the boom stands still while its foot shakes, and a resonance beyond it.
 */
function shaken(): { omegas: number[]; magnitudesDb: number[]; phasesDegrees: number[] } {
  const omegas = Array.from({ length: 41 }, (_, k) => Number((0.2 * 10 ** (k / 16)).toPrecision(3)));
  const pair = (omega: number, corner: number, damping: number) => {
    const [re, im] = [1 - (omega / corner) ** 2, (2 * damping * omega) / corner];
    return { db: 20 * Math.log10(Math.hypot(re, im)), degrees: (180 / Math.PI) * Math.atan2(im, re) };
  };
  const at = (omega: number) => {
    const [dip, peak] = [pair(omega, 2.6, 0.09), pair(omega, 7.4, 0.11)];
    return { db: 20 * Math.log10(1.6) - peak.db + dip.db, degrees: dip.degrees - peak.degrees };
  };
  const scatter = (k: number): number => Math.sin(12.9 * k + 1) + Math.sin(7.1 * k);
  return {
    omegas,
    magnitudesDb: omegas.map((omega, k) => Number((at(omega).db + 0.12 * scatter(k)).toFixed(2))),
    phasesDegrees: omegas.map((omega, k) => Number((at(omega).degrees + 0.8 * scatter(k + 50)).toFixed(1))),
  };
}

/** A model built to measured points. */
export const shakenBoom: ExerciseDocument = {
  ...rules,
  title: 'Crane boom, a model to a shaking test',
  solution: 'afterDue',
  statement: [
    'The foot of a crane boom was shaken at one frequency after another; the dots are what a sensor at its tip gave.',
    '',
    'At one frequency the tip hardly moves, at another it swings most. Build a model that follows.',
  ].join('\n'),
  parameters: [],
  parts: [
    {
      id: 'boom',
      kind: 'bode',
      title: 'Build the model',
      prompt: 'Where does it stand still, where does it swing most? Then the level between. Refine at the end.',
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
      prompt: 'One of these is the step response of the boom’s foot, $G(s) = 6.25/(s^2 + 0.7 s + 6.25)$.',
      points: 2,
      several: false,
      options: (
        [
          ['a', '6.25/(s^2 + 0.7*s + 6.25)', true],
          ['b', '6.25/(s^2 + 2.6*s + 6.25)', 'This swing dies out in one turn: its damping is 0.52, not 0.14.'],
          ['c', '1/(s^2 + 0.28*s + 1)', 'The damping fits, but it swings more slowly.'],
          ['d', '6.25*(1 - 0.4*s)/(s^2 + 0.7*s + 6.25)', 'This one starts the wrong way: it has a zero on the right.'],
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
      target: { system: '4.5*(1 + s/30)/(s*(1 + s/1.6))', from: 0.08, to: 250 },
      terms: ['origin', 'poles', 'zeros'],
      misfitDb: 0.5,
      misfitDegrees: 4,
    },
  ],
};
