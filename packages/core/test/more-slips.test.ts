import { checkAnswer } from '../src/checks';
import type {
  Answer,
  DiagramPart,
  GainsPart,
  Part,
  PathsPart,
  RangePart,
  StatesPart,
  TransferFunctionPart,
} from '../src/index';
import { modelOf } from '../src/index';

const nothing = modelOf({ systems: [], series: [] }, {});
const heading = { id: 'x', title: 'X', prompt: '', points: 2 };
const slipOf = (part: Part, answer: Answer, model = nothing) => checkAnswer(part, model, answer).slip?.id;

test.each([
  ['0 1; 5 2 | 0; 1 | 1 0 | 0', 'matrixSigns'],
  ['0 1; 5 -2 | 0; 1 | 1 0 | 0', 'matrixSigns'],
  ['0 -5; 1 2 | 0; 1 | 1 0 | 0', undefined],
  ['0 1; -5 -2 | 0; 1 | 1 0 | 0', undefined],
  ['0 1; -5 -2 | 1; 0 | 0 1 | 0', 'exchanged'],
])('state matrices %s show %s', (text, slip) => {
  const part: StatesPart = { ...heading, kind: 'states', expected: '1/(s^2+2*s+5)', tolerancePercent: 1 };
  const [a, b, c, d] = text.split(' | ') as [string, string, string, string];
  expect(slipOf(part, { kind: 'states', a, b, c, d })).toBe(slip);
});

test.each([
  ['3/(0.25s+1)', 'inverseTime'],
  ['3/(s+4)', 'inverseTime'],
  ['1/(4s+1)', 'unitNumerator'],
  ['3/(4s+1)', undefined],
])('a lag 3/(4s + 1), answered %s, shows %s', (text, slip) => {
  const part: TransferFunctionPart = {
    ...heading,
    kind: 'transferFunction',
    expected: '3/(4*s+1)',
    tolerancePercent: 1,
  };
  expect(slipOf(part, { kind: 'transferFunction', text })).toBe(slip);
});

describe('a diagram with loops apart', () => {
  const systems = [
    {
      name: 'X',
      meaning: '',
      form: {
        kind: 'equations' as const,
        text: 'e = r - H1*x\nx = G1*e\nf = x - H2*y\ny = G2*f\nz = r - H3*z + y',
        from: 'r',
        to: 'z',
      },
    },
  ];
  const model = modelOf({ systems, series: [] }, {});
  const part: DiagramPart = {
    ...{ id: 'x', title: 'X', prompt: '', kind: 'diagram', system: 'X', tolerancePercent: 0 },
    asked: [{ id: 'a', from: 'r', to: 'z', points: 2 }],
  };
  const said = (text: string) => slipOf(part, { kind: 'diagram', texts: { a: text } }, model);
  const all = '(1+G1*H1)*(1+G2*H2)*(1+H3)';

  test.each([
    [`(G1*G2 + (1+G1*H1)*(1+G2*H2))/(${all})`, undefined],
    [`(G1*G2 + 1)/(${all})`, 'untouchedLoop'],
    ['(G1*G2 + (1+G1*H1)*(1+G2*H2))/(1+G1*H1+G2*H2+H3)', 'loopsApart'],
  ])('%s shows %s', (text, slip) => expect(said(text)).toBe(slip));
});

test('forward paths without the signs of the sums', () => {
  const form = { kind: 'equations' as const, text: 'y = G*r - H*r', from: 'r', to: 'y' };
  const model = modelOf({ systems: [{ name: 'X', meaning: '', form }], series: [] }, {});
  const part: PathsPart = { ...heading, kind: 'paths', system: 'X', from: 'r', to: 'y', list: 'forward' };
  const verdict = checkAnswer(part, model, { kind: 'paths', text: 'G, H' });
  expect(verdict.slip?.words).toBe('With the signs of the sums these are the forward paths.');
});

test.each([
  ['K > 120', 'turned'],
  ['0 < K < 240', 'ownConstant'],
])('the range 0 < K < 120, answered %s, shows %s', (text, slip) => {
  const part: RangePart = { ...heading, kind: 'range', of: '2/(s*(s + 4)*(s + 6))', tolerancePercent: 2 };
  expect(slipOf(part, { kind: 'range', text })).toBe(slip);
});

test('Ti and Td exchanged are known where nothing else would do', () => {
  const ladder = (name: 'Kp' | 'Ti' | 'Td', high: number) => ({
    name,
    start: 1,
    fine: 0.05,
    coarse: 0.5,
    low: 0.05,
    high,
  });
  const part: GainsPart = {
    ...{
      id: 'g',
      title: 'G',
      prompt: '',
      kind: 'gains',
      plant: '1/((s+1)*(s+2))',
      output: 'y',
      horizon: 10,
      views: [],
    },
    controller: { terms: 'PID', form: 'ideal', gains: [ladder('Kp', 30), ladder('Ti', 4), ladder('Td', 4)] },
    nails: [
      { id: 'a', quantity: 'riseTime', relation: 'atMost', limit: 0.6, points: 1 },
      { id: 'b', quantity: 'overshootPercent', relation: 'atMost', limit: 12, points: 1 },
      { id: 'c', quantity: 'settlingTime', relation: 'atMost', limit: 3.5, points: 1 },
    ],
  };
  const [Kp, Ti, Td] = ['12', '2', '0.3'];
  expect(checkAnswer(part, nothing, { kind: 'gains', gains: { Kp, Ti, Td } }).met).toBe(true);
  const verdict = checkAnswer(part, nothing, { kind: 'gains', gains: { Kp, Ti: Td, Td: Ti } });
  expect([verdict.met, ['swapped', undefined].includes(verdict.slip?.id)]).toEqual([false, true]);
});
