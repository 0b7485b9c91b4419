import { checkAnswer, examine, prove, readAnswer, studentExercise } from '../src/checks';
import { withKnownLetters } from '../src/expression/letters';
import { toText } from '../src/expression/text';
import type { ExerciseDocument, Part } from '../src/index';
import { knownLetter, modelOf, numberFrom, parse, readingNotes, toLatex, transferOf } from '../src/index';
import { exercise } from './documents';

const parameter = (symbol: string, value: number, hidden = false) => ({
  ...{ symbol, meaning: '', unit: '', draw: { kind: 'fixed' as const, value } },
  ...(hidden ? { hidden } : {}),
});

describe('letters as they stand in print', () => {
  const known = ['zeta', 'wn', 'tau', 'ts', 'G1', 'Kp', 'K'];

  test.each([
    ['ζ', 'zeta'],
    ['ωn', 'wn'],
    ['ω_n', 'wn'],
    ['ωₙ', 'wn'],
    ['omega_n', 'wn'],
    ['τ', 'tau'],
    ['t_s', 'ts'],
    ['tₛ', 'ts'],
    ['G₁', 'G1'],
    ['G_1', 'G1'],
    ['K_p', 'Kp'],
    ['Kp', 'Kp'],
    ['k', 'k'],
    ['zeta1', 'zeta1'],
  ])('%s is %s', (typed, letter) => expect(knownLetter(typed, known)).toBe(letter));

  test.each([
    ['ω', ['w', 'ω'], 'ω'],
    ['omega', ['w', 'ω'], 'omega'],
    ['τ', ['T'], 'τ'],
  ])('%s with %j stays when it could be two, or none', (typed, letters, wanted) => {
    expect(knownLetter(typed, letters)).toBe(wanted);
  });

  test('in a whole expression', () => {
    const tree = withKnownLetters(parse('K*ωₙ²/(s^2+2ζ*ω_n*s+ωn^2)'), known);
    expect(toText(tree)).toBe('K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)');
  });
});

describe('functions of s', () => {
  test.each([
    ['C(s)G(s)/(1+C(s)G(s)H(s))', 'C*G/(1 + C*G*H)'],
    ['2G(s)', '2*G'],
    ['K(s+2)', 'K*(s + 2)'],
    ['s(s+3)', 's*(s + 3)'],
    ['G1(s)^2', 'G1^2'],
    ['G(2s)', 'G*(2*s)'],
  ])('%s is %s', (typed, meant) => expect(toText(parse(typed))).toBe(meant));

  test('the field says which reading it took', () => {
    expect(readingNotes(parse('C(s)G(s)/(1+C(s)G(s))'))).toEqual([
      'C(s), G(s): read as the blocks; for C times s write C*s.',
    ]);
    expect(readingNotes(parse('C*G/(1+C*G)'))).toEqual([]);
    expect(toLatex(parse('G(s)'))).toBe('G');
  });

  test.each([
    ['CG', 'write C*G'],
    ['G1G2', 'write G1*G2'],
    ['CGH/(1+C*G*H)', 'write C*G*H'],
  ])('%s tells how to write a product', (typed, words) => {
    const names = new Map(['C', 'G', 'H', 'G1', 'G2'].map((name) => [name, transferOf('1/(s+1)')]));
    expect(() => numberFrom(typed, { names })).toThrow(words);
  });
});

const loop: ExerciseDocument = {
  ...exercise,
  statement: 'The plant is {{G}}.',
  parameters: [parameter('K', 3), parameter('a', 2, true)],
  systems: [
    { name: 'G', meaning: '', form: { kind: 'expression', text: '4/(s^2+1.2*s+a)' } },
    {
      name: 'X',
      meaning: '',
      form: { kind: 'equations', text: 'e = r - H*y\ny = K*G*e\nwhere H = 1/(s+5)', from: 'r', to: 'y' },
    },
  ],
  parts: [
    {
      ...{ id: 't', title: 'T', prompt: '', kind: 'transferFunction', points: 1 },
      ...{ expected: 'y/r', tolerancePercent: 1 },
    },
    {
      ...{ id: 'g', title: 'G', prompt: '', kind: 'transferFunction', points: 1 },
      ...{ expected: 'G', tolerancePercent: 1 },
    },
  ],
};
const values = { K: '3', a: '2' };
const [closed, plant] = loop.parts as [Part, Part];
const answered = (part: Part, text: string) =>
  checkAnswer(part, modelOf(loop, values), { kind: 'transferFunction', text });

describe('blocks of a given diagram', () => {
  test.each(['K(s)*G(s)/(1+K*G(s)H(s))', 'K*G/(1 + K*G*H)', '12*(s+5)/((s+5)(s^2+1.2s+2)+12)'])(
    'are known in parts with numbers: %s',
    (text) => expect(answered(closed, text).met).toBe(true),
  );

  test('are no answer where they are what is asked for', () => {
    expect(() => answered(plant, 'G')).toThrow('“G” is not known');
    expect(answered(plant, '4/(s^2+1.2s+2)').met).toBe(true);
  });

  test('reach the student’s page where their values are shown anyway', () => {
    expect(studentExercise(loop, values).blocks.map(({ name }) => name)).toEqual(['G']);
    const unseen = { ...loop, statement: '' };
    expect(studentExercise(unseen, values).blocks).toEqual([]);
    const drawn = { ...loop, statement: '![loop](diagram:X)' };
    expect(studentExercise(drawn, values).blocks.map(({ name }) => name)).toEqual(['H']);
  });
});

describe('a hidden parameter', () => {
  test('is nowhere in what a student receives, and in no answer', () => {
    const seen = studentExercise({ ...loop, statement: '' }, values);
    expect(seen.parameters.map(({ symbol }) => symbol)).toEqual(['K']);
    expect(() => readAnswer(closed, modelOf(loop, values), { kind: 'transferFunction', text: '1/(s+a)' })).toThrow(
      '“a” is not known',
    );
  });

  test('does not come with the families of a loop', () => {
    const gains = exercise.parts.find(({ kind }) => kind === 'gains')!;
    const document = { ...loop, statement: '', parts: [{ ...gains, plant: 'K*G' } as Part] };
    const [part] = studentExercise(document, values).parts;
    expect(part!.kind === 'gains' && part.families.map(({ parameter }) => parameter)).toEqual(['K']);
  });

  test('must not be told by the words', () => {
    const told = examine({ ...loop, statement: 'With a = {{a}}.' });
    expect(told).toMatchObject([
      { path: 'statement', message: expect.stringContaining('hidden from students') as string },
    ]);
  });

  const finish = (document: ExerciseDocument, part: Part) => {
    const work = prove(document, part);
    let next = work.next();
    while (!next.done) next = work.next();
    return next.value.warnings;
  };

  test('is what one is asked for: a shown one is warned of', () => {
    const asked: Part = {
      ...{ id: 'n', title: 'N', prompt: '', kind: 'number', points: 1 },
      ...{ formula: 'gainAtRest(K*1/(s+1))', unit: '', tolerancePercent: 1 },
    };
    const document = { ...loop, parts: [asked] };
    expect(finish(document, asked)).toEqual([
      'K is asked for, and stands among the numbers that students see: hide it.',
    ]);
    const hidden = { ...document, parameters: [parameter('K', 3, true), parameter('a', 2)] };
    expect(finish(hidden, asked)).toEqual([]);
  });
});
