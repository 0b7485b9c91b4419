import {
  isSameTransfer,
  numberFromText,
  parse,
  pointsFromText,
  Problem,
  rangesFromText,
  toLatex,
  transferFrom,
  transferOf,
  withBrackets,
  withKnownLetters,
} from '@nailset/core';

/** Answers as students write them: each is read as what is meant, or refused with words that say what to type instead. */

/** Whether two texts mean the same fraction in s, with some value for each letter. */
function isSame(left: string, right: string, letters: readonly string[]): boolean {
  const values = new Map(letters.map((name, k) => [name, transferOf(`${3 + 2 * k}/7`)]));
  const [a, b] = [left, right].map((text) => transferFrom(withKnownLetters(parse(text), letters), values));
  return isSameTransfer(a!, b!);
}

const none: string[] = [];
/** A meaning, and the ways of typing it. */
const fractions: [meaning: string, letters: string[], typed: string[]][] = [
  [
    '2/(s^2+3*s+5)',
    none,
    [
      '2/(s^2+3s+5)',
      '2 / ( s^2 + 3 s + 5 )',
      '2/(s²+3s+5)',
      '2/(s^2 + 3·s + 5)',
      '2/(s^2+3×s+5)',
      '2/(s^2 + 3⋅s + 5)',
      '2÷(s²+3s+5)',
      '2∕(s²+3s+5)',
      '2/(s**2+3*s+5)',
      '2/(s**2 + 3*s + 5)',
      '2/[s^2+3s+5]',
      '2/{s^2+3s+5}',
      '(2)/(s^2+3s+5)',
      '2(s^2+3s+5)^-1',
      '2(s^2+3s+5)⁻¹',
      '2*(s^2+3s+5)^(-1)',
      '\\frac{2}{s^2+3s+5}',
      '\\dfrac{2}{s^{2}+3s+5}',
      '\\tfrac{2}{s^2 + 3 s + 5}',
      '$\\frac{2}{s^2+3s+5}$',
      '$$\\frac{2}{s^{2}+3\\,s+5}$$',
      '\\(\\frac{2}{s^2+3s+5}\\)',
      '\\[ \\frac{2}{s^2+3s+5} \\]',
      '\\frac{2}{\\left(s^2+3s+5\\right)}',
      '\\frac{2}{s^2+3\\cdot s+5}',
      '\\displaystyle\\frac{2}{s^2+3s+5}',
      'G(s) = 2/(s^2+3s+5)',
      'G(s)=2/(s^2+3s+5)',
      'G = 2/(s^2+3s+5)',
      'Y/R = 2/(s^2+3s+5)',
      'Y(s)/R(s) = 2/(s^2+3s+5)',
      'y/r: 2/(s^2+3s+5)',
      'T: 2/(s^2+3s+5)',
      '= 2/(s^2+3s+5)',
      '2/(s^2+3s+5).',
      '2/(s^2+3s+5);',
      '2/(s^2+3s+5)\u200b',
      '\ufeff2/(s^2+3s+5)',
      '2\u00a0/\u00a0(s^2\u2009+\u20093s\u202f+\u202f5)',
      '2/(s^2\u00ad+3s+5)',
      '2/（s^2+3s+5）',
      '2/(s^2+3s+5,0)',
      '2,0/(s^2+3,0s+5)',
      '2.0/(1.0s^2+3.0s+5.0)',
      '2/(5+3s+s^2)',
      '2/(s*s+3*s+5)',
      '2/(ss+3s+5)',
      '2e0/(s^2+3s+5)',
      '4/(2s^2+6s+10)',
      '-2/(-s^2-3s-5)',
      '−2/(−s²−3s−5)',
      '–2/(–s²–3s–5)',
      '(s+2-s)/(s^2+3s+5)',
    ],
  ],
  [
    '0.5/(s+0.25)',
    none,
    [
      '0,5/(s+0,25)',
      '.5/(s+.25)',
      '½/(s+¼)',
      '(1/2)/(s+1/4)',
      '\\frac12/(s+\\frac14)',
      '\\frac{1}{2}/(s+\\frac{1}{4})',
      '2/(4s+1)',
      '5e-1/(s+2.5e-1)',
      '0,5/(s+0,25).',
    ],
  ],
  [
    '\\frac{\\frac{3}{4}}{s+\\frac{1}{2}}',
    none,
    ['(3/4)/(s+1/2)', '¾/(s+½)', '\\frac{3/4}{s+1/2}', '\\frac{\\frac34}{s+\\frac12}', '3/(4s+2)', '1.5/(2s+1)'],
  ],
  [
    '10*(s+2)/(s*(s+1)*(s+5))',
    none,
    [
      '10(s+2)/(s(s+1)(s+5))',
      '\\frac{10(s+2)}{s(s+1)(s+5)}',
      '10·(s+2)/(s·(s+1)·(s+5))',
      '\\frac{10\\left(s+2\\right)}{s\\left(s+1\\right)\\left(s+5\\right)}',
      '10 (s + 2) / (s (s + 1) (s + 5))',
      '10[s+2]/{s[s+1][s+5]}',
      '10(s+2)/(s^3+6s^2+5s)',
      '10(s+2)/(s³+6s²+5s)',
      '\\frac{10 s+20}{s^{3}+6 s^{2}+5 s}',
      '(10s+20)/(s**3+6*s**2+5*s)',
    ],
  ],
  [
    '(s+1)^3/(s+2)^12',
    none,
    [
      '(s+1)³/(s+2)¹²',
      '(s+1)^{3}/(s+2)^{12}',
      '\\frac{(s+1)^{3}}{(s+2)^{12}}',
      '(s+1)**3/(s+2)**12',
      '(s+1)(s+1)²/(s+2)¹²',
      '(s+1)³(s+2)⁻¹²',
    ],
  ],
  [
    'K*wn^2/(s^2+2*zeta*wn*s+wn^2)',
    ['K', 'zeta', 'wn'],
    [
      'K wn^2/(s^2+2 zeta wn s+wn^2)',
      'K*ωn^2/(s^2+2*ζ*ωn*s+ωn^2)',
      'Kωn²/(s²+2ζωns+ωn²)',
      'K ω_n^2/(s^2+2 ζ ω_n s+ω_n^2)',
      'K·ωₙ²/(s²+2·ζ·ωₙ·s+ωₙ²)',
      'K \\omega_n^2/(s^2+2\\zeta\\omega_n s+\\omega_n^2)',
      '\\frac{K\\omega_n^2}{s^2+2\\zeta\\omega_n s+\\omega_n^2}',
      '\\frac{K \\omega_{n}^{2}}{s^{2}+2 \\zeta \\omega_{n} s+\\omega_{n}^{2}}',
      'K omega_n^2/(s^2+2 zeta omega_n s+omega_n^2)',
      'K*w_n^2/(s^2+2*zeta*w_n*s+w_n^2)',
      'G(s) = Kωₙ²/(s²+2ζωₙs+ωₙ²)',
      'K/(s²/ωn²+2ζs/ωn+1)',
      'K/(1+2ζs/ωn+(s/ωn)²)',
    ],
  ],
  [
    'Kp/(tau*s+1)',
    ['Kp', 'tau'],
    [
      'K_p/(τ s+1)',
      'Kp/(τs+1)',
      'Kₚ/(1+τs)',
      'K_{p}/(\\tau s+1)',
      '\\frac{K_p}{\\tau s+1}',
      'K_p/(tau*s+1)',
      'Kp/(1+s*tau)',
      'Kp/(1+sτ)',
      'Kp/(tau s + 1)',
      'Kp(τs+1)⁻¹',
    ],
  ],
  [
    'C*G/(1+C*G*H)',
    ['C', 'G', 'H'],
    [
      'CG/(1+CGH)',
      'C G/(1+C G H)',
      'C·G/(1+C·G·H)',
      'C(s)G(s)/(1+C(s)G(s)H(s))',
      '\\frac{CG}{1+CGH}',
      '\\frac{C(s)G(s)}{1+C(s)G(s)H(s)}',
      'GC/(1+GCH)',
      'Y/R = CG/(1+CGH)',
      'C*G(s)/(1+H*G(s)*C)',
      '(C G)/(1 + C G H)',
    ],
  ],
  [
    'G1*G2/(1+G1*G2*H1)',
    ['G1', 'G2', 'H1'],
    [
      'G1G2/(1+G1G2H1)',
      'G₁G₂/(1+G₁G₂H₁)',
      'G_1G_2/(1+G_1G_2H_1)',
      'G_1 G_2/(1+G_1 G_2 H_1)',
      '\\frac{G_1G_2}{1+G_1G_2H_1}',
      '\\frac{G_{1}G_{2}}{1+G_{1}G_{2}H_{1}}',
      'G1(s)G2(s)/(1+G1(s)G2(s)H1(s))',
      'G₁(s)·G₂(s)/(1+G₁(s)·G₂(s)·H₁(s))',
      'G1*G2/(1+G1*G2*H1)',
      'G2G1/(1+H1G2G1)',
    ],
  ],
  ['K/(T*s+1)', ['K', 'T'], ['K/(Ts+1)', 'K/(1+Ts)', 'K/(sT+1)', 'K/(T s+1)', '\\frac{K}{Ts+1}', 'K/(1+sT)']],
];

