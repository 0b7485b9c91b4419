import {
  answerFromText,
  checkAnswer,
  examine,
  prove,
  readAnswer,
  revealedCurves,
  searchOf,
  searchSettings,
  solutionOf,
  studentExercise,
  upgraded,
  verdictAsShown,
} from '../src/checks';
import {
  type ChoicePart,
  type CurvePart,
  type ExerciseDocument,
  type GainsPart,
  LoopModel,
  modelOf,
  type NumberPart,
  type TrendPart,
} from '../src/index';
import { exercise, model as lamp, student, tune } from './documents';

describe('a value with which something holds', () => {
  const loop = {
    name: 'L',
    meaning: '',
    form: { kind: 'equations' as const, text: 'y = K/(s^2 + a*s)*(r - y)', from: 'r', to: 'y' },
  };
  const part: NumberPart = {
    id: 'k',
    kind: 'number',
    title: 'K',
    prompt: '',
    points: 2,
    formula: 'a^2',
    unit: '',
    tolerancePercent: 1,
    condition: { symbol: 'K', holds: '0.49 <= dampingRatio(L) <= 0.51' },
  };
  const of = modelOf({ systems: [loop], series: [] }, { a: '3' });

  test('is looked for with the student’s value in the place of its letter', () => {
    const check = (text: string) => checkAnswer(part, of, { kind: 'number', text });
    for (const text of ['9', '9.2', '8.9']) expect(check(text)).toMatchObject({ met: true, points: 2 });
    expect(check('12')).toMatchObject({ met: false, words: '12: with this value it does not hold.' });
    expect(check('-4').met).toBe(false);
    expect(solutionOf(part, of)).toBe('9');
  });

  test('the formula’s own value must be one', () => {
    const document: ExerciseDocument = {
      ...exercise,
      statement: '',
      parameters: [{ symbol: 'a', meaning: '', unit: '', draw: { kind: 'fixed', value: 3 } }],
      systems: [loop],
      parts: [part],
    };
    expect(examine(document)).toEqual([]);
    expect(examine({ ...document, parts: [{ ...part, formula: 'a' }] })).toMatchObject([{ path: 'parts/0/condition' }]);
  });
});

describe('choices', () => {
  const part: ChoicePart = {
    id: 'c',
    kind: 'choice',
    title: 'Choose',
    prompt: '',
    points: 4,
    several: false,
    options: [
      { id: 'a', text: 'It swings.', right: 'overshootPercent(G) > 5' },
      { id: 'b', text: 'It creeps to {{K}}.', right: 'overshootPercent(G) <= 5', remark: 'Look at ζ.' },
    ],
  };
  const systems = [
    {
      name: 'G',
      meaning: '',
      form: { kind: 'secondOrder' as const, gain: 'K', dampingRatio: 'z', naturalFrequency: '2' },
    },
  ];
  const of = (z: string) => modelOf({ systems, series: [] }, { K: '3', z });

  test('what is right follows from the student’s own numbers', () => {
    expect(checkAnswer(part, of('0.2'), { kind: 'choice', chosen: ['a'] })).toMatchObject({ met: true, points: 4 });
    const wrong = checkAnswer(part, of('0.2'), { kind: 'choice', chosen: ['b'] });
    expect(wrong).toMatchObject({ met: false, points: 0, words: 'Chosen, but not right. Look at ζ.' });
    expect(solutionOf(part, of('1.5'))).toBe('It creeps to 3.');
    expect(answerFromText(part, 'B')).toEqual({ kind: 'choice', chosen: ['b'] });
    expect(() => readAnswer(part, of('1'), { kind: 'choice', chosen: ['a', 'b'] })).toThrow(/Only one/);
    expect(() => readAnswer(part, of('1'), { kind: 'choice', chosen: ['q'] })).toThrow(/no option/);
  });

  test('several give shares, or nothing', () => {
    const several = { ...part, several: true };
    expect(checkAnswer(several, of('0.2'), { kind: 'choice', chosen: ['a', 'b'] }).points).toBe(2);
    const strict = { ...several, marking: 'allOrNothing' as const };
    expect(checkAnswer(strict, of('0.2'), { kind: 'choice', chosen: ['a', 'b'] }).points).toBe(0);
  });

  test('diagrams are compared by what they do, whatever their letters are called in between', () => {
    const loop = (name: string, text: string, to = 'y') => ({
      ...{ name, meaning: '' },
      form: { kind: 'equations' as const, text, from: 'r', to },
    });
    const drawn = [
      loop('X', 'e = r - H*y\ny = G*e'),
      loop('A', 'a = r/H - z\nz = H*G*a\nq = z/1', 'q'),
      loop('B', 'e = r + H*y\ny = G*e'),
      loop('C', 'y = Q*r'),
    ];
    const which: ChoicePart = {
      ...part,
      options: ['A', 'B', 'C'].map((name) => ({
        id: name.toLowerCase(),
        text: `![${name}](diagram:${name})`,
        right: { equal: [name, 'X'] as [string, string] },
      })),
    };
    const model = modelOf({ systems: drawn, series: [] }, {});
    const met = ['a', 'b', 'c'].map((id) => checkAnswer(which, model, { kind: 'choice', chosen: [id] }).met);
    expect(met).toEqual([true, false, false]);
    const missing = { ...which, options: [{ ...which.options[0]!, right: { equal: ['A', 'Z'] as [string, string] } }] };
    expect(() => checkAnswer(missing, model, { kind: 'choice', chosen: ['a'] })).toThrow(/no system Z/);
  });

  test('two right ones are found before publishing', () => {
    const both = { ...part, options: part.options.map((option) => ({ ...option, right: true })) };
    expect(examine({ ...exercise, parts: [both] })[0]!.message).toMatch(/2 options are right/);
  });
});

