import { matchPolynomial } from '../design/match.js';
import { tunedStart } from '../design/tune.js';
import { Problem } from '../expression/problem.js';
import { valueAt } from '../locus/specialPoints.js';
import { type Fraction, lowestTerms } from '../rational/fraction.js';
import { rationalFromNumber, rationalToNumber } from '../rational/number.js';
import { degree, multiply, type Polynomial } from '../rational/polynomial.js';
import { type Measures, measuresOfTransfer } from '../response/measures.js';
import { type Complex, complex, magnitude, over } from '../system/complex.js';
import { type ControllerForm, controllerOf, type Gain, gainsOfForm, leadLag } from '../system/controller.js';
import { polynomialFromNumbers } from '../system/forms.js';
import { polynomialToLatex } from '../system/latex.js';
import { secondOrderRules } from '../system/secondOrderRules.js';
import { systemOf } from '../system/system.js';
import { delayed, inSeries, type Transfer, unityFeedback, withoutDeadTime } from '../system/transfer.js';
import { numeral, signed, type WorkingStep } from './step.js';

/** What is wanted of a step response: overshoot in %, and a time in the unit of time that the system is given in. */
export interface Specifications {
  readonly overshootPercent: number;
  readonly time: number;
  /** What words call that unit; seconds where it is left out. */
  readonly unit?: 's' | 'min' | 'h';
  readonly which: 'peakTime' | 'riseTime' | 'settlingTime';
}

/** Numbers of a controller, how one gets to them, and what the loop does with them. */
export interface Design {
  /** As a formula: `Kp + Kd*s`. */
  readonly formula: string;
  readonly numbers: Readonly<Record<string, number>>;
  readonly steps: readonly WorkingStep[];
  /** Of the closed loop. */
  readonly measures: Measures;
  /** What was wanted and what is there, and why they differ. */
  readonly outcome: readonly string[];
}

interface Pair {
  readonly zeta: number;
  readonly wn: number;
}

/**
 * ζ and ωn of a pair for an overshoot and a time by the second-order rules, with the working.
 * @throws Problem `query` for an overshoot that is not between 0 and 100 %, or a time that is not positive.
 */
export function pairFor({
  overshootPercent,
  time,
  which,
  unit = 's',
}: Specifications): Pair & { steps: WorkingStep[] } {
  if (!(overshootPercent > 0 && overshootPercent < 100)) {
    throw new Problem('query', 'An overshoot lies between 0 and 100 %, both left out.');
  }
  if (!(time > 0)) throw new Problem('query', `The time is more than 0 ${unit}.`);
  const zeta = secondOrderRules.dampingFor(overshootPercent);
  const root = Math.sqrt(1 - zeta * zeta);
  const share = numeral(overshootPercent / 100);
  const damping: WorkingStep = {
    words: 'The overshoot gives the damping ratio.',
    latex: `\\zeta=\\frac{-\\ln ${share}}{\\sqrt{\\pi^2+\\ln^2 ${share}}}=${numeral(zeta)}`,
  };
  const t = numeral(time);
  const [wn, words, latex] = {
    peakTime: () =>
      [
        Math.PI / (time * root),
        'The peak time gives the natural frequency.',
        `\\omega_n=\\frac{\\pi}{t_p\\sqrt{1-\\zeta^2}}=\\frac{\\pi}{${t}\\cdot ${numeral(root)}}`,
      ] as const,
    riseTime: () =>
      [
        secondOrderRules.riseTime(time),
        'The rise time gives the natural frequency.',
        `\\omega_n\\approx\\frac{1.8}{t_r}=\\frac{1.8}{${t}}`,
      ] as const,
    settlingTime: () =>
      [
        secondOrderRules.settlingTime(zeta * time),
        'The settling time, to 2 %, gives the natural frequency.',
        `\\omega_n\\approx\\frac{4}{\\zeta t_s}=\\frac{4}{${numeral(zeta)}\\cdot ${t}}`,
      ] as const,
  }[which]();
  return { zeta, wn, steps: [damping, { words, latex: `${latex}=${numeral(wn)}\\ \\mathrm{rad/${unit}}` }] };
}

/** How much farther to the left than the pair the other poles are put. */
const farther = 5;

/**
 * Gains that give the loop with unity feedback a pair for the specifications by matching coefficients; other poles are
 * put five times as far to the left. With the working, and with what the response does then.
 * @throws Problem as `pairFor` and `matchPolynomial`; `deadTime` for a plant with dead time.
 */
