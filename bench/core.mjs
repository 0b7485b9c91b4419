import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import {
  branchesOf,
  curveOf,
  delayed,
  fractionOf,
  LoopModel,
  magnitudeAndPhase,
  marginsOf,
  modelOf,
  nailsOf,
  plotFrequencies,
  readEquations,
  respond,
  roots,
  signalFlow,
  specialPoints,
  systemOf,
  transferBetween,
  transferOf,
  unityFeedback,
} from '@nailset/core';
import { checkAnswer, searchOf, searchSettings, usualWrongAnswers } from '@nailset/core/checks';
import { EVD, Matrix } from 'ml-matrix';
import { build } from 'vite';
import { home } from '../launcher/install.mjs';
import { manyBlocks } from './drawing.mjs';
import { median, row } from './figures.mjs';

/**
 * Median time of one call, in milliseconds, over blocks of calls, after a third of a second to warm up.
 * @param {(index: number) => unknown} work
 */
function timeOf(work, perBlock = 20, blocks = 15) {
  const begun = performance.now();
  for (let k = 0; k === 0 || performance.now() - begun < 333; k++) work(k);
  const times = [];
  for (let block = 0; block < blocks; block++) {
    const started = performance.now();
    for (let k = 0; k < perBlock; k++) work(block * perBlock + k);
    times.push((performance.now() - started) / perBlock);
  }
  return median(times);
}

/**
 * One line: time, target and the ratio to a floor measured in the same run.
 * @param {string} name @param {number} time @param {number} target @param {string} floorName @param {number} floor
 */
function show(name, time, target, floorName, floor) {
  const verdict = time <= target ? 'within' : 'BEYOND';
  row(name, `${format(time)} ms`, `${verdict} ${target} ms`, `${(time / floor).toFixed(1)} × ${floorName}`);
}

const format = (/** @type {number} */ time) => (time < 10 ? time.toFixed(3) : time.toFixed(1));

/** @param {number} count */
const exponentials = (count) =>
  timeOf(() => {
    let sum = 0;
    for (let k = 0; k < count; k++) sum += Math.exp(-k * 1e-3) * Math.cos(k * 1e-2);
    return sum;
  });

const eighth = '(s+3)(s^2+2s+10)/(s(s+1)(s+2)(s+6)(s^2+3s+16)(s+9)(s+12))';
const equations = [
  'x1 = r - H1*x4',
  'x2 = G1*x1 - H2*x6',
  'x3 = G2*x2',
  'x4 = G3*x3',
  'x5 = x4 - H3*x8',
  'x6 = G4*x5',
  'x7 = x6 + G5*x3',
  'x8 = G6*x7',
  'x9 = x8 - H4*x12',
  'x10 = G1*x9',
  'x11 = x10 + x2',
  'x12 = G2*x11',
  'x13 = x12 - x15',
  'x14 = G3*x13 + G4*x9',
  'x15 = x14',
];

