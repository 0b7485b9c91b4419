import { checkAnswer } from '../src/checks';
import { type Answer, modelOf, type NumberPart, type Part, type TransferFunctionPart } from '../src/index';
import { randomNumbers } from './random';

/** Answers made from the model itself: right ones in many forms, wrong ones by each slip; small and the same every time. */
const random = randomNumbers(20261128);
const between = (from: number, to: number, digits = 3): number =>
  Number((from + random() * (to - from)).toPrecision(digits));
const nothing = { systems: [], series: [] };
const typed = (text: string): Answer => ({ kind: 'transferFunction', text });
const number = (value: number, digits = 6): Answer => ({
  kind: 'number',
  text: String(Number(value.toPrecision(digits))),
});

interface Counted {
  right: number;
  refused: string[];
  made: number;
  named: number;
  wronglyNamed: string[];
  unnamed: string[];
}
const count = (): Counted => ({ right: 0, refused: [], made: 0, named: 0, wronglyNamed: [], unnamed: [] });

function right(counted: Counted, part: Part, values: Record<string, string>, answer: Answer, of = nothing): void {
  counted.right += 1;
  if (!checkAnswer(part, modelOf(of, values), answer).met) counted.refused.push(JSON.stringify([values, answer]));
}

/** A slip that was made must be wrong, and is named right or, where two lead to the same, not at all. */
function wrong(
  counted: Counted,
  part: Part,
  values: Record<string, string>,
  answer: Answer,
  slips: string | readonly string[],
  of: Parameters<typeof modelOf>[0] = nothing,
): void {
  const verdict = checkAnswer(part, modelOf(of, values), answer);
  if (verdict.met) return;
  counted.made += 1;
  const said = verdict.slip?.id;
  if (said === undefined) counted.unnamed.push(JSON.stringify([slips, values, answer]));
  else if ([slips].flat().includes(said)) counted.named += 1;
  else counted.wronglyNamed.push(JSON.stringify([slips, said, values, answer]));
}

function expectFair({ right: rights, refused, made, named, wronglyNamed, unnamed }: Counted): void {
  expect(rights + made).toBeGreaterThan(100);
  expect(refused).toEqual([]);
  expect(wronglyNamed.slice(0, 5)).toEqual(
    wronglyNamed.length / Math.max(1, made) > 0.005 ? [] : wronglyNamed.slice(0, 5),
  );
  expect([named / Math.max(1, made) >= 0.97 || made === 0, unnamed.slice(0, 5)]).toEqual([true, unnamed.slice(0, 5)]);
}

