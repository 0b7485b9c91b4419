import { answerFromText, checkAnswer, examine, readAnswer, rightAnswerOf, usualWrongAnswers } from '../src/checks';
import {
  type DiagramPart,
  type ExerciseDocument,
  modelOf,
  type NamedSystem,
  type PathsPart,
  type ReductionPart,
  type StatesPart,
} from '../src/index';
import { exercise } from './documents';

const loop: NamedSystem = {
  name: 'L',
  meaning: '',
  form: { kind: 'equations', text: 'e = r - b\nu = C*e\ny = G*(u + d)\nb = H*y', from: 'r', to: 'y' },
};
const winch: NamedSystem = {
  name: 'W',
  meaning: '',
  form: { kind: 'equations', text: 'e = r - y\nu = K*e\ny = G*(u + d)\nwhere G = 2/(s^2 + a*s)', from: 'r', to: 'y' },
};
const crossing: NamedSystem = {
  name: 'X',
  meaning: '',
  form: {
    kind: 'equations',
    text: 'e1 = r - H1*x2\nx1 = G1*e1\ne2 = x1 - H2*y\nx2 = G2*e2\ny = G3*x2',
    from: 'r',
    to: 'y',
  },
};
const model = modelOf({ systems: [loop, winch, crossing], series: [] }, { K: '3', a: '0.5' });
const heading = { id: 'p', title: 'P', prompt: '' };
const overall: DiagramPart = {
  ...heading,
  kind: 'diagram',
  system: 'L',
  asked: [
    { id: 'ref', from: 'r', to: 'y', points: 2 },
    { id: 'dist', from: 'd', to: 'y', points: 1 },
  ],
  tolerancePercent: 0,
};
const one: DiagramPart = { ...overall, asked: overall.asked.slice(0, 1) };
const check = (text: string, part = one) => checkAnswer(part, model, { kind: 'diagram', texts: { ref: text } });

describe('transfer functions of a diagram', () => {
  test.each(['C*G/(1 + C*G*H)', 'G*C/(H*G*C + 1)', '1/(1/(C*G) + H)', '2C*G/(2 + 2H*G*C)'])('%s is right', (text) => {
    expect(check(text)).toMatchObject({ met: true, points: 2, words: 'y/r is right.' });
  });

  test.each([
    ['C*G/(1 - C*G*H)', 'As if the feedback at the first sum were added.', ['e', 'b to e 1']],
    ['C*G/(1 + C*G)', 'As if the block H were left out.', ['b']],
    ['C*G', 'As if the feedback to the first sum were missing.', ['e', 'b to e 1']],
    ['C/(1 + C*G*H)', 'This is u/r: u in the place of y.', ['u']],
    ['G/(1 + C*G*H)', 'This is y/d: the way from d, not from r.', ['in d']],
    ['(1 + C*G*H)/(C*G)', 'Numerator and denominator look swapped.', []],
  ])('%s is named', (text, words, place) => {
    expect(check(text).slip).toMatchObject({ words, place });
  });

  test('silent where nothing usual leads there, or two things do', () => {
    expect(check('C*G/(2 + C*G*H)').slip).toBeUndefined();
    // b/r, and H in the forward path.
    expect(check('C*G*H/(1 + C*G*H)').slip).toBeUndefined();
  });

  test('several pairs give points each, and one may stay open', () => {
    const verdict = checkAnswer(overall, model, { kind: 'diagram', texts: { ref: 'C*G/(1+C*G*H)', dist: '' } });
    expect(verdict).toMatchObject({ met: false, points: 2, outOf: 3 });
    expect(verdict.words).toBe('1 of 2 are right. y/d is still open.');
    const text = answerFromText(overall, 'C*G/(1+C*G*H); G/(1+C*G*H)');
    expect(checkAnswer(overall, model, text).met).toBe(true);
  });

  test.each([
    ['C*Q', /“Q” is not in the diagram; its letters: C, G, H/],
    ['u/e', /u is a signal/],
    ['', /Type your answer first/],
  ])('%s is refused before it counts', (text, message) => {
    expect(() => readAnswer(one, model, { kind: 'diagram', texts: { ref: text } })).toThrow(message);
  });

  test('numbers may stand in the place of the student’s letters, rounded within the tolerance', () => {
    const part: DiagramPart = { ...one, system: 'W', tolerancePercent: 1 };
    for (const text of ['K*G/(1 + K*G)', '6/(s^2 + 0.5s + 6)', '2K/(s^2 + a*s + 2K)', '6.02/(s^2 + 0.5s + 5.99)']) {
      expect(check(text, part).met).toBe(true);
    }
    expect(check('6/(s^2 + 0.6s + 6)', part).met).toBe(false);
    expect(check('6/(s^2 + 0.5s - 6)', part).slip?.words).toBe('As if the feedback at the first sum were added.');
  });

  test('every usual wrong answer is wrong and told what it is, or nothing', () => {
    const told = usualWrongAnswers(overall, model);
    expect(told.length).toBeGreaterThan(12);
    for (const { words, verdict } of told) expect([undefined, words]).toContain(verdict.slip?.words);
    expect(told.filter(({ verdict }) => verdict.slip).length).toBeGreaterThan(8);
  });
});

