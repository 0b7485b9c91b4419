import type {
  Compensator,
  Controller,
  ControllerGain,
  ExerciseDocument,
  GainName,
  Part,
  PidController,
} from '@nailset/core';
import { gainsOf } from '@nailset/core';
import { pointsAsked } from './parts/pointsAsked';

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
    parts: [newPart('gains', [], 'G')],
    attempts: 5,
    verdict: 'atOnce',
    shows: { measured: true, slip: true },
    solution: 'afterDue',
    late: null,
  };
}

/** What can be added; a prediction is a choice whose curves come after the answer. */
export const kinds = {
  transferFunction: 'transfer function',
  number: 'number',
  gains: 'gains',
  choice: 'choice',
  prediction: 'prediction',
  trend: 'trend table',
  curve: 'curve match',
  bode: 'Bode match',
  diagram: 'diagram, transfer functions',
  reduction: 'diagram, reduced in steps',
  paths: 'diagram, loops or paths',
  states: 'state matrices',
  points: 'points of the s-plane',
  range: 'range of stable gains',
} as const;
export type NewKind = keyof typeof kinds;

const names: Record<NewKind, string> = {
  transferFunction: 'model',
  number: 'number',
  gains: 'tune',
  choice: 'choice',
  prediction: 'predict',
  trend: 'table',
  curve: 'follow',
  bode: 'bode',
  diagram: 'overall',
  reduction: 'reduce',
  paths: 'loops',
  states: 'states',
  points: 'points',
  range: 'range',
};

/** A diagram and the pair of signals that new parts ask about. */
export interface DiagramPair {
  readonly name: string;
  readonly from: string;
  readonly to: string;
}

/** A diagram to start from. */
export const newDiagram = {
  kind: 'equations' as const,
  text: 'e = r - m\nu = C*e\ny = G*u\nm = H*y',
  from: 'r',
  to: 'y',
};

/** Parts that are about a system in signal equations. */
export const aboutDiagrams: ReadonlySet<NewKind> = new Set(['diagram', 'reduction', 'paths']);