export function matchedDesign(plant: Transfer, form: ControllerForm, wanted: Specifications): Design {
  const fraction = lowestTerms(withoutDeadTime(plant, 'Matching coefficients'));
  const { zeta, wn, steps } = pairFor(wanted);
  const integrates = form === 'PI' || form === 'PID';
  const order = Math.max(
    degree(fraction.denominator) + (integrates ? 1 : 0),
    degree(fraction.numerator) + (integrates ? 1 : 0) + (form === 'PD' || form === 'PID' ? 1 : 0),
  );
  if (order < 2) throw new Problem('notPossible', 'This loop has one pole: no pair of poles can be asked of it.');
  const away = farther * zeta * wn;
  let target = polynomialFromNumbers([1, 2 * zeta * wn, wn * wn], 'wanted');
  for (let k = 2; k < order; k++) target = multiply(target, polynomialFromNumbers([1, away], 'wanted'));
  const more = order - 2;
  const factor = `s^2${signed(2 * zeta * wn)}\\,s${signed(wn * wn)}`;
  const others = more === 0 ? '' : `(s${signed(away)})${more > 1 ? `^{${more}}` : ''}`;
  steps.push({
    words:
      more === 0
        ? 'So the poles are to be the roots of'
        : `The loop has ${order} poles; the other${more > 1 ? 's' : ''} stand ${farther} times as far to the left:`,
    latex: more === 0 ? factor : `(${factor})\\,${others}=${polynomialToLatex(target)}`,
  });
  const gains = matchPolynomial(fraction, form, target);
  const names = gainsOfForm[form];
  const numbers = Object.fromEntries(names.map((name) => [name, rationalToNumber(gains[name])]));
  steps.push({
    words: 'The denominator of the closed loop, with the gains open:',
    latex: characteristicLatex(fraction, names, integrates),
  });
  steps.push({
    words: 'Equal coefficients give the gains.',
    latex: names.map((name) => `${gainLatex[name]}=${numeral(numbers[name] ?? NaN)}`).join(',\\quad '),
  });
  const formula = { P: 'Kp', PI: 'Kp + Ki/s', PD: 'Kp + Kd*s', PID: 'Kp + Ki/s + Kd*s' }[form];
  return finished(plant, controllerOf(gains), { formula, numbers, steps }, { zeta, wn }, wanted);
}

const gainLatex: Record<Gain, string> = { Kp: 'K_p', Ki: 'K_i', Kd: 'K_d' };

/** D·s + N·(Kd·s² + Kp·s + Ki), or as it is without an integral. */
function characteristicLatex(plant: Fraction, names: readonly Gain[], integrates: boolean): string {
  const powers: Record<Gain, number> = { Kd: integrates ? 2 : 1, Kp: integrates ? 1 : 0, Ki: 0 };
  const terms = [...names]
    .sort((a, b) => powers[b] - powers[a])
    .map((name) => `${gainLatex[name]}${['', '\\,s', '\\,s^2'][powers[name]]}`);
  const inside = terms.length > 1 ? `(${terms.join('+')})` : terms.join('');
  const below = polynomialToLatex(plant.denominator);
  return `${integrates ? 's\\,' : ''}(${below})+${bracketed(plant.numerator)}${inside}`;
}

const bracketed = (p: Polynomial): string => {
  const latex = polynomialToLatex(p);
  return latex === '1' ? '' : degree(p) > 0 ? `(${latex})\\,` : `${latex}\\,`;
};

/**
 * A lead that puts a branch of the locus through the pole that the specifications ask for, its zero below that pole.
 * @throws Problem as `pairFor`; `notPossible` where no lead of one stage reaches the pole.
 */
export function leadDesign(plant: Transfer, wanted: Specifications): Design {
  const fraction = lowestTerms(withoutDeadTime(plant, 'A lead on the locus'));
  const { zeta, wn, steps } = pairFor(wanted);
  const pole = complex(-zeta * wn, wn * Math.sqrt(1 - zeta * zeta));
  steps.push({
    words: 'So a branch is to pass through',
    latex: `s_1=-\\zeta\\omega_n+j\\omega_n\\sqrt{1-\\zeta^2}=${numeral(pole.re)}${signed(pole.im)}\\,j`,
  });
  const at = (p: Polynomial): Complex => valueAt(p, pole);
  const there = over(at(fraction.numerator), at(fraction.denominator));
  const angle = degrees(there);
  const lacking = between0And360(180 - angle);
  steps.push({
    words: 'On the locus the angle of the loop is 180°; the lead gives what is lacking.',
    latex: `\\angle G(s_1)=${numeral(angle)}^\\circ,\\quad \\varphi=180^\\circ-(${numeral(angle)}^\\circ)\\to ${numeral(lacking)}^\\circ`,
  });
  if (!(lacking > 1 && lacking < 89)) {
    throw new Problem(
      'notPossible',
      `The lead would have to give ${numeral(lacking)}°; with its zero below the pole one stage gives up to 90°.`,
    );
  }
  const zero = -pole.re;
  const poleAngle = 90 - lacking;
  const far = zero + pole.im / Math.tan((poleAngle * Math.PI) / 180);
  steps.push({
    words: 'Its zero stands straight below, where it gives 90°; so its pole must take the rest.',
    latex: `z=${numeral(zero)},\\quad 90^\\circ-${numeral(lacking)}^\\circ=${numeral(poleAngle)}^\\circ,\\quad p=${numeral(zero)}+\\frac{${numeral(pole.im)}}{\\tan ${numeral(poleAngle)}^\\circ}=${numeral(far)}`,
  });
  const lead = over(complex(pole.re + zero, pole.im), complex(pole.re + far, pole.im));
  const gain = 1 / (magnitude(lead) * magnitude(there));
  steps.push({
    words: 'The magnitude of the loop is 1 there, which gives the gain.',
    latex: `K=\\frac{|s_1+p|}{|s_1+z|\\,|G(s_1)|}=${numeral(gain)}`,
  });
  const controller = leadLag(rationalFromNumber(gain), rationalFromNumber(zero), rationalFromNumber(far));
  const numbers = { K: gain, z: zero, p: far };
  return finished(plant, controller, { formula: 'K*(s + z)/(s + p)', numbers, steps }, { zeta, wn }, wanted);
}

