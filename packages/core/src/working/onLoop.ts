import { quantities } from '../quantity/index.js';
import type { QuantityName } from '../quantity/names.js';
import { TransferSubject } from '../quantity/subject.js';
import { lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import { coefficient, degree, type Polynomial } from '../rational/polynomial.js';
import type { Root } from '../system/roots.js';
import { secondOrderOf } from '../system/standardForms.js';
import { type System, systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import { pairSteps } from './standardForm.js';
import { line, numeral, withUnitLatex, type Worked, type WorkingStep } from './step.js';

/** A system over frequency: each factor's share. */
interface OverFrequency {
  readonly system: System;
  /** In seconds. */
  readonly deadTime: number;
  readonly subject: TransferSubject;
}

/**
 * The way to margins, crossovers, errors that stay and peaks over frequency; null for other quantities, and for dead
 * time inside a loop.
 */
export function workedOnLoop(name: QuantityName, transfer: Transfer): Worked | null {
  const plain = withDeadTime(transfer);
  if (!plain) return null;
  if (name in constants) return workedConstant(name, transfer);
  const loop: OverFrequency = {
    system: systemOf(plain.fraction),
    deadTime: rationalToNumber(plain.deadTime),
    subject: new TransferSubject(transfer),
  };
  return ways[name]?.(loop) ?? null;
}

const ways: Partial<Record<QuantityName, (loop: OverFrequency) => Worked | null>> = {
  phaseCrossover: (loop) => onlyFound(loop, 'phaseCrossover', phaseCrossoverSteps),
  gainCrossover: (loop) => onlyFound(loop, 'gainCrossover', gainCrossoverSteps),
  gainMargin: (loop) => gainMargin(loop, false),
  gainMarginDb: (loop) => gainMargin(loop, true),
  phaseMargin(loop) {
    const margin = phaseMargin(loop);
    return margin && { steps: margin.steps, value: margin.degrees };
  },
  delayMargin(loop) {
    const margin = phaseMargin(loop);
    const wanted = quantities.delayMargin.read(loop.subject);
    if (!margin || wanted === null) return null;
    const turn = margin.degrees < 0 ? margin.degrees + 360 : margin.degrees;
    const value = (turn * Math.PI) / 180 / margin.omega;
    // Another crossing may decide.
    if (Math.abs(value - wanted) > 1e-6 * Math.abs(wanted)) return null;
    const latex = `T=\\frac{\\varphi_m}{\\omega_c}\\cdot\\frac{\\pi}{180^\\circ}=\\frac{${numeral(turn)}^\\circ}{${numeral(margin.omega)}}\\cdot\\frac{\\pi}{180^\\circ}=${withUnitLatex(value, 's')}`;
    return {
      steps: [...margin.steps, line('A dead time T turns by ωT; it may take all of the margin:', latex)],
      value,
    };
  },
  bandwidth(loop) {
    const omega = quantities.bandwidth.read(loop.subject);
    const atRest = loop.system.dcGain;
    if (omega === null || atRest === null || !Number.isFinite(omega)) return null;
    const level = Math.abs(atRest) / Math.SQRT2;
    return {
      steps: [
        line('At rest the magnitude is', `|G(0)|=${numeral(Math.abs(atRest))}`),
        line(
          'It has fallen to 1/√2 of that where',
          `|G(j\\omega_b)|=\\frac{${numeral(Math.abs(atRest))}}{\\sqrt 2}=${numeral(level)}`,
        ),
        magnitudeStep(loop, omega, 'G'),
        line('So', `\\omega_b=${withUnitLatex(omega, 'rad/s')}`),
      ],
      value: omega,
    };
  },
  resonancePeak(loop) {
    const value = quantities.resonancePeak.read(loop.subject);
    const pair = secondOrderOf(loop.subject.transfer);
    if (value === null || !pair || pair.dampingRatio <= 0 || pair.dampingRatio >= Math.SQRT1_2) return null;
    const zeta = pair.dampingRatio;
    const peak = Math.abs(pair.gain) / (2 * zeta * Math.sqrt(1 - zeta * zeta));
    const latex = `M_r=\\frac{K}{2\\zeta\\sqrt{1-\\zeta^2}}=\\frac{${numeral(Math.abs(pair.gain))}}{2\\cdot ${numeral(zeta)}\\cdot ${numeral(Math.sqrt(1 - zeta * zeta))}}=${numeral(peak)}`;
    return { steps: [...pairSteps(pair), line('The magnitude of a pair is highest with', latex)], value: peak };
  },
};

function onlyFound(
  loop: OverFrequency,
  name: 'phaseCrossover' | 'gainCrossover',
  stepsOf: (loop: OverFrequency, omega: number) => WorkingStep[],
): Worked | null {
  const omega = quantities[name].read(loop.subject);
  if (omega === null || !Number.isFinite(omega)) return null;
  const symbol = name === 'phaseCrossover' ? '\\omega_\\pi' : '\\omega_c';
  return {
    steps: [...stepsOf(loop, omega), line('So', `${symbol}=${withUnitLatex(omega, 'rad/s')}`)],
    value: omega,
  };
}

function gainMargin(loop: OverFrequency, inDecibels: boolean): Worked | null {
  const omega = quantities.phaseCrossover.read(loop.subject);
  if (omega === null) {
    // No crossing of −180°: no factor makes it unstable.
    if (quantities.gainMargin.read(loop.subject) !== Infinity) return null;
    return {
      steps: [line('The phase never reaches −180°, so no factor makes the loop unstable:', 'A_m=\\infty')],
      value: Infinity,
    };
  }
  const size = magnitudeAt(loop, omega);
  const ratio = 1 / size;
  const steps = [
    ...phaseCrossoverSteps(loop, omega),
    magnitudeStep(loop, omega, 'L'),
    line('The gain margin is what is left up to 1:', `A_m=\\frac{1}{${numeral(size)}}=${numeral(ratio)}`),
  ];
  if (!inDecibels) return { steps, value: ratio };
  const value = 20 * Math.log10(ratio);
  const latex = `20\\lg ${numeral(ratio)}=${withUnitLatex(value, 'dB')}`;
  return { steps: [...steps, line('In decibels:', latex)], value };
}

function phaseMargin(loop: OverFrequency) {
  const omega = quantities.gainCrossover.read(loop.subject);
  const wanted = quantities.phaseMargin.read(loop.subject);
  if (omega === null || wanted === null) return null;
  const phase = phaseAt(loop, omega);
  const turns = Math.round((180 + phase - wanted) / 360);
  const degrees = 180 + phase - 360 * turns;
  const back = turns === 0 ? '' : `${turns < 0 ? '+' : '-'}${360 * Math.abs(turns)}^\\circ`;
  const steps = [
    ...gainCrossoverSteps(loop, omega),
    phaseStep(loop, omega),
    line(
      'The phase margin is the distance from −180°:',
      `\\varphi_m=180^\\circ${phase < 0 ? '' : '+'}${withUnitLatex(phase, '°')}${back}=${withUnitLatex(degrees, '°')}`,
    ),
  ];
  return { steps, omega, degrees };
}

const phaseCrossoverSteps = (loop: OverFrequency, omega: number): WorkingStep[] => [
  line(
    'The gain margin is read where L is real and negative; that is at',
    `\\omega_\\pi=${withUnitLatex(omega, 'rad/s')}`,
  ),
  phaseStep(loop, omega),
];

const gainCrossoverSteps = (loop: OverFrequency, omega: number): WorkingStep[] => [
  line('The magnitude passes 1 at', `\\omega_c=${withUnitLatex(omega, 'rad/s')}`),
  magnitudeStep(loop, omega, 'L'),
];

/** Each root as often as it is one. */
const each = (roots: readonly Root[]): Root[] => roots.flatMap((root) => new Array<Root>(root.multiplicity).fill(root));

/** Distance from a root to jω. */
const distanceTo = ({ re, im }: Root, omega: number): number => Math.hypot(re, omega - im);

/** Angle of jω − root in degrees. */
const angleTo = ({ re, im }: Root, omega: number): number => (180 / Math.PI) * Math.atan2(omega - im, -re);

function magnitudeAt({ system }: OverFrequency, omega: number): number {
  const product = (roots: readonly Root[]) => each(roots).reduce((size, root) => size * distanceTo(root, omega), 1);
  return (Math.abs(system.gain) * product(system.zeros)) / product(system.poles);
}

function magnitudeStep(loop: OverFrequency, omega: number, name: string): WorkingStep {
  const { gain, zeros, poles } = loop.system;
  const sizes = (roots: readonly Root[]) => each(roots).map((root) => numeral(distanceTo(root, omega)));
  const lead = Math.abs(gain) === 1 && zeros.length > 0 ? [] : [numeral(Math.abs(gain))];
  const above = [...lead, ...sizes(zeros)].join('\\cdot ');
  const below = sizes(poles).join('\\cdot ');
  const latex = below ? `\\frac{${above}}{${below}}` : above;
  return line(
    'Its magnitude there, from the distances of zeros and poles:',
    `|${name}(j\\,${numeral(omega)})|=${latex}=${numeral(magnitudeAt(loop, omega))}`,
  );
}

/** In degrees, the dead time included. */
function phaseAt({ system, deadTime }: OverFrequency, omega: number): number {
  const sum = (roots: readonly Root[]) => each(roots).reduce((total, root) => total + angleTo(root, omega), 0);
  const sign = system.gain < 0 ? -180 : 0;
  return sign + sum(system.zeros) - sum(system.poles) - (180 / Math.PI) * omega * deadTime;
}

function phaseStep(loop: OverFrequency, omega: number): WorkingStep {
  const { system, deadTime } = loop;
  const terms = [
    ...(system.gain < 0 ? [-180] : []),
    ...each(system.zeros).map((root) => angleTo(root, omega)),
    ...each(system.poles).map((root) => -angleTo(root, omega)),
    ...(deadTime === 0 ? [] : [(-180 / Math.PI) * omega * deadTime]),
  ];
  const written = terms.map((term, k) => `${term >= 0 && k > 0 ? '+' : ''}${withUnitLatex(term, '°')}`).join('');
  const words = deadTime === 0 ? 'Its phase there, zeros less poles:' : 'Its phase there, zeros less poles, less ωT:';
  const equal = terms.length > 1 ? `${written}=` : '';
  return line(words, `\\angle L(j\\,${numeral(omega)})=${equal}${withUnitLatex(phaseAt(loop, omega), '°')}`);
}

const constants = {
  positionConstant: 0,
  velocityConstant: 1,
  accelerationConstant: 2,
  stepError: 0,
  rampError: 1,
  parabolaError: 2,
} as const;

const constantNames = ['K_p', 'K_v', 'K_a'] as const;

/** Error constants and the errors that stay; null where the closed loop is not stable and an error is asked for. */
function workedConstant(name: QuantityName, transfer: Transfer): Worked | null {
  const plain = withDeadTime(transfer);
  if (!plain) return null;
  const power = constants[name as keyof typeof constants];
  const { numerator, denominator } = lowestTerms(plain.fraction);
  const subject = new TransferSubject(transfer);
  const [above, below] = [lowest(numerator), lowest(denominator)];
  const type = below.power - above.power;
  const { positionConstant, velocityConstant, accelerationConstant } = subject.steadyState;
  const constant = [positionConstant, velocityConstant, accelerationConstant][power] ?? NaN;
  const symbol = constantNames[power];
  const times = ['', 's\\,', 's^2\\,'][power] ?? '';
  const integrators = type <= 0 ? 'no integrator' : type === 1 ? 'one integrator' : `${type} integrators`;
  const ratio =
    type === power
      ? `\\frac{${numeral(above.value)}}{${numeral(below.value)}}=${numeral(constant)}`
      : numeral(constant);
  const steps = [
    line(
      `L has ${integrators}; for s → 0 its lowest powers are left:`,
      `${symbol}=\\lim_{s\\to 0}${times}L(s)=${ratio}`,
    ),
  ];
  if (name.endsWith('Constant')) return { steps, value: constant };
  const value = quantities[name].read(subject);
  if (value === null) return null;
  const formula = power === 0 ? `\\left|\\frac{1}{1+${symbol}}\\right|` : `\\left|\\frac{1}{${symbol}}\\right|`;
  const words = 'The loop is stable, so the final value theorem holds:';
  return { steps: [...steps, line(words, `e_\\infty=${formula}=${numeral(value)}`)], value };
}

/** The lowest power whose coefficient is not zero. */
function lowest(p: Polynomial): { power: number; value: number } {
  for (let power = 0; power <= degree(p); power++) {
    const value = rationalToNumber(coefficient(p, power));
    if (value !== 0) return { power, value };
  }
  return { power: 0, value: 0 };
}