/** A part of a kind, ready to be changed. `taken` holds the ids that other parts have, `system` is what it is about. */
export function newPart(
  kind: NewKind,
  taken: readonly string[],
  system: string,
  parameter = 'a',
  { name, from, to }: DiagramPair = { name: 'D', from: 'r', to: 'y' },
): Part {
  const id = freeId(names[kind], taken);
  switch (kind) {
    case 'transferFunction':
      return {
        id,
        kind,
        title: 'Write it down',
        prompt: 'The transfer function.',
        points: 2,
        expected: system,
        tolerancePercent: 1,
      };
    case 'number':
      return {
        id,
        kind,
        title: 'Work it out',
        prompt: 'What will the step response show?',
        points: 2,
        formula: `overshootPercent(closed(${system}))`,
        unit: '%',
        tolerancePercent: 3,
      };
    case 'gains':
      return {
        id,
        kind,
        title: 'Tune',
        prompt: 'Nudge the gains until every nail holds.',
        plant: system,
        controller: newController('PD', 'parallel'),
        output: 'Position',
        horizon: 5,
        views: ['plane'],
        nails: [
          { id: 'overshoot', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
          { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.5, points: 2 },
        ],
      };
    case 'choice':
      return {
        id,
        kind,
        title: 'Choose',
        prompt: 'Is this system stable?',
        points: 1,
        several: false,
        options: [
          { id: 'a', text: 'It is stable.', right: `stable(${system})` },
          { id: 'b', text: 'It is not.', right: `stable(${system}) < 1` },
        ],
      };
    case 'prediction':
      return {
        ...newPart('choice', [], system),
        id,
        title: 'Predict',
        prompt: 'Say first what the step response will do.',
        options: [
          { id: 'a', text: 'It swings beyond its final value.', right: `overshootPercent(${system}) > 1` },
          { id: 'b', text: 'It does not.', right: `overshootPercent(${system}) <= 1` },
        ],
        figure: { horizon: 5, curves: [{ label: 'response', system, afterwards: true }] },
      } as Part;
    case 'trend':
      return {
        id,
        kind,
        title: 'Up, down or the same?',
        prompt: 'What happens when the parameter goes up?',
        points: 2,
        changes: [{ id: 'up', label: `${parameter} up`, symbol: parameter, factor: 1.5 }],
        rows: [
          { id: 'rise', label: 'Rise time', formula: `riseTime(closed(${system}))` },
          { id: 'overshoot', label: 'Overshoot', formula: `overshootPercent(closed(${system}))` },
        ],
        samePercent: 1,
      };
    case 'diagram':
      return {
        id,
        kind,
        title: 'Transfer function',
        prompt: 'Work out the transfer function of the diagram.',
        system: name,
        asked: [{ id: 'overall', from, to, points: 3 }],
        tolerancePercent: 0,
      };
    case 'reduction':
      return {
        id,
        kind,
        title: 'Reduce it',
        prompt: 'Reduce the diagram to one block, step by step.',
        system: name,
        from,
        to,
        typed: 'atOnce',
        points: 4,
      };
    case 'paths':
      return {
        id,
        kind,
        title: 'Find the loops',
        prompt: 'List the gain of every loop.',
        system: name,
        from,
        to,
        list: 'loops',
        points: 2,
      };
    case 'points':
      return {
        id,
        kind,
        ...pointsAsked('poles', system),
        points: 2,
        of: system,
        what: 'poles',
        tolerancePercent: 5,
      };
    case 'range':
      return {
        id,
        kind,
        title: 'Stable gains',
        prompt: `With which $K > 0$ is the loop $K L(s)$ stable, where $L(s) = {{${system}}}$?`,
        points: 2,
        of: system,
        tolerancePercent: 2,
      };
    case 'states':
      return {
        id,
        kind,
        title: 'State form',
        prompt: 'Write the system with state variables.',
        points: 3,
        expected: system,
        tolerancePercent: 1,
      };
    case 'bode':
      return {
        id,
        kind,
        title: 'Build it up',
        prompt: 'Build a model that follows the curve: where does its slope change, and how far up does it lie?',
        points: 3,
        target: { system: '3.2*(1 + s/0.7)/((1 + s/0.15)*(1 + s/9))', from: 0.02, to: 100 },
        terms: ['origin', 'poles', 'zeros', 'polePairs', 'zeroPairs'],
        misfitDb: 0.5,
        misfitDegrees: 5,
      };
    case 'curve':
      return {
        id,
        kind,
        title: 'Make it follow',
        prompt: 'Set the model until it follows the given curve.',
        points: 3,
        model: 'K/(T*s + 1)',
        knobs: [
          { symbol: 'K', unit: '', start: 1, fine: 0.05, coarse: 0.5 },
          { symbol: 'T', unit: 's', start: 1, fine: 0.05, coarse: 0.5, low: 0.05 },
        ],
        target: { system: '1.5/(0.6*s + 1)' },
        output: 'Output',
        horizon: 5,
        misfitPercent: 3,
      };
  }
}

type Ladder = Omit<Extract<ControllerGain, { start: number }>, 'name'>;

const place = (start: number, optional = true): Ladder => ({
  start,
  fine: 0.1,
  coarse: 1,
  low: 10 * start,
  high: -0.01,
  optional,
});
const half: Ladder = { start: 1, fine: 0.1, coarse: 1, optional: true };

const ladders: Record<GainName, Ladder> = {
  Kp: { start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
  Ki: { start: 0, fine: 0.5, coarse: 2, low: 0, high: 40 },
  Kd: { start: 0, fine: 0.1, coarse: 1, low: 0, high: 20 },
  Ti: { start: 10, fine: 0.1, coarse: 1, low: 0.1, high: 60 },
  Td: { start: 0, fine: 0.05, coarse: 0.5, low: 0, high: 10 },
  K: { start: 1, fine: 0.5, coarse: 5, low: 0, high: 500 },
  z1: place(-1),
  p1: place(-10),
  z2: place(-2),
  p2: place(-20),
  z3: place(-3),
  p3: place(-30),
  zr: { ...half, start: -1 },
  zi: half,
  pr: { ...half, start: -5 },
  pi: half,
};

/** A controller with every gain left to the student; gains of an earlier one stay as they were. */
export function newController(
  terms: Controller['terms'],
  form: Controller['form'],
  before: readonly ControllerGain[] = [],
): Controller {
  const kept = (name: GainName): ControllerGain =>
    before.find((gain) => gain.name === name) ?? ({ name, ...ladders[name] } as ControllerGain);
  if (terms === 'compensator') {
    const shape = form === 'corners' ? 'corners' : 'factors';
    const gains = (['K', 'z1', 'p1'] as const).map(kept) as Compensator['gains'];
    return { terms, form: shape, proper: true, largestRatio: 10, gains };
  }
  const shape = form === 'ideal' || form === 'series' ? form : 'parallel';
  return { terms, form: shape, gains: gainsOf({ terms, form: shape }).map(kept) as PidController['gains'] };
}

/** The gain with a ladder again. */
export const opened = <Name extends GainName>(name: Name): ControllerGain =>
  ({ name, ...ladders[name] }) as ControllerGain;

/** The name, or the name with the first number that makes it free. */
export function freeId(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let number = 2;
  while (taken.includes(`${name}-${number}`)) number += 1;
  return `${name}-${number}`;
}