describe('a reduction in steps', () => {
  const part: ReductionPart = {
    ...heading,
    kind: 'reduction',
    system: 'X',
    from: 'r',
    to: 'y',
    typed: 'atOnce',
    points: 6,
  };
  const right = rightAnswerOf(part, model) as {
    kind: 'reduction';
    steps: { kind: 'series'; of: string[]; gain?: string }[];
  };

  test('of legal moves to one block is right; on the way it has part of its points', () => {
    expect(checkAnswer(part, model, right)).toMatchObject({ met: true, points: 6 });
    const begun = { ...right, steps: right.steps.slice(0, -1) };
    const verdict = checkAnswer(part, model, begun);
    expect(verdict.met).toBe(false);
    expect(verdict.points).toBeGreaterThan(0);
    expect(verdict.points).toBeLessThan(6);
  });

  test('what is typed for a step is compared with what the move gives', () => {
    const last = right.steps.length - 1;
    const typed = (gain: string) => ({
      ...right,
      steps: right.steps.map((step, k) => (k === last ? { ...step, gain } : step)),
    });
    expect(checkAnswer(part, model, typed('G1*G2*G3/(1+G1*G2*H1+G2*G3*H2)'))).toMatchObject({ met: true, points: 6 });
    const wrong = checkAnswer(part, model, typed('G1*G2*G3'));
    const asked = right.steps.filter(({ gain }) => gain !== undefined).length;
    expect(wrong).toMatchObject({ met: false, points: expect.closeTo((6 * (asked - 1)) / asked, 9) as number });
    expect(wrong.words).toMatch(/G1\*G2\*G3 is not what this step gives/);
  });

  test('what each step gives is demanded where the part asks for it', () => {
    const silent = { ...right, steps: right.steps.map(({ kind, of }) => ({ kind, of })) };
    expect(() => readAnswer(part, model, silent)).toThrow(/^Step \d: type what it gives\.$/);
    expect(checkAnswer({ ...part, typed: 'no' }, model, silent)).toMatchObject({ met: true, points: 6 });
  });

  test('points follow how much of the diagram is gone', () => {
    let before = 0;
    for (let k = 1; k < right.steps.length; k++) {
      const { points } = checkAnswer(part, model, { ...right, steps: right.steps.slice(0, k) });
      expect(points).toBeLessThanOrEqual((6 * k) / right.steps.length + 2);
      expect(points).toBeGreaterThanOrEqual(before);
      before = points;
    }
    const first = checkAnswer(part, model, { ...right, steps: right.steps.slice(0, 1) });
    expect(first.points).toBeLessThan(2);
  });

  test('a step that is no move is refused', () => {
    const steps = [{ kind: 'series' as const, of: ['e1', 'y'] }];
    expect(() => readAnswer(part, model, { kind: 'reduction', steps })).toThrow('Step 1 is no move');
  });
});