/** The computation core against its targets, one thread, medians. */
export async function core() {
  console.log('Core, one thread');

  const tenth = fractionOf('1/((s+1)(s+2)(s+3.5)(s+7)(s^2+s+9)(s^2+2s+30)(s^2+0.4s+2))').denominator;
  const companion = Array.from({ length: 10 }, (_, i) =>
    Array.from({ length: 10 }, (_, j) =>
      i === 0 ? -Number(tenth.integers[9 - j]) / Number(tenth.integers[10]) : i === j + 1 ? 1 : 0,
    ),
  );
  const eigenvalues = timeOf(() => new EVD(new Matrix(companion)));
  show(
    'poles, degree 10',
    timeOf(() => roots(tenth)),
    0.1,
    'eigenvalues of its matrix',
    eigenvalues,
  );

  const sixth = new LoopModel({ ...part, plant: '40(s+3)/((s^2+0.6s+4)(s^2+3s+9)(s+1)(s+8))' }, { names: new Map() });
  const response = () => {
    const subject = sixth.loopWith({ Kp: '2', Ki: '0', Kd: '0.1' }).subject();
    return [subject.measures, subject.stepMotion && curveOf(subject.stepMotion, 20, 1e-3)];
  };
  show('step response to plot, all measures, order 6', timeOf(response), 1, '3000 exponentials', exponentials(3000));

  const loop = fractionOf(eighth);
  const window = { left: -15, right: 5, bottom: -10, top: 10 };
  show(
    'root locus to draw, all special points, order 8',
    timeOf(() => branchesOf(loop, specialPoints(loop), window), 4),
    8,
    '100 eigenvalue calls of order 8',
    100 * timeOf(() => new EVD(new Matrix(companion).subMatrix(0, 7, 0, 7))),
  );

  const open = delayed(loop);
  show(
    'margins and Bode at 400 frequencies, order 8',
    timeOf(() => [marginsOf(open), magnitudeAndPhase(open, plotFrequencies(systemOf(loop)))]),
    2,
    '6000 exponentials',
    exponentials(6000),
  );

  const plant = '3/((s+1)(s^2+1.2s+2))';
  show(
    '60 × 60 loops of order 4, four nails each',
    timeOf(() => plane(plant), 1, 3),
    800,
    '3600 × 1000 exponentials',
    3600 * exponentials(1000),
  );

  const withDelay = unityFeedback(transferOf('20(s+2)/((s+1)(s+3)(s^2+2s+9))*exp(-0.3s)'));
  show(
    'loop with dead time, order 4, 20 dead times',
    timeOf(() => respond(withDelay).at(6), 5),
    10,
    '3000 exponentials',
    exponentials(3000),
  );

  show(
    'exact reduction, 15 signals, 10 symbols',
    timeOf(() => transferBetween(signalFlow(readEquations(equations)), 'r', 'x15'), 5),
    50,
    '1000 products of big integers',
    timeOf(() => {
      let product = 1n;
      for (let k = 0; k < 1000; k++) product = (product * 7919n) % 340282366920938463463374607431768211507n;
      return product;
    }),
  );

  const equations15 = manyBlocks(13);
  const diagramModel = modelOf(
    {
      systems: [{ name: 'D', meaning: '', form: { kind: 'equations', text: equations15, from: 'r', to: 'x13' } }],
      series: [],
    },
    {},
  );
  /** @type {import('@nailset/core').DiagramPart} */
  const diagramPart = {
    ...{ id: 'd', kind: 'diagram', title: 'D', prompt: '', system: 'D', tolerancePercent: 0 },
    asked: [{ id: 'y', from: 'r', to: 'x13', points: 1 }],
  };
  const [, wrong] = usualWrongAnswers(diagramPart, diagramModel);
  show(
    'check with slips, 15 blocks in letters',
    timeOf(() => wrong && checkAnswer(diagramPart, diagramModel, wrong.answer), 3),
    100,
    '3000 exponentials',
    exponentials(3000),
  );

  const hostile = ['('.repeat(1e6), 's+'.repeat(5e5), '1'.repeat(1e6), '(a+b+c+d+e+f+g)^40', '((((s+1)^40)^40)^40)^40'];
  const scan = timeOf(() => hostile[0]?.lastIndexOf(')'), 5, 5);
  show(
    'refusing hostile text of up to 1 MB',
    Math.max(...hostile.map((text) => timeOf(() => refused(text), 5, 11))),
    5,
    'one scan of 1 MB',
    scan,
  );

  const size = await bundleSize();
  row('core in the browser, compressed', `${size.toFixed(1)} kB`, size <= 70 ? 'within 70 kB' : 'BEYOND 70 kB', '');

  const times = Array.from({ length: 7 }, () => {
    const started = performance.now();
    spawnSync(path.join(home, 'nailset'), ['compute'], { input: '{"ask":"roots","polynomial":[1,2]}\n' });
    return performance.now() - started;
  });
  const bare = Array.from({ length: 7 }, () => {
    const started = performance.now();
    execFileSync(process.execPath, ['-e', '0']);
    return performance.now() - started;
  });
  show('./nailset compute, start to end', median(times), 500, 'starting Node', median(bare));

  const model = modelOf({ systems: [], series: [] }, { b: '3', a: '1.2', k: '0.8' });
  const two = {
    ...part,
    controller: {
      ...pid,
      terms: /** @type {const} */ ('PD'),
      gains: pid.gains.filter(({ name }) => name !== 'Ki'),
    },
    nails: part.nails.map((nail) =>
      'quantity' in nail && nail.quantity === 'stepError' ? { ...nail, limit: 0.05 } : nail,
    ),
  };
  const students = Array.from({ length: 10 }, (_, k) =>
    modelOf({ systems: [], series: [] }, { b: String(2.4 + 0.1 * k), a: '1.2', k: '0.8' }),
  );
  show(
    'search over two gains, four nails, ten draws',
    timeOf(
      () => {
        const work = searchSettings(/** @type {NonNullable<ReturnType<typeof searchOf>>} */ (searchOf(two)), students);
        while (!work.next().done);
      },
      1,
      3,
    ),
    2000,
    '3000 exponentials',
    exponentials(3000),
  );
  const gains = (/** @type {number} */ k) => ({
    Kp: String(10 + (k % 50) / 10),
    Ki: '5',
    Kd: String(3 + (k % 7) / 10),
  });
  show(
    'check of gains, PID, four nails',
    timeOf((k) => checkAnswer(part, model, { kind: 'gains', gains: gains(k) })),
    3,
    '3000 exponentials',
    exponentials(3000),
  );
}

