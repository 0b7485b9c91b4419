import { type ExerciseDocument, must, type Part } from '@nailset/core';
import { offers } from '../kinds/authors';
import type { About } from '../kinds/kind';

/** Where a new exercise starts: something that works and can be changed. */
export function newExercise(): ExerciseDocument {
  return {
    format: 2,
    title: 'New exercise',
    statement: 'A ferry ramp follows its drive as\n\n$$G(s) = {{G}}$$\n\nwith $a = {{a}}$ and $b = {{b}}$.',
    parameters: [
      { symbol: 'a', meaning: 'friction', unit: '1/s', draw: { kind: 'range', from: 1, to: 2, step: 0.2 } },
      { symbol: 'b', meaning: 'drive gain', unit: '', draw: { kind: 'fixed', value: 3 } },
    ],
    systems: [{ name: 'G', meaning: 'drive to ramp', form: { kind: 'expression', text: 'b/(s^2 + a*s + 2)' } }],
    guards: [],
    series: [],
    pictures: [],
    parts: [newPart('gains', [], { system: 'G' })],
    attempts: 5,
    verdict: 'atOnce',
    shows: { measured: true, slip: true },
    solution: 'afterDue',
    late: null,
  };
}

/** A diagram to start from. */
export const newDiagram = {
  kind: 'equations' as const,
  text: 'e = r - m\nu = C*e\ny = G*u\nm = H*y',
  from: 'r',
  to: 'y',
};

const nothingElse: About = { system: '1/(s + 1)', parameter: 'a', diagram: { name: 'D', from: 'r', to: 'y' } };

/** A part by its kind, or by what the builder calls it, ready to be changed. `taken` holds the ids that other parts have. */
export const newPart = (name: string, taken: readonly string[], about: Partial<About> = {}): Part =>
  must(offers.find((offer) => offer.name === name || offer.kind === name)).make(taken, { ...nothingElse, ...about });