describe('a list of loops or paths', () => {
  const part: PathsPart = { ...heading, kind: 'paths', system: 'X', from: 'r', to: 'y', list: 'loops', points: 4 };
  const list = (text: string) => checkAnswer(part, model, { kind: 'paths', text });

  test('in any order and form, signs included', () => {
    expect(list('-H2*G3*G2, -G1*H1*G2')).toMatchObject({ met: true, points: 4, words: 'All loops are found.' });
    expect(list('-G1*G2*H1')).toMatchObject({ met: false, points: 2 });
    expect(list('-G1*G2*H1, -G2*G3*H2, G1*G2').words).toMatch(/G1\*G2 is no loop/);
  });

  test('whichever of them was found, and one given twice is said to be so', () => {
    const [a, b] = ['-G1*G2*H1', '-G2*G3*H2'];
    expect(list(`${a}, G1`).points).toBe(list(`${b}, G1`).points);
    expect(list(`${a}, ${b}, G1`)).toMatchObject({ met: false, points: 2 });
    expect(list(`${a}, ${a}`)).toMatchObject({ points: 0, words: `1 of 2 found. ${a} is listed twice.` });
    expect(list(`${a}, ${b}, ${b}`).words).toBe(`2 of 2 found. ${b} is listed twice.`);
  });

  test('signs left out and the other list are named', () => {
    expect(list('G1*G2*H1; G2*G3*H2').slip?.id).toBe('signs');
    expect(list('G1*G2*G3').slip?.words).toBe('These are the forward paths.');
    expect(() => readAnswer(part, model, { kind: 'paths', text: 'Q' })).toThrow(/not in the diagram/);
    for (const { verdict } of usualWrongAnswers(part, model)) expect(verdict.met).toBe(false);
  });
});

describe('state matrices', () => {
  const part: StatesPart = {
    ...heading,
    kind: 'states',
    expected: '(s + K)/(s^2 + 2s + 5)',
    points: 2,
    tolerancePercent: 1,
  };
  const states = (text: string) => checkAnswer(part, model, answerFromText(part, text));

  test('count up to a change of state variables, with as few states as the system has', () => {
    expect(checkAnswer(part, model, rightAnswerOf(part, model)!).met).toBe(true);
    expect(states('0 1; -5 -2 | 0; 1 | K 1 | 0').met).toBe(true);
    // The same in other variables: x1 + x2 and x2.
    expect(states('-5 4; -5 3 | 1; 1 | 3 -2 | 0').met).toBe(true);
    expect(states('0 1 0; -5 -2 0; 0 0 -1 | 0; 1; 0 | 3 1 0 | 0').words).toMatch(/with 3 states; 2 are enough/);
    expect(states('0 1; -5 -2 | 0; 1 | 1 3 | 0').met).toBe(false);
    expect(() => readAnswer(part, model, answerFromText(part, '0 1 | 1 | 1 | 0'))).toThrow(/sizes do not fit/);
  });
});

test('letters stay letters in a diagram; a formula that needs its value is refused', () => {
  const document: ExerciseDocument = {
    ...exercise,
    statement: '',
    parameters: [],
    systems: [loop],
    parts: [overall],
  };
  expect(examine(document)).toEqual([]);
  const number = {
    ...heading,
    kind: 'number' as const,
    points: 1,
    formula: 'gainAtRest(L)',
    unit: '',
    tolerancePercent: 1,
  };
  expect(examine({ ...document, parts: [number] })[0]?.message).toMatch(/L/);
  const lost = { ...overall, asked: [{ id: 'x', from: 'q', to: 'y', points: 1 }] };
  expect(examine({ ...document, parts: [lost] })).toMatchObject([{ path: 'parts/0/asked/0' }]);
});
