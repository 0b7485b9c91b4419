import type { Model } from '../../checking/model.js';
import { formatNumber } from '../../checking/words.js';
import { modelOfTerms } from '../../frequency/terms.js';
import { line, numeral, withUnitLatex, type WorkingStep } from '../../working/step.js';
import { numbersOfTerms, suggestedTerms } from './check.js';
import type { BodePart } from './part.js';

/** One model that follows, read off from left to right. */
export function bodeWorking(part: BodePart, model: Model): WorkingStep[] {
  const settings = suggestedTerms(part, model);
  if (!settings) return [];
  const { gain, integrators, terms, deadTime } = modelOfTerms(numbersOfTerms(part, settings));
  const corners = [...terms].sort((a, b) => a.corner - b.corner);
  const slope = -20 * integrators;
  let now = slope;
  return [
    line(
      integrators === 0
        ? 'At low frequency the curve is level: no pole at the origin.'
        : `At low frequency it has a slope of ${formatNumber(slope)} dB per decade:`,
      integrators === 0 ? `20\\lg K=${withUnitLatex(20 * Math.log10(gain), 'dB')}` : `n=${integrators}`,
    ),
    line(integrators === 0 ? 'So' : 'Carried on to ω = 1 its level is 20 lg K, so', `K=${numeral(gain)}`),
    ...corners.map(({ corner, damping, power }) => {
      const bend = power * (damping === null ? 20 : 40);
      now += bend;
      const what = `${damping === null ? 'a' : 'a pair of'} ${power < 0 ? 'pole' : 'zero'}${damping === null ? '' : 's'}`;
      const how = damping === null ? '' : `,\\quad \\zeta=${numeral(damping)}`;
      return line(
        `The slope becomes ${formatNumber(now)} dB per decade: ${what} at`,
        `\\omega=${withUnitLatex(corner, 'rad/s')}${how}`,
      );
    }),
    ...(deadTime > 0
      ? [line('The phase falls faster than the slopes explain, by ωT:', `T=${withUnitLatex(deadTime, 's')}`)]
      : []),
  ];
}
