import type { Settings } from '../exercise/answer.js';
import { orProblem, Problem } from '../expression/problem.js';
import { type Branch, tracedBranches, type Window } from '../locus/branches.js';
import { coefficients } from '../rational/polynomial.js';
import type { ControlLoop } from './controlLoop.js';
import type { LoopModel } from './model.js';

/** Coefficients of the characteristic polynomial, highest power first. @throws Problem `deadTime`. */
function characteristicOf(loop: ControlLoop): number[] {
  if (loop.hasDeadTime)
    throw new Problem('deadTime', 'A loop with dead time has infinitely many poles: they are not drawn.');
  return coefficients(loop.characteristic[0]!.polynomial);
}

const firstLook = 24;

/**
 * Closed-loop poles of a loop over one setting of its controller, as branches whose `gains` hold the setting.
 * Values at which the loop has fewer poles, or cannot be built, are stepped over.
 * @throws Problem when no value of the range gives poles to draw, or as `loopWith`.
 */
export function sweepSetting(
  model: LoopModel,
  settings: Settings,
  name: string,
  [from, to]: readonly [number, number],
  window: Window,
): Branch[] {
  const at = (value: number): number[] | Problem => {
    return orProblem(() =>
      characteristicOf(model.loopWith({ ...settings, [name]: String(Number(value.toPrecision(9))) })),
    );
  };
  const levels = Array.from({ length: firstLook + 1 }, (_, k) => at(from + ((to - from) * k) / firstLook));
  const built = levels.filter((each) => Array.isArray(each));
  if (built.length === 0) throw levels[0] as Problem;
  const width = Math.max(...built.map(({ length }) => length));
  const few = levels.map((each) => !Array.isArray(each) || each.length < width);
  // Just beside an end that lacks a pole, all are there; beyond one in the middle the range is drawn to it.
  const tiny = (to - from) * 1e-6;
  const start = from + (few[0] ? tiny : 0);
  const gap = few.findIndex((lacking, k) => lacking && k > 0 && k < firstLook);
  const end = gap > 0 ? from + ((to - from) * gap) / firstLook - tiny : to - (few[firstLook] ? tiny : 0);
  let last = built.find(({ length }) => length === width)!;
  const write = (value: number, falling: Float64Array): void => {
    const here = at(value);
    if (Array.isArray(here) && here.length === width) last = here;
    falling.set(last);
  };
  return tracedBranches(width - 1, write, start, end, window);
}

/**
 * Closed-loop poles over a parameter of the plant, from loops at values in even steps of its logarithm; in between each
 * coefficient follows the cubic through four of them. `gains` of the branches hold the parameter.
 * @throws Problem when fewer than four of the loops have as many poles as most, or one has dead time.
 */
export function sweepParameter(
  loops: readonly { readonly value: number; readonly loop: ControlLoop }[],
  window: Window,
): Branch[] {
  const monic = loops.map(({ value, loop }) => {
    const all = characteristicOf(loop);
    return { value, falling: all.map((c) => c / all[0]!) };
  });
  const width = Math.max(0, ...monic.map(({ falling }) => falling.length));
  const nodes = monic.filter(({ falling }) => falling.length === width);
  if (nodes.length < 4) throw new Problem('notPossible', 'The number of poles changes with this parameter.');
  const write = (at: number, falling: Float64Array): void => {
    const first = Math.max(0, Math.min(nodes.length - 4, Math.floor(at) - 1));
    const weights = [0, 1, 2, 3].map((i) =>
      [0, 1, 2, 3].reduce((product, k) => (k === i ? product : (product * (at - first - k)) / (i - k)), 1),
    );
    for (let c = 0; c < width; c++) {
      falling[c] = weights.reduce((sum, weight, k) => sum + weight * nodes[first + k]!.falling[c]!, 0);
    }
  };
  const ratio = nodes[1]!.value / nodes[0]!.value;
  return tracedBranches(width - 1, write, 0, nodes.length - 1, window).map((branch) => ({
    ...branch,
    gains: branch.gains.map((step) => nodes[0]!.value * ratio ** step),
  }));
}