test('second-order systems', () => {
  const counted = count();
  const part: TransferFunctionPart = {
    ...{ id: 't', title: 'T', prompt: '', kind: 'transferFunction', points: 4 },
    ...{ expected: 'K*wn^2/(s^2+2*zeta*wn*s+wn^2)', tolerancePercent: 1 },
  };
  for (let k = 0; k < 60; k++) {
    const [K, z, w] = [between(1.3, 6), between(0.15, 0.85, 2), between(1.4, 9, 2)];
    const values = { K: String(K), zeta: String(z), wn: String(w) };
    const n = (value: number, digits = 5) => String(Number(value.toPrecision(digits)));
    const [a, b, c] = [K * w * w, 2 * z * w, w * w];
    const f = between(0.2, 5);
    for (const text of [
      `${n(a)}/(s^2+${n(b)}s+${n(c)})`,
      `${n(a, 3)}/(s^2+${n(b, 3)}s+${n(c, 3)})`,
      'K*wn^2/(s^2+2*zeta*wn*s+wn^2)',
      'K ωn²/(s² + 2ζ*ωn*s + ωn²)',
      `${n(K)}/(s^2/${n(c)} + ${n((2 * z) / w)}*s + 1)`,
      `${n(f * a)}/(${n(f)}s^2+${n(f * b)}s+${n(f * c)})`,
      `${n(a)}(s+${f})/((s+${f})(s^2+${n(b)}s+${n(c)}))`,
      `-${n(a)}/(-s^2-${n(b)}*s-${n(c)})`,
      `${n(K)}*${n(c)}*(s^2+${n(b)}s+${n(c)})^-1`,
    ]) {
      right(counted, part, values, typed(text));
    }
    const slips: [string, string | string[]][] = [
      [`${n(a)}/(s^2+${n(b / 2)}s+${n(c)})`, 'twoMissing'],
      [`${n(K * w)}/(s^2+${n(b)}s+${n(w)})`, 'frequencyNotSquared'],
      [`${n(K * w)}/(s^2+${n(b)}s+${n(c)})`, 'frequencyNotSquared'],
      [`1/(s^2+${n(b)}s+${n(c)})`, 'unitNumerator'],
      [`1/(${n(f)}s^2+${n(f * b)}s+${n(f * c)})`, 'unitNumerator'],
      [`${n(c)}/(s^2+${n(b)}s+${n(c)})`, 'gainMissing'],
      [`${n(K)}/(s^2+${n(b)}s+${n(c)})`, 'squareMissingAbove'],
      [`${n(a)}/(s^2-${n(b)}s+${n(c)})`, 'negativeDamping'],
      [`${n(a)}/(${n(c)}s^2+${n(b)}s+1)`, 'reversed'],
    ];
    for (const [text, slip] of slips) wrong(counted, part, values, typed(text), slip);
  }
  expectFair(counted);
});

test('loops', () => {
  const counted = count();
  for (let k = 0; k < 40; k++) {
    const [K, T, g, h] = [between(1.5, 8), between(0.2, 4), between(0.3, 3), between(0.05, 0.8)];
    const systems = [
      { name: 'G', meaning: '', form: { kind: 'expression' as const, text: `${g}/(${T}*s^2+s)` } },
      { name: 'H', meaning: '', form: { kind: 'expression' as const, text: `1/(${h}*s+1)` } },
      {
        name: 'X',
        meaning: '',
        form: { kind: 'equations' as const, text: 'e = r - H*y\nu = K*e\ny = G*u + G*d', from: 'r', to: 'y' },
      },
    ];
    const of = { systems, series: [] };
    const values = { K: String(K) };
    const part = (expected: string): TransferFunctionPart => ({
      ...{ id: 't', title: 'T', prompt: '', kind: 'transferFunction', points: 4, expected, tolerancePercent: 1 },
    });
    const [G, H] = [`(${g}/(${T}*s^2+s))`, `(1/(${h}*s+1))`];
    for (const expected of ['closed(K*G, H)', 'y/r']) {
      for (const text of [
        'K*G/(1+K*G*H)',
        'K(s)G(s)/(1+K*G(s)H(s))',
        `${K}*${G}/(1+${K}*${G}*${H})`,
        `1/(1/(${K}*${G})+${H})`,
      ]) {
        right(counted, part(expected), values, typed(text), of as unknown as typeof nothing);
      }
      wrong(counted, part(expected), values, typed(`${K}*${G}/(1-${K}*${G}*${H})`), 'feedbackSign', of);
      wrong(counted, part(expected), values, typed(`${K}*${G}/(1+${K}*${G})`), ['sensorForgotten', 'block'], of);
      wrong(
        counted,
        part(expected),
        values,
        typed(`${K}*${G}*${H}/(1+${K}*${G}*${H})`),
        ['sensorForward', 'forward', 'to'],
        of,
      );
      wrong(counted, part(expected), values, typed(`${K}*${G}`), ['openLoop', 'loop'], of);
    }
    right(counted, part('y/d'), values, typed('G/(1+K*G*H)'), of as unknown as typeof nothing);
    wrong(counted, part('y/d'), values, typed(`${G}/(1-${K}*${G}*${H})`), 'feedbackSign', of);
    wrong(counted, part('y/d'), values, typed(`${K}*${G}/(1+${K}*${G}*${H})`), ['input-r', 'forward'], of);
    wrong(counted, part('y/d'), values, typed(`${G}`), ['loop', 'open'], of);
    wrong(counted, part('y/d'), values, typed(`${G}/(1+${K}*${G})`), 'block', of);
  }
  expectFair(counted);
});

