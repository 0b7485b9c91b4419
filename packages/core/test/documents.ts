import type { ExerciseDocument, GainsPart, NumberPart, TransferFunctionPart } from '../src/index';

/** A small exercise with a part of each kind. */
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
  quantity: 'overshootPercent',
  system: model.expected,
  tolerancePercent: 3,
};

export const tune: GainsPart = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: 'b/(s^2 + a*s + 0.8)',
  form: 'PID',
  output: 'Position',
  start: { Kp: 1, Ki: 0, Kd: 0 },
  rungs: { Kp: { fine: 1, coarse: 5 }, Ki: { fine: 1, coarse: 5 }, Kd: { fine: 1, coarse: 5 } },
  horizon: 5,
  nails: [
    { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 2 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.01, points: 1 },
  ],
};

export const exercise: ExerciseDocument = {
  format: 1,
  title: 'Lamp and trolley',
  statement: 'K is {{K}}, unknown {{q}} stays, and \\frac{{1}}{2} too.',
  parameters: [
    { symbol: 'K', meaning: 'gain', unit: '', draw: { kind: 'list', values: [1.5, 2, 2.5] } },
    { symbol: 'zeta', meaning: 'damping ratio', unit: '', draw: { kind: 'range', from: 0.2, to: 0.6, step: 0.1 } },
    { symbol: 'wn', meaning: 'natural frequency', unit: 'rad/s', draw: { kind: 'fixed', value: 3 } },
    { symbol: 'a', meaning: '', unit: '', draw: { kind: 'fixed', value: 1.2 } },
    { symbol: 'b', meaning: '', unit: '', draw: { kind: 'fixed', value: 3 } },
  ],
  parts: [model, overshoot, tune],
  attempts: 3,
  verdict: 'atOnce',
  solution: 'onceDone',
};

export const values = { K: '2', zeta: '0.3', wn: '3', a: '1.2', b: '3' };