describe('trend tables', () => {
  const part: TrendPart = {
    id: 't',
    kind: 'trend',
    title: 'Table',
    prompt: '',
    points: 4,
    changes: [{ id: 'k', label: 'K up', symbol: 'K', factor: 2 }],
    rows: [
      { id: 'rise', label: 'Rise', formula: 'riseTime(closed(K/(s*(s+1.4))))' },
      { id: 'over', label: 'Overshoot', formula: 'overshootPercent(closed(K/(s*(s+1.4))))' },
      { id: 'offset', label: 'Offset', formula: 'stepError(K/(s*(s+1.4)))' },
      { id: 'sigma', label: 'Decay', formula: 'slowestRealPart(closed(K/(s*(s+1.4))))' },
    ],
    samePercent: 1,
  };
  const own = modelOf({ systems: [], series: [] }, { K: '2' });
  const answer = (...ways: ('up' | 'same' | 'down')[]) => ({
    kind: 'trend' as const,
    cells: Object.fromEntries(part.rows.map((row, k) => [`${row.id}/k`, ways[k]!])),
  });

  test('come from the model', () => {
    expect(checkAnswer(part, own, answer('down', 'up', 'same', 'same'))).toMatchObject({ met: true, points: 4 });
    expect(checkAnswer(part, own, answer('down', 'up', 'down', 'same')).points).toBe(3);
    expect(() => readAnswer(part, own, { kind: 'trend', cells: { 'rise/k': 'up' } })).toThrow(/3 cells are still open/);
    expect(answerFromText(part, 'down up same same')).toEqual(answer('down', 'up', 'same', 'same'));
  });
});

describe('curves to follow', () => {
  const times = Array.from({ length: 41 }, (_, k) => k / 4);
  const series = [
    { id: 'log', name: 'log', times, values: times.map((t) => (t < 1 ? 0 : 2 * (1 - Math.exp(-(t - 1) / 3)))) },
  ];
  const part: CurvePart = {
    id: 'f',
    kind: 'curve',
    title: 'Follow',
    prompt: '',
    points: 3,
    model: 'K*exp(-L*s)/(T*s + 1)',
    knobs: ['K', 'L', 'T'].map((symbol) => ({ symbol, unit: '', start: 1, fine: 0.1, coarse: 1, low: 0.1, high: 5 })),
    target: { series: 'log' },
    output: 'y',
    horizon: 10,
    misfitPercent: 2,
  };
  const of = modelOf({ systems: [], series }, {});
  const at = (K: string, L: string, T: string) => checkAnswer(part, of, { kind: 'curve', knobs: { K, L, T } });

  test('count by their misfit', () => {
    expect(at('2', '1', '3')).toMatchObject({ met: true, points: 3 });
    expect(at('2', '1', '3').items[0]!.measured).toBeCloseTo(0, 2);
    expect(at('2', '2', '3').met).toBe(false);
    expect(() => at('2', '-1', '3')).toThrow(/Dead time/);
    expect(answerFromText(part, 'T=3, K=2 L=1')).toEqual({ kind: 'curve', knobs: { K: '2', L: '1', T: '3' } });
  });

  test('are found by the search', () => {
    const work = searchSettings(searchOf(part)!, [of]);
    let next = work.next();
    while (!next.done) next = work.next();
    const { settings } = next.value.draws[0]!;
    expect(at(settings!['K']!, settings!['L']!, settings!['T']!).met).toBe(true);
  });
});

