import { Problem } from '../expression/problem.js';
import { magnitudeAndPhase } from '../frequency/bode.js';
import { quantities } from '../quantity/index.js';
import { TransferSubject } from '../quantity/subject.js';
import type { Transfer } from '../system/transfer.js';
import { line, numeral, withUnitLatex, type WorkingStep } from './step.js';

/** K·(s + z)/(s + p), worked out from what is asked of the open loop. */
export interface Stage {
  readonly K: number;
  readonly z: number;
  readonly p: number;
  readonly steps: readonly WorkingStep[];
}

/** What is added to the phase that is lacking, as the crossover does not stay where it is. */
const reserve = 5;

const at = (loop: Transfer, omega: number) => {
  const { magnitudesDb, phasesDegrees } = magnitudeAndPhase(loop, [omega]);
  return { size: 10 ** ((magnitudesDb[0] ?? NaN) / 20), phase: phasesDegrees[0] ?? NaN };
};

/**
 * A lead whose largest phase stands at the crossover, for a phase margin in degrees. Source: for instance Franklin,
 * Powell and Emami-Naeini, Feedback Control of Dynamic Systems, section 6.7.
 * @param crossover in rad/s; that of the loop unless given
 * @throws Problem `notPossible` where one stage gives too little, or there is no crossover.
 */
export function leadForMargin(loop: Transfer, margin: number, crossover?: number): Stage {
  const omega = crossover ?? quantities.gainCrossover.read(new TransferSubject(loop));
  if (omega === null || !(omega > 0)) throw new Problem('notPossible', 'The loop has no crossover to begin with.');
  const { size, phase } = at(loop, omega);
  const lacking = margin - (180 + phase) + reserve;
  if (!(lacking > 1 && lacking < 70)) {
    throw new Problem('notPossible', 'One stage gives between 1° and 70°; something else is lacking here.');
  }
  const sine = Math.sin((lacking * Math.PI) / 180);
  const ratio = (1 + sine) / (1 - sine);
  const [z, p] = [omega / Math.sqrt(ratio), omega * Math.sqrt(ratio)];
  const K = Math.sqrt(ratio) / size;
  return {
    ...{ K, z, p },
    steps: [
      line(
        crossover === undefined ? 'The loop passes 1 at' : 'The loop is to pass 1 at',
        `\\omega_c=${withUnitLatex(omega, 'rad/s')},\\quad \\angle L=${withUnitLatex(phase, '°')},\\quad |L|=${numeral(size)}`,
      ),
      line(
        `The lead gives what is lacking, with ${reserve}° in reserve:`,
        `\\varphi=${withUnitLatex(margin, '°')}-(180^\\circ${phase < 0 ? '' : '+'}${withUnitLatex(phase, '°')})+${reserve}^\\circ=${withUnitLatex(lacking, '°')}`,
      ),
      line('Its corners lie apart by', `\\frac{p}{z}=\\frac{1+\\sin\\varphi}{1-\\sin\\varphi}=${numeral(ratio)}`),
      line(
        'and on both sides of the crossover:',
        `z=\\frac{\\omega_c}{\\sqrt{p/z}}=${numeral(z)},\\quad p=\\omega_c\\sqrt{p/z}=${numeral(p)}`,
      ),
      line(
        'The magnitude is to be 1 there:',
        `K\\,\\frac{s+z}{s+p}:\\quad K=\\frac{\\sqrt{p/z}}{|L(j\\omega_c)|}=${numeral(K)}`,
      ),
    ],
  };
}

/**
 * A lag that raises the error constant and leaves the crossover alone, a decade below it.
 * @param wanted the error constant that is asked for
 * @throws Problem `notPossible` where it is there already, or there is no crossover.
 */
export function lagForError(loop: Transfer, name: 'positionConstant' | 'velocityConstant', wanted: number): Stage {
  const subject = new TransferSubject(loop);
  const omega = quantities.gainCrossover.read(subject);
  const now = quantities[name].read(subject);
  if (omega === null || now === null || !(omega > 0 && now > 0 && Number.isFinite(now) && wanted > now)) {
    throw new Problem('notPossible', 'A lag has nothing to do here.');
  }
  const ratio = wanted / now;
  const [z, p] = [omega / 10, omega / 10 / ratio];
  const symbol = name === 'positionConstant' ? 'K_p' : 'K_v';
  return {
    ...{ K: 1, z, p },
    steps: [
      line('The error constant is, and is to be', `${symbol}=${numeral(now)}\\to ${numeral(wanted)}`),
      line(
        'So the lag gives at low frequency',
        `\\frac{z}{p}=\\frac{${numeral(wanted)}}{${numeral(now)}}=${numeral(ratio)}`,
      ),
      line(
        'Its zero stays a decade below the crossover, where it hardly turns the phase:',
        `\\omega_c=${withUnitLatex(omega, 'rad/s')},\\quad z=${numeral(z)},\\quad p=\\frac{z}{${numeral(ratio)}}=${numeral(p)}`,
      ),
      line('At the crossover it leaves the magnitude alone:', 'K\\,\\frac{s+z}{s+p}:\\quad K=1'),
    ],
  };
}
