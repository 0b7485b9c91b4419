import type { ExerciseDocument } from '../exercise/document.js';
import type { Verdict } from './verdict.js';

/**
 * The verdict as its student may see it: without measured values, and what else is drawn of them, or without the slip
 * where the exercise says so.
 */
export function verdictAsShown(verdict: Verdict, { measured, slip }: ExerciseDocument['shows']): Verdict {
  const { slip: named, curveDistance, responses, ...rest } = verdict;
  const shownSlip = slip && named ? { slip: named } : {};
  if (measured) {
    return {
      ...{ ...rest, ...shownSlip },
      ...(curveDistance === undefined ? {} : { curveDistance }),
      ...(responses === undefined ? {} : { responses }),
    };
  }
  const held = verdict.items.filter(({ met }) => met).length;
  const words =
    verdict.items.length === 1 ? (verdict.met ? 'Right.' : 'Not yet.') : `${held} of ${verdict.items.length} hold.`;
  const items = verdict.items.map((item) => {
    const { id, label, unit, limit, relation, met, points, outOf } = item;
    const said = `${label}: ${met ? 'holds' : 'missed'}.`;
    return { id, label, unit, limit, relation, met, points, outOf, measured: null, close: false, words: said };
  });
  return { ...rest, ...shownSlip, words, items };
}
