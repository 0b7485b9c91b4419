import { sampled } from '../../exercise/figure.js';
import type { Series } from '../../exercise/given.js';
import { motionOf } from '../../exercise/inputs.js';
import type { Samples } from '../../exercise/seen.js';
import { textOf } from '../../exercise/systems.js';
import { Problem } from '../../expression/problem.js';
import { namesIn } from '../../expression/tree.js';
import { parseFormula, type Scope, systemFrom } from '../../formula/evaluate.js';
import type { CurvePart } from './part.js';

/** The curve that a model is to follow. */
export function targetOf(part: CurvePart, scope: Scope, series: readonly Series[]): Samples {
  if ('system' in part.target) {
    const motion = motionOf(systemFrom(part.target.system, scope), part.input, series);
    return sampled('given', motion, part.horizon);
  }
  const { series: id } = part.target;
  const measured = series.find((entry) => entry.id === id);
  if (!measured) throw new Problem('exercise', `There is no table “${id}”.`);
  return { label: measured.name, times: measured.times, values: measured.values };
}

/** What the names of a curve's model stand for, but for those that the student sets. */
export function knownNames(part: Pick<CurvePart, 'model' | 'knobs'>, scope: Scope): Record<string, string> {
  const knobNames = new Set(part.knobs.map(({ symbol }) => symbol));
  const used = new Set(namesIn(parseFormula(part.model)));
  return Object.fromEntries(
    [...scope.names]
      .filter(([name]) => used.has(name) && !knobNames.has(name))
      .map(([name, value]) => [name, textOf(value)]),
  );
}
