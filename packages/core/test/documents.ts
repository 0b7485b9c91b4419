import {
  type ExerciseDocument,
  type GainsPart,
  LoopModel,
  modelOf,
  type NumberPart,
  type PidController,
  type TransferFunctionPart,
} from '../src/index';

/** A small exercise with a part of each older kind. */
export const model: TransferFunctionPart = {
  id: 'model',
  kind: 'transferFunction',
  title: 'Model',
  prompt: 'With K = {{K}}.',
  points: 4,
  expected: 'K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)',
  tolerancePercent: 1,
};

export const overshoot: NumberPart = {
  id: 'overshoot',
  kind: 'number',
  title: 'Overshoot',
  prompt: '',
  points: 3,
  formula: `overshootPercent(${model.expected})`,
  unit: '%',
  tolerancePercent: 3,
};

export const pid: PidController = {
  terms: 'PID',
  form: 'parallel',
  gains: [
    { name: 'Kp', start: 1, fine: 1, coarse: 5 },
    { name: 'Ki', start: 0, fine: 1, coarse: 5 },
    { name: 'Kd', start: 0, fine: 1, coarse: 5 },
  ],
};

export const tune: GainsPart = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: 'b/(s^2 + a*s + 0.8)',
  controller: pid,
  output: 'Position',
  horizon: 5,
  views: [],
  nails: [
    { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.01, points: 1 },
  ],
};

export const exercise: ExerciseDocument = {
  format: 2,
  title: 'Lamp and trolley',
  statement: 'K is {{K}}, and $\\frac{{1}}{2}$ stays.',
  parameters: [
    { symbol: 'K', meaning: 'gain', unit: '', draw: { kind: 'list', values: [1.5, 2, 2.5] } },
    { symbol: 'zeta', meaning: 'damping ratio', unit: '', draw: { kind: 'range', from: 0.2, to: 0.6, step: 0.1 } },
    { symbol: 'wn', meaning: 'natural frequency', unit: 'rad/s', draw: { kind: 'fixed', value: 3 } },
    { symbol: 'a', meaning: '', unit: '', draw: { kind: 'fixed', value: 1.2 } },
    { symbol: 'b', meaning: '', unit: '', draw: { kind: 'fixed', value: 3 } },
  ],
  systems: [],
  guards: [],
  series: [],
  pictures: [],
  parts: [model, overshoot, tune],
  attempts: 3,
  verdict: 'atOnce',
  shows: { measured: true, slip: true },
  solution: 'onceDone',
  late: null,
};

export const values = { K: '2', zeta: '0.3', wn: '3', a: '1.2', b: '3' };

/** The numbers above as a model to check with. */
export const student = modelOf(exercise, values);

/** A loop with unity feedback and a parallel controller. */
export const loopOf = (plant: string, Kp: string, Ki = '0', Kd = '0') =>
  new LoopModel({ ...tune, plant }, { names: new Map() }).loopWith({ Kp, Ki, Kd });
