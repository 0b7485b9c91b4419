import {
  numberFromText,
  orProblem,
  parse,
  pointsFromText,
  Problem,
  rangesFromText,
  toLatex,
  transferOf,
  withBrackets,
  withKnownLetters,
} from '@nailset/core';

/** Numbers, points and ranges as students write them, and what is refused with words that say what to type instead. */

describe('what has no sure reading is refused where it stands, with what to type', () => {
  test.each([
    ['', 'Nothing is typed here yet.'],
    ['   ', 'Nothing is typed here yet.'],
    ['2/(s+1', 'never closed'],
    ['2/s+1)', 'never opened'],
    ['2/()', 'nothing between'],
    ['2/', 'stops where a value should follow'],
    ['*2', 'A value is missing before'],
    ['s^', 'stops where a value should follow'],
    ['2 3', 'write * between them'],
    ['√2/(s+1)', 'write its value, such as 1.4142 for √2'],
    ['sqrt(2)/(s+1)', 'write its value'],
    ['\\sqrt{2}/(s+1)', 'write its value'],
    ['2 # 3', '“#” has no meaning'],
    ['a = b = c', '“=” has no meaning'],
    ["x'' + x", 'prime'],
    ['1,2,3/(s+1)', ','],
    ['exp/s', 'exp needs a bracket'],
  ])('%j: %s', (text, words) => {
    const message = () => {
      try {
        return toLatex(parse(text));
      } catch (error) {
        if (error instanceof Problem) return error.message;
        throw error;
      }
    };
    expect(message()).toContain(words);
  });

  test.each([
    ['2 + \\cdot 3', 4],
    ['  G(s) = 2 + #', 13],
    ['s² + #', 5],
    ['\\frac{1}{s+#}', 11],
  ])('%j: the place is that of what was typed', (text, at) => {
    expect(orProblem(() => parse(text))).toMatchObject({ at });
    expect(orProblem(() => parse(text))).toBeInstanceOf(Problem);
  });

  test.each([
    ['CG', ['C', 'G', 'CG'], 'CG'],
    // Two ways to cut it: C·GH and CG·H.
    ['CGH', ['C', 'GH', 'CG', 'H'], 'CGH'],
    ['xyz', ['C'], 'xyz'],
  ])('%s is left as it is where it has another reading, or none', (text, letters, name) => {
    expect(withKnownLetters(parse(text), letters)).toMatchObject({ kind: 'name', name });
  });
});

describe('brackets that are most often forgotten are offered', () => {
  test.each([
    ['12/s^2+1.6s+4', '12/(s^2+1.6s+4)'],
    ['5(s+2)/s(s+1)', '5(s+2)/(s(s+1))'],
    ['1/2s', '1/(2s)'],
    ['s+1/s^2+2s', '(s+1)/(s^2+2s)'],
    ['(s+1)/s^2+2s.', '(s+1)/(s^2+2s)'],
    ['2/s²+3s', '2/(s²+3s)'],
    ['K/T*s+1', 'K/(T*s+1)'],
  ])('%s: %s', (text, offered) => expect(withBrackets(text)).toBe(offered));

  test.each([
    '12/(s^2+1.6s+4)',
    '1/s',
    'Kp + Ki/s',
    '1/s + 2',
    '1/s + 1/(s+2)',
    '2',
    '\\frac{1}{s}+s',
    '1/(s+1',
    '1/[s+1]',
    '',
  ])('none for %j', (text) => expect(withBrackets(text)).toBeUndefined());
});

