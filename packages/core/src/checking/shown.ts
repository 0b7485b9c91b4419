import type { ExerciseDocument } from '../exercise/document.js';
import { parseFormula, systemFrom } from '../formula/evaluate.js';
import { sampled } from '../exercise/figure.js';
import type { Part } from '../exercise/parts.js';
import type { Samples } from '../exercise/studentPart.js';
import { TransferSubject } from '../quantity/subject.js';
import { orElse } from '../expression/problem.js';
import { respond } from '../response/respond.js';
import type { Transfer } from '../system/transfer.js';
import type { Model } from './model.js';
import type { Verdict } from './verdict.js';

/** The verdict as its student may see it: without measured values or without the slip where the exercise says so. */
export function verdictAsShown(verdict: Verdict, { measured, slip }: ExerciseDocument['shows']): Verdict {
  const { slip: found, curveDistance, ...rest } = verdict;
  const own = slip && found ? { slip: found } : {};
  if (measured) return { ...rest, ...own, ...(curveDistance === undefined ? {} : { curveDistance }) };
  const held = verdict.items.filter(({ met }) => met).length;
  const words =
    verdict.items.length === 1 ? (verdict.met ? 'Right.' : 'Not yet.') : `${held} of ${verdict.items.length} hold.`;
  const items = verdict.items.map((item) => {
    const { id, label, unit, limit, relation, met, points, outOf } = item;
    const said = `${label}: ${met ? 'holds' : 'missed'}.`;
    return { id, label, unit, limit, relation, met, points, outOf, measured: null, close: false, words: said };
  });
  return { ...rest, ...own, words, items };
}

/** The step response that goes with an expected answer, where one does. */
export function solutionCurve(part: Part, { scope }: Model): Samples | undefined {
  const system = expectedSystem(part, scope);
  if (!system) return undefined;
  return orElse(undefined, () => {
    const { settlingTime } = new TransferSubject(system).measures;
    return settlingTime === null ? undefined : sampled('expected', respond(system), 1.6 * settlingTime || 1);
  });
}

function expectedSystem(part: Part, scope: Model['scope']): Transfer | undefined {
  if (part.kind === 'transferFunction') return systemFrom(part.expected, scope);
  if (part.kind !== 'number') return undefined;
  const tree = parseFormula(part.formula);
  const system = tree.kind === 'call' ? tree.of[0] : undefined;
  return system && orElse(undefined, () => systemFrom(system, scope));
}
