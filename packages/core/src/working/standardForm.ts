import type { SecondOrder } from '../system/standardForms.js';
import { line, numeral, signed, withUnitLatex, type WorkingStep } from './step.js';

/** Damping ratio and natural frequency read off the coefficients of s² + 2ζωn·s + ωn². */
export function pairSteps({ dampingRatio, naturalFrequency }: SecondOrder): WorkingStep[] {
  const [middle, last] = [2 * dampingRatio * naturalFrequency, naturalFrequency ** 2];
  return [
    line(
      'Below the line, with the highest power scaled to 1, stands the standard form:',
      `s^2${signed(middle)}\\,s${signed(last)}=s^2+2\\zeta\\omega_n s+\\omega_n^2`,
    ),
    line(
      'The last coefficient gives',
      `\\omega_n=\\sqrt{${numeral(last)}}=${withUnitLatex(naturalFrequency, 'rad/s')}`,
    ),
    line(
      'and the middle one',
      `\\zeta=\\frac{${numeral(middle)}}{2\\cdot ${numeral(naturalFrequency)}}=${numeral(dampingRatio)}`,
    ),
  ];
}
