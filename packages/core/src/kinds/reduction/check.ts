import type { Model } from '../../checking/model.js';
import { verdictOf } from '../../checking/verdictOf.js';
import { type BlockDiagram, readBlocks } from '../../diagram/blocks.js';
import { isSameGain } from '../../diagram/gains.js';
import { moveOfStep, reducedGain, restricted } from '../../diagram/reduction.js';
import { reduction as reductionOf } from '../../diagram/reduction.js';
import { equationsOf } from '../../exercise/systems.js';
import { nameToLatex, toLatex } from '../../expression/latex.js';
import { must } from '../../expression/must.js';
import { parse } from '../../expression/parse.js';
import { Problem } from '../../expression/problem.js';
import type { Checking } from '../kind.js';
import type { ReductionStep } from './part.js';
import type { ReductionPart } from './part.js';

/** A step as it was made. */
interface Replayed {
  readonly step: ReductionStep;
  /** The move makes a block, so that there is something to type. */
  readonly asked: boolean;
  /** What the student typed is what the move gives; undefined when nothing was typed. */
  readonly right: boolean | undefined;
}

type Asked = Pick<ReductionPart, 'from' | 'to'>;

/** The diagram that a reduction starts from. */
export function startOfReduction(
  part: Asked & { readonly system: string },
  model: Pick<Model, 'systems'>,
): BlockDiagram {
  return restricted(readBlocks(equationsOf(model, part.system, [part.from, part.to]).text, [part.from]), part);
}

/** Makes the steps again, one after the other. @throws Problem for a step that is no legal move. */
function replay(start: BlockDiagram, part: Asked, steps: readonly ReductionStep[]) {
  let now = start;
  const made = steps.map((step, k): Replayed => {
    const move = moveOfStep(now, part.to, step);
    if (!move) throw new Problem('exercise', `Step ${k + 1} is no move of this diagram.`);
    now = move.after;
    const asked = move.gain !== undefined;
    if (step.gain === undefined || move.gain === undefined) return { step, asked, right: undefined };
    return { step, asked, right: isSameGain(step.gain, move.gain) };
  });
  return { made, last: now };
}

export const checking: Checking<'reduction'> = {
  fromText(_part, text) {
    const steps = text
      .split(';')
      .filter((piece) => piece.trim())
      .map((piece) => {
        const [move, gain] = piece.split('=').map((side) => side.trim());
        const [kind, ...of] = must(move).split(/\s+/);
        return { kind: kind as ReductionStep['kind'], of, ...(gain ? { gain } : {}) };
      });
    return { kind: 'reduction', steps };
  },
  read(part, model, { steps }) {
    if (steps.length === 0) throw new Problem('empty', 'Make a first step.');
    const { made } = replay(startOfReduction(part, model), part, steps);
    const open = part.typed === 'no' ? -1 : made.findIndex(({ asked, step }) => asked && !step.gain?.trim());
    if (open >= 0) throw new Problem('empty', `Step ${open + 1}: type what it gives.`);
  },
  check(part, model, { steps }) {
    const start = startOfReduction(part, model);
    const { made, last } = replay(start, part, steps);
    const done = reducedGain(last, part) !== null;
    const typed = made.filter(({ right }) => right !== undefined);
    const right = typed.filter((step) => step.right).length;
    // One block is the end; what counts is how much of the way there is done, as far as what was typed is right.
    const progress = done
      ? 1
      : Math.max(0, (start.nodes.length - last.nodes.length) / Math.max(1, start.nodes.length - 1));
    const share = typed.length === 0 ? progress : (progress * right) / typed.length;
    const item = { unit: '', measured: null, limit: null, relation: 'equal' as const, close: false };
    const items = [
      ...typed.map(({ step, right: met }, k) => {
        const label = `Step ${made.indexOf(must(typed[k])) + 1}`;
        const words = met ? `${label}: right.` : `${label}: ${step.gain} is not what this step gives.`;
        return { ...item, id: `step-${k + 1}`, label, met: must(met), points: 0, outOf: 0, words };
      }),
      {
        ...{ ...item, id: part.id, label: 'One block', met: done, points: part.points * share, outOf: part.points },
        words: done
          ? `Reduced to one block in ${steps.length === 1 ? 'one step' : `${steps.length} steps`}.`
          : `${last.nodes.length} of ${start.nodes.length} blocks and sums are left.`,
      },
    ];
    const wrong = items.find(({ met }) => !met);
    return verdictOf(items, wrong?.words ?? must(items.at(-1)).words);
  },
  solution(part, model) {
    const start = startOfReduction(part, model);
    const last = reductionOf(start, part).at(-1)?.after ?? start;
    return `\\frac{${nameToLatex(part.to)}}{${nameToLatex(part.from)}}=${toLatex(parse(must(reducedGain(last, part))))}`;
  },
};
