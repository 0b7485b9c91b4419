import { drawValues, examine, sampleOf, studentExercise } from '../src/checks';
import { type ExerciseDocument, fractionOf, insertValues, isSameFraction, type StudentPart } from '../src/index';
import { exercise, model, pid, tune, values } from './documents';

const withParameter = (draw: ExerciseDocument['parameters'][number]['draw']) => ({
  parameters: [{ symbol: 'p', meaning: '', unit: '', draw }],
  systems: [],
  guards: [],
});

describe('draws', () => {
  test('are the same for the same student, for ever', () => {
    expect(drawValues(exercise, 'version 1\nIlse')).toEqual({ K: '2.5', zeta: '0.3', wn: '3', a: '1.2', b: '3' });
  });

  test('stay as they were when another parameter changes', () => {
    const changed = { ...exercise, parameters: exercise.parameters.slice(1) };
    for (let k = 0; k < 20; k++) {
      expect(drawValues(changed, `student ${k}`)['zeta']).toBe(drawValues(exercise, `student ${k}`)['zeta']);
    }
  });

  test('reach every value about equally often and nothing else', () => {
    const document = withParameter({ kind: 'range', from: 0.1, to: 0.5, step: 0.1 });
    const counts = new Map<string, number>();
    for (let k = 0; k < 2000; k++) {
      const { p } = drawValues(document, `student ${k}`);
      counts.set(p!, (counts.get(p!) ?? 0) + 1);
    }
    expect([...counts.keys()].sort()).toEqual(['0.1', '0.2', '0.3', '0.4', '0.5']);
    expect(Math.min(...counts.values())).toBeGreaterThan(300);
  });

  test('count in exact steps, over zero too', () => {
    const found = sampleOf({ ...exercise, ...withParameter({ kind: 'range', from: -0.3, to: 0.35, step: 0.1 }) }, 300);
    const seen = new Set(found.map(({ p }) => p));
    expect([...seen].sort()).toEqual(['-0.1', '-0.2', '-0.3', '0', '0.1', '0.2', '0.3']);
  });

  test.each([
    [{ kind: 'range', from: 1, to: 2, step: 0 }, /step/],
    [{ kind: 'range', from: 2, to: 1, step: 0.1 }, /upper end/],
    [{ kind: 'range', from: 0, to: 1, step: 1e-9 }, /larger step/],
  ] as const)('%o cannot be drawn from', (draw, message) => {
    expect(() => drawValues(withParameter(draw), 'any')).toThrow(message);
  });
});

describe('what a student sees', () => {
  test('own numbers are put into the words; other braces stay', () => {
    expect(insertValues('K is {{K}}, unknown {{q}} stays, and \\frac{{1}}{2} too.', values)).toBe(
      'K is 2, unknown {{q}} stays, and \\frac{{1}}{2} too.',
    );
  });

  test('nothing that is expected gets through', () => {
    const seen = studentExercise(exercise, values);
    expect(seen.parts[0]).toEqual({
      id: 'model',
      kind: 'transferFunction',
      title: 'Model',
      prompt: 'With K = 2.',
      points: 4,
      tolerancePercent: 1,
      attempts: 3,
    });
    expect(JSON.stringify(seen.parts.slice(0, 2))).not.toMatch(/expected|formula|zeta/);
  });

  test('systems go to the open bench where the instructor lets them, with the student’s numbers', () => {
    const form = { kind: 'expression' as const, text: 'K/(s + 4)' };
    const more = {
      ...exercise,
      systems: [
        { name: 'Q', meaning: '', form },
        { name: 'W', meaning: '', form, open: true },
      ],
    };
    const { open } = studentExercise({ ...more, parts: [] }, values);
    expect(open.map(({ name }) => name)).toEqual(['W']);
    expect(open[0]?.text).not.toContain('K');
  });

  test('comes with its plant at other values of the parameters that matter to it', () => {
    const part = studentExercise(exercise, values).parts.find(({ kind }) => kind === 'gains') as Extract<
      StudentPart,
      { kind: 'gains' }
    >;
    expect(part.families.map(({ parameter }) => parameter)).toEqual(['a', 'b']);
    const [slow] = part.families[0]!.members;
    expect(Number(slow!.value)).toBe(Number(values['a']) / 2);
    expect(isSameFraction(fractionOf(slow!.plant), fractionOf(`${values['b']}/(s^2 + ${slow!.value}s + 0.8)`))).toBe(
      true,
    );
  });
});

