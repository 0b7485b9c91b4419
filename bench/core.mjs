import { checkAnswer, fractionOf, measuresOf, systemOf } from '@nailset/core';
import { median, row } from './figures.mjs';

const values = { b: '3', a: '1.2', k: '0.8' };
/** @type {import('@nailset/core').GainsPart} */
const part = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: 'b/(s^2 + a*s + k)',
  form: 'PID',
  output: 'Position',
  start: { Kp: 1, Ki: 0, Kd: 0 },
  rungs: { Kp: { fine: 1, coarse: 5 } },
  horizon: 4,
  nails: [
    { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
    { id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 1.5, points: 1 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.001, points: 1 },
  ],
};
/** @type {import('@nailset/core').TransferFunctionPart} */
const model = {
  id: 'model',
  kind: 'transferFunction',
  title: 'Model',
  prompt: '',
  points: 1,
  expected: 'b/(s^2 + a*s + k)',
  tolerancePercent: 1,
};

/**
 * Median time of one call, in milliseconds, over blocks of calls.
 * @param {(index: number) => unknown} work
 */
function timeOf(work, perBlock = 40, blocks = 25) {
  for (let k = 0; k < perBlock * 4; k++) work(k);
  const times = [];
  for (let block = 0; block < blocks; block++) {
    const started = performance.now();
    for (let k = 0; k < perBlock; k++) work(block * perBlock + k);
    times.push((performance.now() - started) / perBlock);
  }
  return median(times);
}

/** Checks and what they consist of, beside the bare evaluation of as many exponentials as a response needs. */
export function core() {
  const floor = timeOf(() => {
    let sum = 0;
    for (let k = 0; k < 3000; k++) sum += Math.exp(-k * 1e-3) * Math.cos(k * 1e-2);
    return sum;
  });
  console.log('Core, one thread');
  /** @param {string} name @param {number} time */
  const show = (name, time) =>
    row(name, `${time.toFixed(3)} ms`, `${Math.round(1000 / time)} a second`, `${(time / floor).toFixed(1)} × floor`);
  row('floor: 3000 exponentials and cosines', `${floor.toFixed(3)} ms`, '', '');
  const gains = (/** @type {number} */ k) => ({
    Kp: String(10 + (k % 50) / 10),
    Ki: '5',
    Kd: String(3 + (k % 7) / 10),
  });
  show(
    'check of gains, PID, four nails',
    timeOf((k) => checkAnswer(part, values, { kind: 'gains', gains: gains(k) })),
  );
  const typed = (/** @type {number} */ k) => `3/(s^2 + ${k % 2 ? '1.2' : '1.3'}s + 0.8)`;
  show(
    'check of a typed fraction',
    timeOf((k) => checkAnswer(model, values, { kind: 'transferFunction', text: typed(k) })),
  );
  const sixth = fractionOf('(s+3)/((s^2+0.6s+4)(s^2+3s+9)(s+1)(s+8))');
  show(
    'measures, order 6',
    timeOf(() => measuresOf(systemOf(sixth))),
  );
  show(
    'refusing 1 MB of brackets',
    timeOf(() => refused('('.repeat(1_000_000)), 5, 11),
  );
  console.log('');
}

/** @param {string} text */
function refused(text) {
  try {
    return fractionOf(text);
  } catch (error) {
    return error;
  }
}