const degrees = ({ re, im }: Complex): number => (Math.atan2(im, re) * 180) / Math.PI;
const between0And360 = (angle: number): number => ((angle % 360) + 360) % 360;

/** Gains of a tuned start: the fastest that keeps the sensitivity peak. @throws Problem as `tunedStart`. */
export function tunedDesign(plant: Transfer, form: ControllerForm, sensitivityPeak: number): Design {
  const tuned = tunedStart(plant, form, { sensitivityPeak });
  const numbers = Object.fromEntries(gainsOfForm[form].map((name) => [name, tuned.gains[name]]));
  const formula = { P: 'Kp', PI: 'Kp + Ki/s', PD: 'Kp + Kd*s', PID: 'Kp + Ki/s + Kd*s' }[form];
  const steps: WorkingStep[] = [
    {
      words: 'The loop gain passes 1 as late as the sensitivity peak allows.',
      latex: `M_s=${numeral(tuned.sensitivityPeak)},\\quad \\omega_c=${numeral(tuned.crossover)}\\ \\mathrm{rad/s}`,
    },
    { words: 'The phase margin is then', latex: `\\varphi_m=${numeral(tuned.phaseMarginDegrees)}^\\circ` },
  ];
  const exact = Object.fromEntries(
    Object.entries(tuned.gains).map(([name, value]) => [name, rationalFromNumber(value)]),
  );
  const measures = measuresOfTransfer(unityFeedback(inSeries(delayed(controllerOf(exact)), plant)));
  return { formula, numbers, steps, measures, outcome: tuned.missed === null ? [] : [tuned.missed] };
}

const timeNames = { peakTime: 'peak time', riseTime: 'rise time', settlingTime: 'settling time' } as const;

/** What the loop does with a controller, beside what was wanted of it. */
function finished(
  plant: Transfer,
  controller: Fraction,
  design: Pick<Design, 'formula' | 'numbers' | 'steps'>,
  { zeta, wn }: Pair,
  wanted: Specifications,
): Design {
  const closed = unityFeedback(inSeries(delayed(controller), plant));
  const measures = measuresOfTransfer(closed);
  const system = systemOf(withoutDeadTime(closed, 'A loop'));
  const { overshootPercent, [wanted.which]: time, finalValue } = measures;
  const outcome: string[] = [];
  const percent = (value: number | null) => (value === null ? 'none' : `${plain(value)} %`);
  const timed = (value: number | null) => (value === null ? 'none' : `${plain(value)} ${wanted.unit ?? 's'}`);
  if (!measures.stable)
    return { ...design, measures, outcome: ['The loop is not stable: it cancels or keeps another unstable pole.'] };
  outcome.push(
    `Overshoot ${percent(overshootPercent)}, wanted ${percent(wanted.overshootPercent)}; ${timeNames[wanted.which]} ${timed(time)}, wanted ${timed(wanted.time)}.`,
  );
  const decay = zeta * wn;
  const near = system.zeros.filter(({ re }) => Math.abs(re) < farther * decay);
  if (near.length > 0) {
    const places = near.map(({ re, im }) => (im === 0 ? plain(re) : `${plain(re)} ± ${plain(Math.abs(im))}j`));
    outcome.push(
      `The rules know no zeros; the loop has ${near.length === 1 ? 'one' : 'some'} at ${[...new Set(places)].join(', ')}, near the pair: ${near.some(({ re }) => re > 0) ? 'it begins in the wrong direction' : 'the response is quicker and swings higher'}.`,
    );
  }
  const slow = system.poles.filter(
    ({ re, im }) =>
      re > -(farther - 0.01) * decay &&
      Math.hypot(re + decay, Math.abs(im) - wn * Math.sqrt(1 - zeta * zeta)) > 1e-3 * wn,
  );
  if (slow.length > 0) {
    outcome.push(`A pole at ${slow.map(({ re }) => plain(re)).join(', ')} is as slow as the pair, and has its share.`);
  }
  if (finalValue !== null && Math.abs(finalValue - 1) > 1e-6) {
    outcome.push(
      `The response ends at ${plain(finalValue)}: without an integrator in the loop an offset of ${plain(1 - finalValue)} is left.`,
    );
  }
  return { ...design, measures, outcome };
}

/** A number among words. */
const plain = (value: number): string => String(Number(value.toPrecision(4))).replace('-', '−');