/** @type {import('@nailset/core').PidController} */
const pid = {
  terms: 'PID',
  form: 'parallel',
  gains: [
    { name: 'Kp', start: 1, fine: 1, coarse: 5, low: 0, high: 40 },
    { name: 'Ki', start: 0, fine: 1, coarse: 5, low: 0, high: 40 },
    { name: 'Kd', start: 0, fine: 1, coarse: 5, low: 0, high: 10 },
  ],
};

/** @type {import('@nailset/core').GainsPart} */
const part = {
  id: 'tune',
  kind: 'gains',
  title: 'Tune',
  prompt: '',
  plant: 'b/(s^2 + a*s + k)',
  output: 'Position',
  controller: pid,
  views: [],
  horizon: 4,
  nails: [
    { id: 'rise', quantity: 'riseTime', relation: 'atMost', limit: 0.3, points: 1 },
    { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 10, points: 1 },
    { id: 'settle', quantity: 'settlingTime', relation: 'atMost', limit: 1.5, points: 1 },
    { id: 'offset', quantity: 'stepError', relation: 'atMost', limit: 0.001, points: 1 },
  ],
};

/** @param {string} plant */
function plane(plant) {
  const given = { ...part, plant };
  const model = new LoopModel(given, { names: new Map() });
  let met = 0;
  for (let p = 0; p < 60; p++) {
    for (let i = 0; i < 60; i++) {
      const gains = { Kp: String(0.05 + 0.05 * p), Ki: String(0.01 + 0.02 * i), Kd: '0' };
      if (nailsOf(given, model, model.loopWith(gains)).every((nail) => nail.met)) met += 1;
    }
  }
  return met;
}

/** Size in kB of every function that core offers to the browser, minified and compressed. */
async function bundleSize() {
  const door = path.join(home, 'packages/core/dist/index.js');
  const functions = Object.entries(await import(door)).filter(([, value]) => typeof value === 'function');
  const scratch = mkdtempSync('/tmp/nailset-bench-');
  const entry = path.join(scratch, 'entry.js');
  writeFileSync(entry, `export { ${functions.map(([name]) => name).join(', ')} } from ${JSON.stringify(door)};`);
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    build: { write: false, lib: { entry, formats: ['es'] }, minify: true },
  });
  rmSync(scratch, { recursive: true, force: true });
  const outputs = [built].flat().flatMap((result) => ('output' in result ? result.output : []));
  const code = outputs.map((chunk) => ('code' in chunk ? chunk.code : '')).join('');
  return gzipSync(code, { level: 9 }).length / 1000;
}

/** @param {string} text */
function refused(text) {
  try {
    return fractionOf(text);
  } catch (error) {
    return error;
  }
}