describe('examining an exercise before it is published', () => {
  const withParts = (...parts: ExerciseDocument['parts']): ExerciseDocument => ({ ...exercise, parts });
  const paths = (document: ExerciseDocument) => examine(document).map(({ path }) => path);

  test('a good one has no findings', () => {
    expect(examine(exercise)).toEqual([]);
  });

  test.each([
    ['a misspelt parameter', 'with {{k}}', '{{k}}'],
    ['a misspelt system between dollar signs', '$$G(s) = {{Gx}}$$', '{{Gx}}'],
    ['a function that there is not', 'It rises in {{risetime(1/(s+1))}} s.', '{{risetime(1/(s+1))}}'],
    ['half a formula', 'It is {{K +}} high.', '{{K +}}'],
  ])('words that students would see in braces are found: %s', (_name, statement, shown) => {
    expect(examine({ ...exercise, statement })).toEqual([
      {
        path: 'statement',
        message: `${shown} stands for nothing: it is no parameter, system or formula of this exercise.`,
      },
    ]);
    const parts = exercise.parts.map((part, k) => (k === 0 ? { ...part, prompt: statement } : part));
    expect(examine({ ...exercise, parts }).map(({ path }) => path)).toEqual(['parts/0/prompt']);
  });

  test.each(['{{K}} and {{ 2*K }}', '$x_{{i+1}} = {{\\rm d}}$', '$\\frac{{1}}{2}$', '{{riseTime(1/(s+1))}} s'])(
    'braces that mean something are not: %s',
    (statement) => expect(examine({ ...exercise, statement })).toEqual([]),
  );

  test.each<[string, ExerciseDocument, string]>([
    ['an empty title', { ...exercise, title: ' ' }, 'title'],
    [
      'a symbol twice',
      { ...exercise, parameters: [...exercise.parameters, exercise.parameters[0]!] },
      'parameters/5/symbol',
    ],
    [
      'the variable as a symbol',
      { ...exercise, parameters: [{ ...exercise.parameters[0]!, symbol: 's' }] },
      'parameters/0/symbol',
    ],
    [
      'an impossible draw',
      { ...exercise, ...withParameter({ kind: 'range', from: 1, to: 0, step: 1 }) },
      'parameters/0/draw',
    ],
    ['a part twice', withParts(model, model), 'parts/1/id'],
    ['an unknown name', withParts({ ...model, expected: 'q/(s+1)' }), 'parts/0/expected'],
    ['an improper plant', withParts({ ...tune, plant: 's^2/(s+1)' }), 'parts/0/plant'],
    ['an empty title of a part', withParts({ ...model, title: '' }), 'parts/0/title'],
    [
      'a controller without one of its gains',
      withParts({ ...tune, controller: { ...pid, gains: pid.gains.slice(1) } }),
      'parts/0/controller',
    ],
  ])('%s is found', (_name, document, path) => {
    expect(paths(document)).toContain(path);
  });

  test('a draw at one end of its range that breaks the system is found, with its numbers', () => {
    const document: ExerciseDocument = {
      ...withParts({ ...model, prompt: '', expected: '1/(p*(s+1))' }),
      ...withParameter({ kind: 'range', from: 0, to: 1, step: 0.1 }),
      statement: '',
    };
    expect(examine(document)[0]).toMatchObject({
      path: 'parts/0/expected',
      message: expect.stringContaining('p = 0') as string,
    });
  });

  test('a number that the response does not have is found', () => {
    const part = {
      ...exercise.parts[1]!,
      formula: 'peakTime(1/(s+1))',
    } as ExerciseDocument['parts'][number];
    expect(examine(withParts(part))[0]!.message).toMatch(/Peak time: this system has none/);
  });
});
