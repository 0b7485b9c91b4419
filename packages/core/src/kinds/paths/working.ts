import type { Model } from '../../checking/model.js';
import { readBlocks } from '../../diagram/blocks.js';
import { equationsOf } from '../../exercise/systems.js';
import { listSteps, pathsView } from '../../working/diagrams.js';
import type { WorkingStep } from '../../working/step.js';
import type { PathsPart } from './part.js';

/** Each path or loop with the signals that it goes through. */
export function pathsWorking(part: PathsPart, model: Model): WorkingStep[] {
  const diagram = readBlocks(equationsOf(model, part.system, [part.from, part.to]).text, [part.from]);
  const view = pathsView(diagram, part);
  return view ? listSteps(view, part.list) : [];
}
