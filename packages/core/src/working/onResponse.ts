import type { QuantityName } from '../quantity/names.js';
import { TransferSubject } from '../quantity/subject.js';
import { secondOrderRules } from '../system/secondOrderRules.js';
import { lagOf, secondOrderOf } from '../system/standardForms.js';
import { delayed, type Transfer, withDeadTime } from '../system/transfer.js';
import { type ClosedForm, closedFormOf } from './closedForm.js';
import { gainAtRestSteps } from './onPoles.js';
import { pairSteps } from './standardForm.js';
import { line, numeral, withUnitLatex, type Worked, type WorkingStep } from './step.js';

type Way = (response: Response) => Worked | null;

/** A system whose step response something is read off. */
interface Response {
  /** Without its dead time. */
  readonly system: Transfer;
  /** In seconds. */
  readonly deadTime: number;
  readonly subject: TransferSubject;
  readonly finalValue: number;
  /** Written down, where that can be done. */
  readonly written: ClosedForm;
}

/**
 * The way to what is read off a unit step response: by the formulas of the standard forms where they hold exactly, else
 * off the response written down. Null where neither can be done, as with dead time inside a loop.
 */
export function workedOnResponse(name: QuantityName, transfer: Transfer): Worked | null {
  const way = ways[name];
  const plain = withDeadTime(transfer);
  const written = closedFormOf(transfer);
  if (!way || !plain || !written) return null;
  const subject = new TransferSubject(transfer);
  const { stable, finalValue } = subject.measures;
  if (!stable || finalValue === null || finalValue === 0) return null;
  return way({ system: delayed(plain.fraction), deadTime: written.deadTime, subject, finalValue, written });
}

/** Poles that swing in a system without zeros: where the second-order rules hold exactly. */
const pairOf = ({ system }: Response) => {
  const pair = secondOrderOf(system);
  return pair && pair.dampingRatio > 0 && pair.dampingRatio < 1 ? pair : null;
};

/** The response as a sum, and where it ends. */
function writtenSteps({ written, finalValue }: Response): WorkingStep[] {
  const since =
    written.deadTime === 0 ? '' : `, t counted from the end of the dead time of ${String(written.deadTime)} s`;
  return [
    line(`The step response by partial fractions${since}:`, `y(t)=${written.latex}`),
    line('It ends at', `y_\\infty=${numeral(finalValue)}`),
  ];
}

