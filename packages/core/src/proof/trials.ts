import type { Model } from '../checking/model.js';
import { figureCurves } from '../exercise/figure.js';
import type { Part } from '../exercise/parts.js';
import { Problem } from '../expression/problem.js';
import { ownTrials } from '../kinds/index.js';
import type { Trial } from '../kinds/kind.js';
import { studentPart } from '../kinds/studentView.js';

/** Everything that working on a part and checking it would run, the likeliest culprits first. */
export function trialsOf(part: Part, model: Model): Trial[] {
  const figure: Trial[] = (part.figure?.curves ?? []).map((curve, k) => ({
    field: `figure/curves/${k}`,
    run: () => {
      if (curve.system === undefined && curve.series === undefined) {
        throw new Problem('exercise', 'This curve needs a system or a table.');
      }
      figureCurves({ ...part.figure!, curves: [curve] }, model.scope, model.series);
    },
  }));
  const seen: Trial = {
    field: 'prompt',
    run: () => void studentPart({ ...model, attempts: 1 }, part, model.values, model.scope),
  };
  return [...figure, ...ownTrials(part, model), seen];
}
