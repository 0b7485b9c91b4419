import { type Answer, type DrawValues, type GainsPart, type Model, must, type Part, Problem } from '@nailset/core';
import { checkAnswer, rightAnswerOf, wrongAnswersOf } from '@nailset/core/checks';

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

/** Gains worth trying for each part of the demo, from careful to bold; `random` moves the last one a little. */
const ladders: Readonly<Record<string, (random: number) => Record<string, number>[]>> = {
  pd: (random) =>
    [8, 12, 13, 14, 17, 20].flatMap((Kp) =>
      [3, 4.2, 5, 5.5, 6.2, 7].map((Kd) => ({ Kp, Kd: Kd + 0.2 * Math.round(random * 3) })),
    ),
  pid: (random) =>
    [12, 14, 16, 20, 24].flatMap((Kp) =>
      [8, 12, 15, 18].flatMap((Ki) => [4, 5, 6, 7.5].map((Kd) => ({ Kp, Ki, Kd: Kd + 0.2 * Math.round(random * 3) }))),
    ),
  gain: (random) => [0.46, 0.5, 0.54, 0.6, 0.7, 0.8].map((Kp) => ({ Kp: Kp + 0.02 * Math.round(random * 2) })),
  line: (random) => [0.3, 0.4, 0.5, 0.6].map((K) => ({ K: K + 0.01 * Math.round(random * 3) })),
  lead: (random) =>
    [8, 11, 15, 20].flatMap((K) =>
      [1.4, 1.8].map((z) => ({ K: K + 0.4 * Math.round(random * 2), z1: -z, p1: -8 * z })),
    ),
  lag: (random) =>
    [1.4, 1, 2].flatMap((K) =>
      [0.08, 0.12].map((z) => ({ K: K + 0.05 * Math.round(random * 2), z1: -z, p1: -z / 12 })),
    ),
  steady: (random) =>
    [0.8, 1, 1.3, 1.7].flatMap((K) =>
      [4.3, 5].map((z) => ({ K: K + 0.04 * Math.round(random * 2), z1: -z, p1: -11.6 * z })),
    ),
  calm: (random) => [0.4, 0.55, 0.7, 0.9, 1.1].map((K) => ({ K: K + 0.05 * Math.round(random * 2) })),
  pi: (random) => [3, 4.5].flatMap((Kp) => [10, 12].map((Ti) => ({ Kp, Ti: Ti + 0.5 * Math.round(random) }))),
};

/** Gains that hold every nail, or all but one, for these numbers; where to start looking differs from person to person. */
export function tunedGains(part: GainsPart, model: Model, random: number, missing = 0): Answer {
  const candidates = must(ladders[part.id])(random);
  const first = Math.floor(random * candidates.length);
  // A loop with limits is simulated, which takes too long to search by; what holds differs from person to person.
  if (part.limits) return gainsAnswer(must(candidates[first]));
  let nearest: { answer: Answer; missed: number } | undefined;
  for (let k = 0; k < candidates.length; k++) {
    const answer = gainsAnswer(must(candidates[(first + k) % candidates.length]));
    const missed = checkAnswer(part, model, answer).items.filter((item) => !item.met).length;
    if (missed === missing) return answer;
    if (!nearest || Math.abs(missed - missing) < Math.abs(nearest.missed - missing)) nearest = { answer, missed };
  }
  return must(nearest).answer;
}

/** Gains as they are typed. */
export function gainsAnswer(gains: Record<string, number>): Answer {
  return {
    kind: 'gains',
    gains: Object.fromEntries(Object.entries(gains).map(([gain, value]) => [gain, round(value)])),
  };
}

/** What the demo's students hand in for the trolley, by the name of the way they went. */
export function trolleyAnswer(way: string, part: GainsPart, model: Model, random: number): Answer {
  const hasIntegral = part.controller.terms === 'PID';
  const integral = hasIntegral ? { Ki: 5 } : {};
  switch (way) {
    case 'tuned':
      return tunedGains(part, model, random);
    case 'almost':
      return tunedGains(part, model, random, 1);
    case 'fastOnly':
      return gainsAnswer({ Kp: 14, ...integral, Kd: 0.3 });
    case 'slow':
      return gainsAnswer({ Kp: 3, ...(hasIntegral ? { Ki: 1 } : {}), Kd: 2 });
    case 'swapped':
      return exchanged(tunedGains(part, model, random));
    case 'noIntegral':
      return gainsAnswer({ Kp: 20, Ki: 0, Kd: 6 });
    case 'unstable':
      return gainsAnswer({ Kp: 6, Ki: 38, Kd: 0.2 });
    default:
      throw new Error(`The demo knows no way called ${way}.`);
  }
}

function exchanged(answer: Answer): Answer {
  if (answer.kind !== 'gains') return answer;
  const { Ki = '0', Kd = '0', ...rest } = answer.gains;
  return { kind: 'gains', gains: { ...rest, Ki: Kd, Kd: Ki } };
}

/**
 * What a student hands in for a part whose answers follow from its model: right with the given chance, otherwise one of
 * the usual wrong answers. `random` is the student's own number from 0 to 1.
 */
export function usualAnswer(part: Part, model: Model, random: number, chance: number): Answer {
  const isRight = random < chance;
  if (part.kind === 'gains') return tunedGains(part, model, random, isRight ? 0 : 1);
  if (part.kind === 'curve') return curveAnswer(isRight ? 0.02 * random : 0.3 + random);
  const right = part.id === 'boom' ? shakenAnswer : must(rightAnswerOf(part, model));
  if (isRight) return shortened(right);
  const wrong = wrongAnswersOf(part, model, right.kind === 'bode' ? right.terms : undefined);
  const first = Math.floor(random * 97);
  for (const k of wrong.keys()) {
    const answer = shortened(must(wrong[(first + k) % wrong.length]).answer);
    if (isWrong(part, model, answer)) return answer;
  }
  return shortened(right);
}

/** Whether an answer can be handed in and is wrong. */
function isWrong(part: Part, model: Model, answer: Answer): boolean {
  try {
    return !checkAnswer(part, model, answer).met;
  } catch (error) {
    if (error instanceof Problem) return false;
    throw error;
  }
}

/** The boom's model as read off the plot and refined. */
const shakenAnswer: Answer = { kind: 'bode', terms: { K: '1.6', wp1: '7.4', dp1: '0.11', wz1: '2.6', dz1: '0.09' } };

/** Gain, time constant and dead time of the recorded float, read off with this relative error. */
function curveAnswer(error: number): Answer {
  const knobs = { K: 0.84 * (1 - error / 2), T: 4.2 * (1 + error), L: 1.5 / (1 + error) };
  return {
    kind: 'curve',
    knobs: Object.fromEntries(Object.entries(knobs).map(([name, value]) => [name, round(value, 3)])),
  };
}

/** People write down four digits. */
function shortened(answer: Answer): Answer {
  if (answer.kind !== 'number') return answer;
  return number(Number(answer.text));
}