const ways: Partial<Record<QuantityName, Way>> = {
  finalValue: ({ subject }) => gainAtRestSteps(subject.transfer, 'y_\\infty=\\lim_{s\\to 0}G(s)'),
  overshootPercent(response) {
    const pair = pairOf(response);
    if (pair) {
      const zeta = pair.dampingRatio;
      const value = secondOrderRules.overshootPercent(zeta);
      const formula = `M_p=100\\,\\%\\cdot e^{-\\pi\\zeta/\\sqrt{1-\\zeta^2}}=${withUnitLatex(value, '%')}`;
      return {
        steps: [...pairSteps(pair), line('The overshoot of a pair without zeros depends on ζ alone:', formula)],
        value,
      };
    }
    const peak = highest(response);
    if (!peak) {
      return { steps: [...writtenSteps(response), line('It never goes beyond that:', 'M_p=0\\,\\%')], value: 0 };
    }
    const value = 100 * (peak.value / response.finalValue - 1);
    const share = `\\frac{${numeral(peak.value)}-${bracketed(response.finalValue)}}{${numeral(response.finalValue)}}`;
    return {
      steps: [
        ...writtenSteps(response),
        peak.step,
        line('Relative to the end:', `M_p=${share}=${withUnitLatex(value, '%')}`),
      ],
      value,
    };
  },
  peakTime(response) {
    const pair = pairOf(response);
    if (pair) {
      const wd = pair.naturalFrequency * Math.sqrt(1 - pair.dampingRatio ** 2);
      const value = Math.PI / wd + response.deadTime;
      const plus = response.deadTime === 0 ? '' : ` + ${numeral(response.deadTime)}`;
      const formula = `t_p=\\frac{\\pi}{\\omega_d}${plus}=\\frac{\\pi}{${numeral(wd)}}${plus}=${withUnitLatex(value, 's')}`;
      return {
        steps: [...pairSteps(pair), dampedStep(pair), line('The peak comes after half a period:', formula)],
        value,
      };
    }
    const peak = highest(response);
    if (!peak) return null;
    return {
      steps: [...writtenSteps(response), ...behind(response, 't_p', peak.time, peak.step)],
      value: peak.time + response.deadTime,
    };
  },
  peakValue(response) {
    const peak = highest(response);
    return peak && { steps: [...writtenSteps(response), peak.step], value: peak.value };
  },
  undershootPercent(response) {
    const { written, finalValue, subject } = response;
    const until = subject.measures.settlingTime ?? 0;
    let lowest = { time: 0, share: written.at(0) / finalValue };
    for (let k = 1; k <= fine; k++) {
      const time = (k / fine) * until;
      const share = written.at(time) / finalValue;
      if (share < lowest.share) lowest = { time, share };
    }
    const value = subject.measures.undershootPercent;
    if (value === null) return null;
    if (lowest.share >= 0) {
      return { steps: [...writtenSteps(response), line('It never goes the wrong way:', '0\\,\\%')], value: 0 };
    }
    const words = `The lowest point, near t = ${String(Number(lowest.time.toPrecision(3)))} s, in per cent of the end:`;
    return {
      steps: [
        ...writtenSteps(response),
        line(
          words,
          `\\frac{${numeral(-lowest.share * finalValue)}}{${numeral(finalValue)}}=${withUnitLatex(value, '%')}`,
        ),
      ],
      value,
    };
  },
  riseTime(response) {
    const lag = lagOf(response.system);
    if (lag) {
      const value = Math.log(9) * lag.timeConstant;
      const formula = `t_r=\\ln 9\\cdot\\tau=2.1972\\cdot ${numeral(lag.timeConstant)}=${withUnitLatex(value, 's')}`;
      return { steps: [...lagSteps(lag), line('From 10 to 90 % a lag takes', formula)], value };
    }
    const [from, to] = [firstAt(response, 0.1), firstAt(response, 0.9)];
    if (from === null || to === null) return null;
    const value = to - from;
    return {
      steps: [
        ...writtenSteps(response),
        line('It first passes 10 % and 90 % of that at', `t_{10}=${numeral(from)},\\quad t_{90}=${numeral(to)}`),
        line('So it rises within', `t_r=t_{90}-t_{10}=${withUnitLatex(value, 's')}`),
      ],
      value,
    };
  },
  riseTimeFull: (response) => passing(response, 1, '100 %'),
  delayTime: (response) =>
    onLag(response, Math.LN2, '\\ln 2', 'Half of the end is reached after') ?? passing(response, 0.5, 'half'),
  time63: (response) =>
    onLag(response, 1, '', 'A lag is at 63.2 % after one time constant:') ??
    passing(response, 1 - Math.exp(-1), '63.2 %'),
  settlingTime: (response) => settling(response, 0.02),
  settlingTime5: (response) => settling(response, 0.05),
};

const fine = 2000;

/** Where the response is highest beyond its end; null when it never goes beyond. */
function highest({ written, subject }: Response) {
  const { peakTime, overshootPercent } = subject.measures;
  if (peakTime === null || !overshootPercent) return null;
  const time = peakTime - written.deadTime;
  const value = written.at(time);
  const step = line(
    'Its highest point, where the slope is zero:',
    `y(${numeral(time)}\\ \\mathrm s)=${numeral(value)}`,
  );
  return { time, value, step };
}

