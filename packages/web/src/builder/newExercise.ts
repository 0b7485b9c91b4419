import type { ExerciseDocument, GainsPart, NumberPart, Part, TransferFunctionPart } from '@nailset/core';

/** Where a new exercise starts: something that works and can be changed. */
export function newExercise(): ExerciseDocument {
  return {
    format: 1,
    title: 'New exercise',
    statement:
      'A ferry ramp follows its drive as\n\n$$P(s) = \\frac{b}{s^2 + a\\,s + 2}$$\n\nwith $a = {{a}}$ and $b = {{b}}$.',
    parameters: [
      { symbol: 'a', meaning: 'friction', unit: '1/s', draw: { kind: 'range', from: 1, to: 2, step: 0.2 } },
      { symbol: 'b', meaning: 'drive gain', unit: '', draw: { kind: 'fixed', value: 3 } },
    ],
    parts: [newPart('gains', [], 'b/(s^2 + a*s + 2)')],
    attempts: 5,
    verdict: 'atOnce',
    solution: 'afterDue',
  };
}

/** A part of a kind, ready to be changed. `taken` holds the ids that other parts have. */
export function newPart(kind: Part['kind'], taken: readonly string[], system: string): Part {
  const id = freeId(kind === 'transferFunction' ? 'model' : kind === 'number' ? 'number' : 'tune', taken);
  switch (kind) {
    case 'transferFunction': {
      const part: TransferFunctionPart = {
        id,
        kind,
        title: 'Write it down',
        prompt: 'The transfer function.',
        points: 2,
        expected: system,
        tolerancePercent: 1,
      };
      return part;
    }
    case 'number': {
      const part: NumberPart = {
        id,
        kind,
        title: 'Predict',
        prompt: 'What will the step response show?',
        points: 2,
        quantity: 'overshootPercent',
        system,
        tolerancePercent: 3,
      };
      return part;
    }
    case 'gains': {
      const part: GainsPart = {
        id,
        kind,
        title: 'Tune',
        prompt: 'Nudge the gains until every nail holds.',
        plant: system,
        form: 'PD',
        output: 'Position',
        start: { Kp: 1, Ki: 0, Kd: 0 },
        rungs: { Kp: { fine: 0.5, coarse: 5 }, Ki: { fine: 0.5, coarse: 2 }, Kd: { fine: 0.1, coarse: 1 } },
        horizon: 5,
        nails: [
          { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
          { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.5, points: 2 },
        ],
      };
      return part;
    }
  }
}

/** The name, or the name with the first number that makes it free. */
export function freeId(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let number = 2;
  while (taken.includes(`${name}-${number}`)) number += 1;
  return `${name}-${number}`;
}