describe('the proof before publishing', () => {
  const finish = (document: ExerciseDocument, k = 0) => {
    const work = prove(document, document.parts[k]!);
    const shares: number[] = [];
    for (;;) {
      const next = work.next();
      if (next.done) return { proof: next.value, shares };
      shares.push(next.value);
    }
  };
  const two: GainsPart = {
    ...tune,
    controller: {
      terms: 'PD',
      form: 'parallel',
      gains: [
        { name: 'Kp', start: 1, fine: 0.5, coarse: 5, low: 0, high: 40 },
        { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 10 },
      ],
    },
    nails: tune.nails.slice(0, 2),
  };

  const fixed = (each: ExerciseDocument['parameters'][number]) => {
    const value = new Map([
      ['K', 2],
      ['zeta', 0.3],
    ]).get(each.symbol);
    return value === undefined ? each : { ...each, draw: { kind: 'fixed' as const, value } };
  };
  const twoOfThem = exercise.parameters.map((each) =>
    each.symbol === 'K' ? { ...each, draw: { kind: 'list' as const, values: [1.5, 2] } } : fixed(each),
  );

  test('gains that it shows hold every nail for their student', () => {
    const document = { ...exercise, parts: [two] };
    const { proof, shares } = finish(document);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    // Ten students, two of whom have the numbers of others.
    expect(proof.draws).toHaveLength(8);
    for (const { values, settings } of proof.draws) {
      expect(checkAnswer(two, modelOf(document, values), { kind: 'gains', gains: settings! }).met).toBe(true);
    }
    expect(proof.search!.conflicts).toEqual([]);
    expect(proof.search!.map.share).toBeGreaterThan(0.1);
    expect(proof.wrong.every(({ told }) => told.length > 10)).toBe(true);
  });

  test('nails that cannot hold together are named', () => {
    const impossible: GainsPart = {
      ...two,
      nails: [
        { id: 'slow', quantity: 'riseTime', relation: 'atLeast', limit: 0.6, points: 1 },
        { id: 'fast', quantity: 'settlingTime', relation: 'atMost', limit: 0.3, points: 1 },
        { id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 50, points: 1 },
      ],
    };
    const { proof } = finish({ ...exercise, parts: [impossible], parameters: twoOfThem });
    expect(proof.draws.map(({ values, settings }) => [values['K'], settings]).sort()).toEqual([
      ['1.5', null],
      ['2', null],
    ]);
    expect(proof.search!.conflicts).toEqual([['slow', 'fast']]);
  });

  test('what is the same for everyone is proved once', () => {
    const parameters = exercise.parameters.map(fixed);
    const { proof } = finish({ ...exercise, parts: [two], parameters });
    expect([proof.draws.length, proof.search!.draws.length]).toEqual([1, 1]);
    expect(proof.draws[0]!.values).toMatchObject({ K: '2', zeta: '0.3', a: '1.2' });
  });

  test('a rule that would mislead is warned of', () => {
    const part = {
      ...exercise.parts[1]!,
      formula: 'overshootPercent(closed((3*s + 5)/(s^2 + 1.3*s)))',
    } as (typeof exercise.parts)[1];
    const { proof } = finish({ ...exercise, parts: [part] });
    expect(proof.warnings[0]).toMatch(/second-order rule gives/);
  });
});

