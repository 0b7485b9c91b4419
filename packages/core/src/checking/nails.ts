import type { Nail } from '../exercise/document.js';
import type { Measures } from '../response/measures.js';
import { quantities } from './quantities/index.js';
import type { VerdictItem } from './verdict.js';
import { formatNumber, withUnit } from './words.js';

/** Measures are good to 1e-6; an answer that lies on the limit within that holds. */
const rounding = 1e-6;
const closeShare = 0.01;

/** Every nail against one response: measured, limit, met or missed, and the words for it. */
export function checkNails(nails: readonly Nail[], measures: Measures): VerdictItem[] {
  return nails.map((nail) => checkNail(nail, measures));
}

function checkNail(nail: Nail, measures: Measures): VerdictItem {
  const quantity = quantities[nail.quantity];
  const { label, short, unit } = quantity;
  const { id, relation, limit } = nail;
  const measured = measures.stable ? quantity.read(measures) : null;
  const beyond = measured === null ? Infinity : relation === 'atMost' ? measured - limit : limit - measured;
  const met = beyond <= rounding * Math.abs(limit);
  const close = Math.abs(beyond) <= closeShare * Math.abs(limit);
  const points = met ? nail.points : 0;
  const item = { id, label, unit, measured, limit, relation, met, close, points, outOf: nail.points };
  const bound = relation === 'atMost' ? 'at most' : 'at least';
  if (measured === null) {
    const why = measures.stable ? 'the response has none' : 'the loop is unstable';
    return { ...item, words: `${short}: ${why}; asked for ${bound} ${withUnit(limit, unit)}.` };
  }
  const start = `${short} ${withUnit(measured, unit)}, limit ${withUnit(limit, unit)}`;
  if (met) return { ...item, words: `${start}: holds${close ? ', just' : ''}.` };
  const by = relation === 'atMost' ? quantity.excess : quantity.lack;
  return { ...item, words: `${start}: ${formatNumber(shownDifference(measured, limit) || beyond)} ${by}.` };
}

/** The difference that a reader of the rounded value would work out. */
function shownDifference(measured: number, limit: number): number {
  const shown = Number(formatNumber(measured).replaceAll('−', '-'));
  return Number(Math.abs(shown - limit).toPrecision(6));
}
