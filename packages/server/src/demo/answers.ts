import { type Answer, type DrawValues, type GainsPart, checkAnswer } from '@nailset/core';

const round = (value: number, digits = 4): string => String(Number(value.toPrecision(digits)));
const transferFunction = (text: string): Answer => ({ kind: 'transferFunction', text });
const number = (value: number, unit = ''): Answer => ({ kind: 'number', text: `${round(value, 3)}${unit}` });

/** What the demo's students hand in for the lamp, right and wrong, by the name of the way they went. */
export function lampAnswer(way: string, values: DrawValues): Answer {
  const K = Number(values['K']);
  const zeta = Number(values['zeta']);
  const wn = Number(values['wn']);
  const damped = wn * Math.sqrt(1 - zeta ** 2);
  const overshoot = Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta ** 2));
  const [square, middle] = [round(wn ** 2), round(2 * zeta * wn)];
  switch (way) {
    case 'numbers':
      return transferFunction(`${round(K * wn ** 2)}/(s^2 + ${middle}s + ${square})`);
    case 'symbols':
      return transferFunction('K*wn^2/(s^2 + 2*zeta*wn*s + wn^2)');
    case 'scaled':
      return transferFunction(`${round(K)}/(${round(1 / wn ** 2, 6)}s^2 + ${round((2 * zeta) / wn, 6)}s + 1)`);
    case 'noSquare':
      return transferFunction(`${round(K * wn)}/(s^2 + ${middle}s + ${round(wn)})`);
    case 'noTwo':
      return transferFunction(`${round(K * wn ** 2)}/(s^2 + ${round(zeta * wn)}s + ${square})`);
    case 'unitNumerator':
      return transferFunction(`1/(s^2 + ${middle}s + ${square})`);
    case 'noGain':
      return transferFunction(`${square}/(s^2 + ${middle}s + ${square})`);
    case 'overshoot':
      return number(100 * overshoot, ' %');
    case 'overshootFraction':
      return number(overshoot);
    case 'overshootStraight':
      return number(100 * (1 - zeta / 0.6), ' %');
    case 'peak':
      return number(Math.PI / damped, ' s');
    case 'peakUndamped':
      return number(Math.PI / wn, ' s');
    case 'peakPeriod':
      return number((2 * Math.PI) / damped, ' s');
    default:
      throw new Error(`The demo knows no way called ${way}.`);
  }
}

const ladders: Record<'PD' | 'PID', (random: number) => Record<string, number>[]> = {
  PD: (random) =>
    [8, 10, 12, 14, 17, 20].flatMap((Kp) =>
      [2, 2.5, 3, 3.5, 4.2, 5].map((Kd) => ({ Kp, Kd: Kd + 0.2 * Math.round(random * 3) })),
    ),
  PID: (random) =>
    [12, 14, 16, 20, 24].flatMap((Kp) =>
      [4, 6, 9, 12].flatMap((Ki) => [2, 2.5, 3, 4].map((Kd) => ({ Kp, Ki, Kd: Kd + 0.2 * Math.round(random * 3) }))),
    ),
};

/** Gains that hold every nail, or all but one, for these numbers; where to start looking differs from person to person. */
export function tunedGains(part: GainsPart, values: DrawValues, random: number, missing = 0): Answer {
  const candidates = ladders[part.form === 'PD' ? 'PD' : 'PID'](random);
  const first = Math.floor(random * candidates.length);
  let nearest: { answer: Answer; missed: number } | undefined;
  for (let k = 0; k < candidates.length; k++) {
    const answer = gainsAnswer(candidates[(first + k) % candidates.length]!);
    const missed = checkAnswer(part, values, answer).items.filter((item) => !item.met).length;
    if (missed === missing) return answer;
    if (!nearest || Math.abs(missed - missing) < Math.abs(nearest.missed - missing)) nearest = { answer, missed };
  }
  return nearest!.answer;
}

/** Gains as they are typed. */
export function gainsAnswer(gains: Record<string, number>): Answer {
  const { Kp = 0, ...rest } = gains;
  const texts = Object.fromEntries(Object.entries(rest).map(([gain, value]) => [gain, round(value)]));
  return { kind: 'gains', gains: { Kp: round(Kp), ...texts } };
}

/** What the demo's students hand in for the trolley, by the name of the way they went. */
export function trolleyAnswer(way: string, part: GainsPart, values: DrawValues, random: number): Answer {
  const integral = part.form === 'PID' ? { Ki: 5 } : {};
  switch (way) {
    case 'tuned':
      return tunedGains(part, values, random);
    case 'almost':
      return tunedGains(part, values, random, 1);
    case 'fastOnly':
      return gainsAnswer({ Kp: 14, ...integral, Kd: 0.3 });
    case 'slow':
      return gainsAnswer({ Kp: 3, ...(part.form === 'PID' ? { Ki: 1 } : {}), Kd: 2 });
    case 'swapped':
      return gainsAnswer({ Kp: 14, Ki: 3, Kd: 0.9 });
    case 'noIntegral':
      return gainsAnswer({ Kp: 20, Ki: 0, Kd: 3 });
    case 'unstable':
      return gainsAnswer({ Kp: 6, Ki: 60, Kd: 0.2 });
    default:
      throw new Error(`The demo knows no way called ${way}.`);
  }
}