describe('numbers', () => {
  const letters = new Map([
    ['wn', transferOf('4')],
    ['zeta', transferOf('0.5')],
  ]);
  test.each<[string, string, number]>([
    ...[
      '0.5',
      '0,5',
      '.5',
      '1/2',
      '½',
      '5e-1',
      '5E-1',
      '+0.5',
      '0.50',
      '0.5.',
      'K = 0.5',
      'Kp=0,5',
      '= 0.5',
      '≈ 0.5',
      '~0.5',
      '(0.5)',
      '1/(1+1)',
      '2^-1',
      '2⁻¹',
      '\\frac{1}{2}',
      '$0.5$',
      '0.5\u200b',
      '\u00a00.5',
      '\\frac12',
      'sin(pi/6)',
      'cos(π/3)',
      'exp(-ln(2))',
      '√0.25',
      'sqrt(0.25)',
      'sqrt 0.25',
      '\\sqrt{0.25}',
      '0.25^(1/2)',
      '0.25^0.5',
      'abs(-0.5)',
      '1 - ½',
      'ζ',
      'zeta',
      '2/ωn',
      '2/ω_n',
      '2/wn',
      '2/\\omega_n',
      'ζωn/4',
    ].map((text): [string, string, number] => [text, '', 0.5]),
    ...['-2', '−2', '–2', '- 2', '-2.0', '-2,0', '(-2)', '-(2)', '-4/2'].map((text): [string, string, number] => [
      text,
      '',
      -2,
    ]),
    ...[
      '0.9',
      '0.9 s',
      '0,9 s',
      '0.9s',
      '900 ms',
      '900ms',
      '9e2 ms',
      '0.015 min',
      '0.9 s.',
      't_s = 0.9 s',
      't_s=900 ms',
      'ts: 0.9',
      '0.9 sec',
      '9/10 s',
      '0.9 seconds',
    ].map((text): [string, string, number] => [text, 's', 0.9]),
    ...['32', '32°', '32 °', '32 deg', '32 degrees', '32,0°', 'φ = 32°'].map((text): [string, string, number] => [
      text,
      '°',
      32,
    ]),
    ...['0.5 rad', '0,5 rad', '1/2 rad'].map((text): [string, string, number] => [text, '°', 90 / Math.PI]),
    ...['12', '12 %', '12%', '12,0 %', 'Mp = 12 %', 'σ = 12%'].map((text): [string, string, number] => [text, '%', 12]),
    ...['12 %', '0.12', '0,12'].map((text): [string, string, number] => [text, '', 0.12]),
    ...['2 rad/s', '2', '2rad/s', '2,0 rad/s', '2 1/s', 'ω = 2 rad/s', '1/π Hz'].map(
      (text): [string, string, number] => [text, 'rad/s', 2],
    ),
    ...[
      '100 ln(50)/ln(50)',
      '1e2',
      '1,0e2',
      '10^2',
      '10²',
      '10**2',
      '2·50',
      '2*50',
      '2 × 50',
      '200÷2',
      '\\frac{200}{2}',
    ].map((text): [string, string, number] => [text, '', 100]),
    ...['pi', 'π', '\\pi', '2π/2', '4*atan(1)', 'π.'].map((text): [string, string, number] => [text, '', Math.PI]),
    ...['5 mm', '0.5 cm', '0,005 m', '5e-3'].map((text): [string, string, number] => [text, 'm', 0.005]),
  ])('%j in “%s” is %d', (text, unit, value) => {
    expect(numberFromText(text, unit, letters)).toBeCloseTo(value, 12);
  });

  test.each([
    ['', '', 'Nothing is typed here yet.'],
    ['s', '', 'A number is asked for, without s.'],
    ['5,92j', '', 'without j'],
    ['2+3i', '', 'without j'],
    ['∞', '', 'A finite number is asked for.'],
    ['inf', '', '“inf” is not known here'],
    ['1/0', '', ''],
    ['sqrt(-1)', '', 'no real value'],
    ['ln(-1)', '', 'no real value'],
    ['ln(0)', '', 'grows without end'],
    ['2 3', '', 'write * between them'],
    ['1 000', '', 'write * between them'],
    ['3 rad/s', 's', '“rad/s” is another kind of unit: s is asked for.'],
    ['3 ms', '°', '“ms” is another kind of unit: ° is asked for.'],
    ['x', '', '“x” is not known here; known: wn, zeta, pi, e.'],
    ['two', '', '“two” is not known here'],
    ['exp', '', 'exp needs a bracket'],
    ['sin(1, 2)', '', ''],
  ])('%j in “%s”: %s', (text, unit, words) => {
    expect(() => numberFromText(text, unit, letters)).toThrow(Problem);
    try {
      numberFromText(text, unit, letters);
    } catch (error) {
      expect((error as Problem).message).toContain(words);
    }
  });
});