describe('what a student sees', () => {
  const document: ExerciseDocument = {
    ...exercise,
    statement: 'G is {{G}}, its overshoot {{round(overshootPercent(G), 1)}} %, and {{1}} stays.',
    systems: [
      {
        name: 'G',
        meaning: '',
        form: { kind: 'secondOrder', gain: 'K', dampingRatio: 'zeta', naturalFrequency: 'wn' },
      },
    ],
    parts: [
      {
        ...lamp,
        expected: 'G',
        figure: {
          horizon: 4,
          curves: [
            { label: 'unit', system: '1/(s+1)', afterwards: false },
            { label: 'secret', system: 'G', afterwards: true },
          ],
        },
      },
      { ...tune, plant: 'G' },
    ],
  };

  test('values and systems are put into words, and later curves are kept back', () => {
    const seen = studentExercise(document, student.values);
    expect(seen.statement).toBe('G is \\frac{18}{s^{2}+1.8\\,s+9}, its overshoot 37.2 %, and {{1}} stays.');
    expect(seen.parts[0]).toMatchObject({ attempts: 1, figure: { afterwards: 1, curves: [{ label: 'unit' }] } });
    expect(JSON.stringify(seen.parts[0])).not.toContain('secret');
    const [curve] = revealedCurves(document, document.parts[0]!, student.values);
    expect(curve).toMatchObject({ label: 'secret' });
    expect(curve!.values.at(-1)).toBeCloseTo(2, 0);
  });

  test('a loop comes with numbers alone', () => {
    const part = studentExercise(document, student.values).parts[1] as unknown as GainsPart;
    expect(part.plant).not.toMatch(/[A-Za-rt-z]/);
    expect(() => new LoopModel(part, { names: new Map() }).loopWith({ Kp: '1', Ki: '0', Kd: '0' })).not.toThrow();
  });

  test('a verdict tells as much as the exercise allows', () => {
    const verdict = checkAnswer(tune, student, { kind: 'gains', gains: { Kp: '14', Ki: '0', Kd: '5' } });
    expect(verdictAsShown(verdict, { measured: true, slip: true })).toEqual(verdict);
    const bare = verdictAsShown(verdict, { measured: false, slip: false });
    expect(bare.slip).toBeUndefined();
    expect(bare.words).toBe('2 of 3 hold.');
    expect(bare.items.map(({ words, measured }) => [words, measured])).toContainEqual(['Overshoot: holds.', null]);
  });
});

test('a document of the first format is read in the present one', () => {
  const old = {
    format: 1,
    title: 'Old',
    statement: '',
    parameters: [],
    parts: [
      {
        id: 'n',
        kind: 'number',
        title: 'N',
        prompt: '',
        points: 1,
        quantity: 'riseTime',
        system: '1/(s+1)',
        tolerancePercent: 1,
      },
      {
        id: 'g',
        kind: 'gains',
        title: 'G',
        prompt: '',
        plant: '1/s',
        form: 'P',
        output: 'y',
        start: { Kp: 1 },
        rungs: { Kp: { fine: 1, coarse: 2 } },
        horizon: 3,
        nails: tune.nails,
      },
    ],
    attempts: 1,
    verdict: 'atOnce',
    solution: 'never',
  };
  const document = upgraded(old) as ExerciseDocument;
  expect(examine(document)).toEqual([]);
  expect(document.parts[0]).toMatchObject({ formula: 'riseTime(1/(s+1))', unit: 's' });
  expect(document.parts[1]).toMatchObject({
    controller: { terms: 'P', gains: [{ name: 'Kp', start: 1, fine: 1, coarse: 2 }] },
  });
  expect(upgraded(document)).toBe(document);
  const nail = { id: 'rest', relation: 'atLeast', limit: 1, points: 1 };
  const former = {
    format: 2,
    parts: [{ kind: 'number' }, { kind: 'gains', nails: [{ ...nail, quantity: 'dcGain' }] }],
  };
  expect(upgraded(former)).toEqual({
    format: 2,
    parts: [{ kind: 'number' }, { kind: 'gains', nails: [{ ...nail, quantity: 'gainAtRest' }] }],
  });
});

describe('guards', () => {
  const guarded = (guard: string): ExerciseDocument => ({
    ...exercise,
    guards: [guard],
    systems: [
      {
        name: 'G',
        meaning: '',
        form: { kind: 'secondOrder', gain: 'K', dampingRatio: 'zeta', naturalFrequency: 'wn' },
      },
    ],
  });
  test('keep every draw sensible', () => {
    const document = guarded('20 <= overshootPercent(G) <= 40');
    expect(examine(document)).toEqual([]);
    for (let k = 0; k < 10; k++) {
      const seen = studentExercise(document, modelOf(document, student.values).values);
      expect(seen.parameters).toHaveLength(5);
    }
  });
  test('that nothing meets, or that cannot be read, are found', () => {
    expect(examine(guarded('overshootPercent(G) > 90'))[0]).toMatchObject({
      path: 'guards',
      message: expect.stringContaining('No values meet the guards') as string,
    });
    expect(examine(guarded('overshootPercent(Q) > 9'))[0]).toMatchObject({ path: 'guards/0' });
  });
});