fractions.push(
  [
    'exp(-2*s)/(s+1)',
    none,
    [
      'exp(-2s)/(s+1)',
      'e^(-2s)/(s+1)',
      'e^{-2s}/(s+1)',
      '\\frac{e^{-2s}}{s+1}',
      'exp(−2·s)/(s+1)',
      '\\exp(-2s)/(s+1)',
      'e^(−2 s)/(s+1)',
      'exp(-2s)(s+1)⁻¹',
      'G(s) = e^{-2s}/(s+1)',
      '1/(s+1)*exp(-2*s)',
      'exp(-s)exp(-s)/(s+1)',
      '\\frac{1}{s+1}e^{-2s}',
    ],
  ],
  [
    '(s+3)/(s^2+2*s+5)',
    none,
    [
      '(s+3)/(s²+2s+5)',
      '(s+3)/((s+1)²+4)',
      '(s+3)/((s+1)^2+2^2)',
      '\\frac{s+3}{(s+1)^2+4}',
      '\\frac{s + 3}{s^2 + 2 s + 5}',
      '(3+s)/(5+2s+s²)',
      '0,5(2s+6)/(s²+2s+5)',
      '½(2s+6)/(s²+2s+5)',
      's/(s²+2s+5)+3/(s²+2s+5)',
      '(1+3/s)/(s+2+5/s)',
    ],
  ],
  [
    'k/(m*s^2+b*s+k)',
    ['k', 'm', 'b'],
    [
      'k/(ms^2+bs+k)',
      'k/(m s²+b s+k)',
      'k/(ms²+bs+k)',
      '\\frac{k}{ms^2+bs+k}',
      '\\frac{k}{m s^{2}+b s+k}',
      'X/F = k/(ms²+bs+k)',
      'k/(k+bs+ms²)',
      '1/((m/k)s²+(b/k)s+1)',
      'k/(m·s·s+b·s+k)',
      '(k/m)/(s²+(b/m)s+k/m)',
    ],
  ],
  [
    'K1*K2/(s*(T1*s+1)*(T2*s+1))',
    ['K1', 'K2', 'T1', 'T2'],
    [
      'K1K2/(s(T1s+1)(T2s+1))',
      'K₁K₂/(s(T₁s+1)(T₂s+1))',
      'K_1K_2/(s(T_1s+1)(T_2s+1))',
      'K_1 K_2/(s (1+T_1 s)(1+T_2 s))',
      '\\frac{K_1K_2}{s(T_1s+1)(T_2s+1)}',
      '\\frac{K_{1}K_{2}}{s\\left(T_{1}s+1\\right)\\left(T_{2}s+1\\right)}',
      'K1·K2/(s·(1+s·T1)·(1+s·T2))',
      'K1K2/(s(sT1+1)(sT2+1))',
      'K2K1/(s(T2s+1)(T1s+1))',
      'L(s) = K₁K₂/(s(1+sT₁)(1+sT₂))',
    ],
  ],
);
const all = fractions.flatMap(([meaning, letters, typed]) => typed.map((text) => [text, meaning, letters] as const));

test.each(all)('%j means %s', (text, meaning, letters) => {
  expect(isSame(text, meaning, letters)).toBe(true);
});

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
    expect(() => parse(text)).toThrow(expect.objectContaining({ at }));
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

describe('points', () => {
  const pair = [
    { re: -1.5, im: 2.5 },
    { re: -1.5, im: -2.5 },
  ];
  test.each<[string, object[]]>([
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
    ].map((text): [string, object[]] => [text, pair]),
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
    ].map((text): [string, object[]] => [
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
    found.forEach((point, k) =>
      expect([point.re, point.im]).toEqual(Object.values(expected[k]!).map((v) => expect.closeTo(v as number, 12))),
    );
  });

  test.each([
    ['', 'Mark or type the points first.'],
    ['1,2,3', 'put blanks behind the commas'],
    ['-1+2', 'is not a point'],
    ['a+bj', 'is not a point'],
    ['-1 2j', ''],
  ])('%j: %s', (text, words) => {
    expect(() => pointsFromText(text)).toThrow(words || Problem);
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
  ])('%j: %s', (text, words) => expect(() => rangesFromText(text)).toThrow(words || Problem));
});
