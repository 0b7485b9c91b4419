import type { Model } from '../../checking/model.js';
import { parseFormula } from '../../formula/evaluate.js';
import { onDampingRay } from '../../locus/dampingRay.js';
import { specialPoints } from '../../locus/specialPoints.js';
import type { Fraction } from '../../rational/fraction.js';
import { polynomialToLatex } from '../../system/latex.js';
import { systemOf } from '../../system/system.js';
import {
  anglesSteps,
  angleStep,
  breakSteps,
  centroidSteps,
  crossingSteps,
  gainStep,
  openLoopStep,
} from '../../working/onLocus.js';
import { complexLatex, line, numeral, rootsLatex, type WorkingStep } from '../../working/step.js';
import { systemSteps } from '../../working/systems.js';
import { boardOf } from '../board.js';
import { fractionOfPoints } from './check.js';
import type { PointsPart } from './part.js';

/** The system, and the way to the points that are asked for. */
export function pointsWorking(part: PointsPart, model: Model): WorkingStep[] {
  const fraction = fractionOfPoints(part, model);
  return [...systemSteps(parseFormula(part.of), boardOf(model)), ...ways[part.what](fraction)];
}

const ways: Record<PointsPart['what'], (loop: Fraction) => WorkingStep[]> = {
  poles: (fraction) => [
    line('The poles are the roots of the denominator:', `${polynomialToLatex(fraction.denominator)}=0`),
    line('They are', `s=${rootsLatex(systemOf(fraction).poles)}`),
  ],
  zeros: (fraction) => [
    line('The zeros are the roots of the numerator:', `${polynomialToLatex(fraction.numerator)}=0`),
    line('They are', `s=${rootsLatex(systemOf(fraction).zeros)}`),
  ],
  breakPoints: breakSteps,
  axisCrossings: crossingSteps,
  realAxis(loop) {
    const system = systemOf(loop);
    const end = (value: number) => (Number.isFinite(value) ? numeral(value) : value < 0 ? '-\\infty' : '\\infty');
    const stretches = specialPoints(loop).realAxis.map(({ from, to }) => `(${end(from)},\\ ${end(to)})`);
    const parity = system.gain > 0 ? 'odd' : 'even';
    return [
      openLoopStep(system),
      line(
        `The real axis belongs to it where an ${parity} number of poles and zeros lies to the right:`,
        stretches.join(',\\quad ') || '\\text{nowhere}',
      ),
    ];
  },
  asymptotes: (loop) => [...(centroidSteps(loop)?.steps ?? []), ...anglesSteps(loop)],
  locus(loop) {
    const point = [0.5, 0.7, 0.3, 0.1, 0.9].flatMap((zeta) => onDampingRay(loop, zeta))[0];
    if (!point) return [openLoopStep(systemOf(loop))];
    return [
      openLoopStep(systemOf(loop)),
      line('Many points are right; one of them is', `s_1=${complexLatex(point)}`),
      angleStep(loop, point),
      gainStep(loop, point).step,
    ];
  },
};
