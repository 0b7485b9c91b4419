import type { Model } from '../../checking/model.js';
import { must } from '../../expression/must.js';
import { secondOrderRules } from '../../system/secondOrderRules.js';
import { line, numeral, withUnitLatex, type WorkingStep } from '../../working/step.js';
import type { CurvePart } from './part.js';
import { targetOf } from './target.js';

/** What the curve says of the model: where it ends, how far it swings beyond and when, or when it is at 63 %. */
export function curveWorking(part: CurvePart, model: Model): WorkingStep[] {
  const { times, values } = targetOf(part, model.scope, model.series);
  const input = part.input;
  if (input !== undefined && input.kind !== 'levels') return [];
  const at = input?.at ?? 0;
  const size = input ? input.to - input.from : 1;
  const inside = times.map((time, k) => ({ time, value: must(values[k]) })).filter(({ time }) => time <= part.horizon);
  if (inside.length < 8 || size === 0) return [];
  const first = must(inside[0]).value;
  // The last tenth, for a record that still trembles.
  const tail = inside.slice(-Math.max(3, Math.floor(inside.length / 10)));
  const end = tail.reduce((sum, { value }) => sum + value, 0) / tail.length;
  const rise = end - first;
  if (rise === 0) return [];
  const peak = inside.reduce(
    (best, each) => ((each.value - best.value) * Math.sign(rise) > 0 ? each : best),
    must(inside[0]),
  );
  const overshoot = (100 * (peak.value - end)) / rise;
  const ending = [
    line('The curve begins and ends at', `y_0=${numeral(first)},\\quad y_\\infty\\approx ${numeral(end)}`),
    line(
      'Per unit of the input that is a gain of',
      `K\\approx\\frac{${numeral(rise)}}{${numeral(size)}}=${numeral(rise / size)}`,
    ),
  ];
  if (overshoot > 2 && overshoot < 100) {
    const zeta = secondOrderRules.dampingFor(overshoot);
    const time = peak.time - at;
    const wn = Math.PI / (time * Math.sqrt(1 - zeta * zeta));
    return [
      ...ending,
      line(
        'Its highest point lies beyond that by',
        `M_p\\approx ${withUnitLatex(overshoot, '%')},\\quad t_p\\approx ${withUnitLatex(time, 's')}`,
      ),
      line(
        'By the rule of a pair the overshoot gives',
        `\\zeta=\\frac{-\\ln(M_p/100)}{\\sqrt{\\pi^2+\\ln^2(M_p/100)}}\\approx ${numeral(zeta)}`,
      ),
      line('and the peak time', `\\omega_n=\\frac{\\pi}{t_p\\sqrt{1-\\zeta^2}}\\approx ${withUnitLatex(wn, 'rad/s')}`),
      ...refining,
    ];
  }
  const passes = inside.find(({ time, value }) => time >= at && (value - first) / rise >= 1 - Math.exp(-1));
  if (!passes) return [...ending, ...refining];
  return [
    ...ending,
    line('It does not swing; 63 % of the way are done after', `\\tau\\approx ${withUnitLatex(passes.time - at, 's')}`),
    ...refining,
  ];
}

const refining = [
  line('With these the model starts near the curve; the rest is done by nudging until the misfit is small.', ''),
];
