import katex from 'katex';
import { drawValues, solutionOf } from '../src/checks';
import { numberFrom, parseFormula } from '../src/formula/evaluate';
import { functions } from '../src/formula/functions';
import { modelOf, type NumberPart, type Part } from '../src/index';
import { quantities } from '../src/quantity';
import { workedNumber } from '../src/working/formula';
import { numeral, type WorkingStep } from '../src/working/step';
import { workingOf } from '../src/workings';
import { demoExercises } from './demo';
import { randomNumbers } from './random';

/** Whatever is written on the board is worked out, and what its last line says is the answer. */

const random = randomNumbers(20261130);
const between = (from: number, to: number): number => Number((from + random() * (to - from)).toPrecision(3));
const board = { scope: { names: new Map() }, definitions: new Map(), between: () => undefined };

const typesets = ({ latex }: WorkingStep): boolean =>
  latex === '' || katex.renderToString(latex, { throwOnError: true, strict: 'error' }).length > 0;

const pair = () => {
  const [wn, zeta] = [between(0.2, 20), between(0.1, 0.95)];
  return `${between(0.5, 5) * wn * wn}/(s^2 + ${2 * zeta * wn}*s + ${wn * wn})`;
};
const lag = () => `${between(0.5, 5)}/(${between(0.1, 9)}*s + 1)`;
const lateLag = () => `${lag()}*exp(-${between(0.1, 2)}*s)`;
const withZero = () =>
  `(s + ${between(1, 5)})/((s + ${between(0.5, 3)})*(s^2 + ${between(0.4, 2)}*s + ${between(2, 9)}))`;
const wrongWay = () => `(${between(1, 3)} - s)/((s + ${between(0.5, 3)})*(s + ${between(4, 6)}))`;
const typeOne = () => `${between(0.5, 6)}/(s*(s + ${between(1, 4)})*(s + ${between(5, 9)}))`;
const typeOneLate = () => `${between(0.1, 0.5)}*exp(-${between(0.1, 1)}*s)/(s*(2*s + 1))`;
const typeTwo = () => `${between(0.5, 2)}*(s + ${between(0.1, 0.3)})/(s^2*(s + ${between(2, 4)}))`;
const complexPoles = () => `(s + ${between(5, 9)})/(s*(s^2 + ${between(1, 3)}*s + ${between(4, 9)}))`;
const complexZeros = () => `(s^2 + 2*s + ${between(5, 9)})/(s*(s + ${between(1, 3)}))`;
const unstable = () => `${between(2, 5)}*(s + ${between(1, 3)})/(s*(s - ${between(0.2, 0.9)}))`;

const everyResponse = [pair, lag, lateLag, withZero];
const cases: Record<string, (() => string)[]> = {
  finalValue: everyResponse,
  overshootPercent: [...everyResponse, wrongWay],
  undershootPercent: [pair, wrongWay],
  riseTime: everyResponse,
  riseTimeFull: [pair, withZero],
  delayTime: everyResponse,
  time63: everyResponse,
  settlingTime: everyResponse,
  settlingTime5: everyResponse,
  peakTime: [pair, () => `${pair()}*exp(-0.5*s)`],
  peakValue: [pair],
  dampingRatio: [pair, withZero, lag],
  naturalFrequency: [pair, withZero],
  dampedFrequency: [pair],
  timeConstant: [pair, lag, withZero],
  slowestRealPart: [pair, withZero, unstable],
  gainAtRest: everyResponse,
  bandwidth: [pair, lag],
  resonancePeak: [() => `9/(s^2 + ${between(0.3, 3)}*s + 9)`],
  gainMargin: [typeOne, typeOneLate],
  gainMarginDb: [typeOne, typeOneLate],
  phaseMargin: [typeOne, typeOneLate, typeTwo],
  delayMargin: [typeOne, typeOneLate],
  gainCrossover: [typeOne, typeOneLate],
  phaseCrossover: [typeOne, typeOneLate],
  positionConstant: [pair],
  velocityConstant: [typeOne],
  accelerationConstant: [typeTwo],
  stepError: [pair, typeOne],
  rampError: [typeOne, typeTwo],
  parabolaError: [typeTwo],
  branches: [typeOne, complexPoles],
  centroid: [typeOne, complexPoles],
  asymptoteAngle: [typeOne],
  breakPoint: [typeOne],
  breakGain: [typeOne],
  crossingFrequency: [typeOne],
  crossingGain: [typeOne],
  departureAngle: [complexPoles],
  arrivalAngle: [complexZeros],
  lowestStableGain: [unstable],
  highestStableGain: [typeOne],
  gainForDamping: [typeOne],
  unstablePoles: [unstable, typeOne],
  encirclements: [unstable, typeOne],
};
const arguments_: Record<string, string> = { gainForDamping: ', 0.5' };