test('numbers', () => {
  const counted = count();
  const asked = (formula: string, unit: string): NumberPart => ({
    ...{ id: 'n', title: 'N', prompt: '', kind: 'number', points: 1, formula, unit, tolerancePercent: 2 },
  });
  for (let k = 0; k < 50; k++) {
    const [z, w] = [between(0.15, 0.7, 2), between(1.5, 9, 2)];
    const G = `${w}^2/(s^2+2*${z}*${w}*s+${w}^2)`;
    const damped = w * Math.sqrt(1 - z * z);
    const percent = 100 * Math.exp((-Math.PI * z) / Math.sqrt(1 - z * z));
    const each: [NumberPart, number, [number, string | string[]][]][] = [
      [asked(`overshootPercent(${G})`, '%'), percent, [[percent / 100, 'fraction']]],
      [
        asked(`peakTime(${G})`, 's'),
        Math.PI / damped,
        [
          [(2 * Math.PI) / damped, 'fullPeriod'],
          [Math.PI / w, 'naturalForDamped'],
        ],
      ],
      [
        asked(`dampedFrequency(${G})`, 'rad/s'),
        damped,
        [
          [w, 'naturalForDamped'],
          [damped / (2 * Math.PI), 'hertz'],
        ],
      ],
      [
        asked(`timeConstant(${G})`, 's'),
        1 / (z * w),
        [
          [1 / w, 'inverseFrequency'],
          [z * w, 'inverse'],
        ],
      ],
    ];
    for (const [part, expected, slips] of each) {
      for (const digits of [6, 4, 3]) right(counted, part, {}, number(expected, digits));
      right(counted, part, {}, { kind: 'number', text: `${Number(expected.toPrecision(4))} ${part.unit}` });
      for (const [value, slip] of slips) wrong(counted, part, {}, number(value, 4), slip);
    }
    const [fast, slow] = [between(4, 9), between(0.5, 2)];
    const lags = asked(`settlingTime(1/((s+${fast})*(s+${slow})))`, 's');
    wrong(counted, lags, {}, number(8 / (fast + slow), 4), 'ruleOnRealPoles');
  }
  expectFair(counted);
});

test('gains at random are hardly ever given a reason that is none', () => {
  let said = 0;
  let made = 0;
  for (let k = 0; k < 60; k++) {
    const plant = `${between(0.5, 4)}/(s^2+${between(0.4, 2)}*s+${between(0.5, 4)})`;
    const ladder = (name: 'Kp' | 'Ki' | 'Kd') => ({ name, start: 1, fine: 0.1, coarse: 1 });
    const part: Part = {
      ...{ id: 'g', title: 'G', prompt: '', kind: 'gains', plant, output: 'y', horizon: 10, views: [] },
      controller: { terms: 'PID', form: 'parallel', gains: [ladder('Kp'), ladder('Ki'), ladder('Kd')] },
      nails: [
        { id: 'a', quantity: 'riseTime', relation: 'atMost', limit: between(0.2, 0.8), points: 1 },
        { id: 'b', quantity: 'overshootPercent', relation: 'atMost', limit: between(5, 25), points: 1 },
        { id: 'c', quantity: 'settlingTime', relation: 'atMost', limit: between(1, 4), points: 1 },
      ],
    };
    const gains = { Kp: String(between(1, 20)), Ki: String(between(0.5, 15)), Kd: String(between(0.2, 5)) };
    const verdict = checkAnswer(part, modelOf(nothing, {}), { kind: 'gains', gains });
    if (verdict.met) continue;
    made += 1;
    if (verdict.slip) said += 1;
  }
  expect(made).toBeGreaterThan(20);
  expect(said / made).toBeLessThanOrEqual(0.05);
});