interface Point {
  re: number;
  im: number;
}

describe('points', () => {
  const pair = [
    { re: -1.5, im: 2.5 },
    { re: -1.5, im: -2.5 },
  ];
  test.each<[string, Point[]]>([
    ...[
      '-1.5+2.5j; -1.5-2.5j',
      '-1.5 ± 2.5j',
      '−1.5 ± 2.5j',
      '-1,5 ± 2,5j',
      '-1.5 +- 2.5i',
      '-1.5 +/- j2.5',
      '-1.5±2.5*j',
      '-1.5+2.5i, -1.5-2.5i',
      '-1,5+2,5j\n-1,5-2,5j',
      '(-1.5+2.5j); (-1.5-2.5j)',
      's = -1.5 ± 2.5j',
      '-3/2 ± 5/2j',
      '–1.5 ± 2.5j',
      '-1.5\u200b ± 2.5j',
    ].map((text): [string, Point[]] => [text, pair]),
    ...[
      '-1, -2',
      '-1; -2',
      '-1,-2',
      '-1\n-2',
      '−1, −2',
      's = -1, s = -2',
      '-1.0, -2.0',
      '-1,0; -2,0',
      '-2/2; -4/2',
    ].map((text): [string, Point[]] => [
      text,
      [
        { re: -1, im: 0 },
        { re: -2, im: 0 },
      ],
    ]),
    ['-1,3854', [{ re: -1.3854, im: 0 }]],
    ['5,92j', [{ re: 0, im: 5.92 }]],
    ['0', [{ re: 0, im: 0 }]],
  ])('%j', (text, expected) => {
    const found = pointsFromText(text);
    expect(found).toHaveLength(expected.length);
    found.forEach(({ re, im }, k) => {
      const { re: real, im: imaginary } = expected[k]!;
      expect(re).toBeCloseTo(real, 12);
      expect(im).toBeCloseTo(imaginary, 12);
    });
  });

  test.each([
    ['', 'Mark or type the points first.'],
    ['1,2,3', 'put blanks behind the commas'],
    ['-1+2', 'is not a point'],
    ['a+bj', 'is not a point'],
    ['-1 2j', ''],
  ])('%j: %s', (text, words) => {
    expect(() => pointsFromText(text)).toThrow(words === '' ? Problem : words);
  });
});

describe('ranges', () => {
  test.each<[string, [number, number][]]>([
    ...[
      '0 < K < 1.5',
      '0<K<1,5',
      'K < 1.5',
      '(0, 1.5)',
      '(0; 1,5)',
      ']0; 1.5[',
      'K ∈ (0, 1.5)',
      '0 to 1.5',
      '0 … 1.5',
      'K<3/2',
      '1.5 > K > 0',
      'K < 1,5',
      '0 < K and K < 1.5',
      '0 ≤ K ≤ 1.5',
      '0 <= K <= 1.5',
      '(0,1.5)',
    ].map((text): [string, [number, number][]] => [text, [[0, 1.5]]]),
    ...[
      'K > 1.5',
      'K > 1,5',
      '> 1.5',
      '1.5 < K',
      '(1.5, ∞)',
      '(1,5; ∞)',
      'K >= 1.5',
      'K ≥ 3/2',
      '(1.5, infinity)',
      '(1.5, inf)',
      'K ∈ (1.5, ∞)',
    ].map((text): [string, [number, number][]] => [text, [[1.5, Infinity]]]),
    ...['K < 1 or K > 2', '(0,1) ∪ (2,∞)', '0 < K < 1; K > 2', 'K<1\nK>2', '(0; 1) or (2; ∞)'].map(
      (text): [string, [number, number][]] => [
        text,
        [
          [0, 1],
          [2, Infinity],
        ],
      ],
    ),
    ['none', []],
    ['∅', []],
    ['no K', []],
  ])('%j', (text, expected) => expect(rangesFromText(text)).toEqual(expected));

  test.each([
    ['', 'Type the range first.'],
    ['K', ''],
    ['3 < K < 2', 'the lower end stands first'],
    ['K > a', ''],
  ])('%j: %s', (text, words) => expect(() => rangesFromText(text)).toThrow(words === '' ? Problem : words));
});