test.each(Object.entries(cases))('the way to %s ends at its value, whatever the numbers', (name, systems) => {
  let worked = 0;
  for (const system of systems) {
    for (let k = 0; k < 12; k++) {
      const tree = parseFormula(`${name}(${system()}${arguments_[name] ?? ''})`);
      let value: number;
      try {
        value = numberFrom(tree, board.scope);
      } catch {
        // This system has none.
        continue;
      }
      const { steps, value: found } = workedNumber(tree, board);
      expect(Math.abs(found - value)).toBeLessThanOrEqual(1e-6 * Math.abs(value) + 1e-9);
      expect(steps.filter((step) => !typesets(step))).toEqual([]);
      const last = steps.at(-1)!;
      const told = name in quantities ? quantities[name as keyof typeof quantities].definition : functions[name]!.gives;
      // Read off without a way to it is no working.
      expect(last.words).not.toContain(told);
      if (Number.isFinite(value)) expect(steps.map(({ latex }) => latex).join(' ')).toContain(numeral(value));
      worked += 1;
    }
  }
  expect(worked).toBeGreaterThanOrEqual(8);
});

test('a calculation around what is read off stands in the last line', () => {
  const { steps, value } = workedNumber(parseFormula('2*gainAtRest(3/(s + 4)) + 1'), board);
  expect(value).toBe(2.5);
  expect(steps.at(-1)).toEqual({ words: 'So the answer is:', latex: '2\\cdot 0.75+1=2.5' });
});

test('dead time inside a loop is read off, and says so', () => {
  const { steps } = workedNumber(parseFormula('overshootPercent(closed(0.5*exp(-1*s)/s))'), board);
  expect(steps.at(-1)!.words).toContain(quantities.overshootPercent.definition);
});

test.each(demoExercises)('every part of “$title” has its working, with each student’s numbers', (document) => {
  for (const student of ['anouk', 'kofi', 'tove']) {
    const values = drawValues(document, student);
    const model = modelOf(document, values);
    for (const part of document.parts) {
      const steps = workingOf(part, model);
      expect([part.title, steps.length > 0]).toEqual([part.title, true]);
      expect(steps.filter((step) => !typesets(step))).toEqual([]);
      const solution = solutionOf(part, model);
      if (part.kind !== 'transferFunction' && part.kind !== 'diagram') continue;
      // The last line is the expected fraction as it is told.
      expect([part.title, steps.at(-1)!.latex.endsWith(solution!.split('=').at(-1)!)]).toEqual([part.title, true]);
    }
  }
});

const heading = { id: 'a', title: 'a', prompt: '', points: 1, tolerancePercent: 1 };
const part = (more: object): Part => ({ ...heading, ...more }) as unknown as Part;
const nothing = { systems: [], series: [] };
const latexOf = (steps: readonly WorkingStep[]): string => steps.map(({ latex }) => latex).join('\n');

test('the Routh array keeps the gain as a letter', () => {
  const steps = workingOf(part({ kind: 'range', of: '1/(s*(s + 2)*(s + 6))', marking: 'share' }), modelOf(nothing, {}));
  const all = latexOf(steps);
  expect(all).toContain('s^{3}+8\\,s^{2}+12\\,s+K=0');
  expect(all).toContain('s^{2} & 8 & K');
  expect(all).toContain('-0.125\\,K+12> 0');
  expect(steps.at(-1)!.latex).toBe('0<K<96');
});

test('a loop with a row of zeros is worked out on the axis instead', () => {
  const steps = workingOf(part({ kind: 'range', of: '1/(s^2 + 4)', marking: 'share' }), modelOf(nothing, {}));
  expect(latexOf(steps)).toContain('s^{2}+K+4=0');
});

test('states show how the coefficients become matrices', () => {
  const steps = workingOf(part({ kind: 'states', expected: '(2*s + 3)/(2*s^2 + 4*s + 6)' }), modelOf(nothing, {}));
  const all = latexOf(steps);
  expect(all).toContain('\\frac{s+1.5}{s^{2}+2\\,s+3}');
  expect(all).toContain('D=0');
});

test('hidden or broken systems give no working, never an error', () => {
  const broken: NumberPart = { ...heading, kind: 'number', formula: 'overshootPercent(X)', unit: '%' };
  expect(workingOf(broken, modelOf(nothing, {}))).toEqual([]);
});