/** When the response first passes a share of its end, in seconds after the dead time. Method: bisection. */
function firstAt({ written, finalValue, subject }: Response, share: number): number | null {
  const beyond = (time: number) => written.at(time) / finalValue >= share;
  if (beyond(0)) return 0;
  const until = 2 * (subject.measures.settlingTime ?? 0);
  for (let k = 1; k <= fine; k++) {
    if (!beyond((k / fine) * until)) continue;
    let [low, high] = [((k - 1) / fine) * until, (k / fine) * until];
    for (let n = 0; n < 60; n++) {
      const middle = (low + high) / 2;
      if (beyond(middle)) high = middle;
      else low = middle;
    }
    return high;
  }
  return null;
}

function passing(response: Response, share: number, words: string): Worked | null {
  const time = firstAt(response, share);
  if (time === null) return null;
  const level = share * response.finalValue;
  const first = line(`It first passes ${words} of that:`, `y(${numeral(time)}\\ \\mathrm s)=${numeral(level)}`);
  return { steps: [...writtenSteps(response), ...behind(response, 't', time, first)], value: time + response.deadTime };
}

/** A time of the response without dead time, and with it. */
function behind({ deadTime }: Response, name: string, time: number, first: WorkingStep): WorkingStep[] {
  const total = `${name}=${numeral(time)}${deadTime === 0 ? '' : `+${numeral(deadTime)}=${numeral(time + deadTime)}`}\\ \\mathrm s`;
  return [first, line(deadTime === 0 ? 'So' : 'With the dead time:', total)];
}

function onLag(response: Response, times: number, factor: string, words: string): Worked | null {
  const lag = lagOf(response.system);
  if (!lag) return null;
  const value = times * lag.timeConstant + response.deadTime;
  const plus = response.deadTime === 0 ? '' : `+${numeral(response.deadTime)}`;
  const latex = `t=${factor}${factor && '\\cdot '}${numeral(lag.timeConstant)}${plus}=${withUnitLatex(value, 's')}`;
  return { steps: [...lagSteps(lag), line(words, latex)], value };
}

function settling(response: Response, band: number): Worked | null {
  const time = response.subject.measures[band === 0.02 ? 'settlingTime' : 'settlingTime5'];
  if (time === null) return null;
  const percent = `${100 * band} %`;
  const lag = onLag(response, -Math.log(band), `\\ln\\tfrac{1}{${band}}`, `Only ${percent} are left after`);
  if (lag) return lag;
  const duration = time - response.deadTime;
  const left = line(
    `From then on it stays within ${percent} of that; there, for the last time,`,
    `|y(${numeral(duration)}\\ \\mathrm s)-y_\\infty|=${band}\\cdot ${numeral(Math.abs(response.finalValue))}`,
  );
  const pair = pairOf(response);
  const decay = pair && pair.dampingRatio * pair.naturalFrequency;
  const rule = decay
    ? [
        line(
          'The rule of the envelope only estimates it:',
          `\\frac{${band === 0.02 ? 4 : 3}}{\\zeta\\omega_n}=${withUnitLatex((band === 0.02 ? 4 : 3) / decay, 's')}`,
        ),
      ]
    : [];
  return { steps: [...rule, ...writtenSteps(response), ...behind(response, 't_s', duration, left)], value: time };
}

const lagSteps = ({ gain, timeConstant }: { gain: number; timeConstant: number }): WorkingStep[] => [
  line(
    'This is a lag:',
    `\\frac{K}{\\tau s+1},\\quad K=${numeral(gain)},\\quad \\tau=${withUnitLatex(timeConstant, 's')}`,
  ),
];

const dampedStep = ({ dampingRatio, naturalFrequency }: { dampingRatio: number; naturalFrequency: number }) =>
  line(
    'It swings with the damped frequency',
    `\\omega_d=\\omega_n\\sqrt{1-\\zeta^2}=${withUnitLatex(naturalFrequency * Math.sqrt(1 - dampingRatio ** 2), 'rad/s')}`,
  );

const bracketed = (value: number): string => (value < 0 ? `(${numeral(value)})` : numeral(value));
