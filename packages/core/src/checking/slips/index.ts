import type { Answer } from '../../exercise/answer.js';
import type { Part } from '../../exercise/parts.js';
import type { Model } from '../model.js';
import type { RecognisedSlip, Verdict } from '../verdict.js';
import { slipOfBode } from './bode.js';
import { slipOfDiagram } from './diagram.js';
import { slipOfPoints } from './points.js';
import { slipOfPaths } from './paths.js';
import { slipOfGains } from './gains.js';
import { slipOfRange } from './range.js';
import { slipOfNumber } from './number.js';
import { slipOfStates } from './states.js';
import { slipOfTransfer } from './transferFunction.js';

/**
 * The usual slip that a wrong answer shows, generated from the part's own model; undefined when none or more than one
 * fits.
 * @param check the verdict on another answer, for slips that are seen by undoing them
 */
export function recogniseSlip(
  part: Part,
  model: Model,
  answer: Answer,
  check: (answer: Answer) => Verdict,
): RecognisedSlip | undefined {
  const slip = find();
  // Behind a blank stands where in the diagram it is.
  return slip && { id: slip.id.split(' ')[0]!, words: slip.words, ...(slip.place ? { place: slip.place } : {}) };

  function find(): RecognisedSlip | undefined {
    if (part.kind === 'transferFunction' && answer.kind === 'transferFunction') {
      return slipOfTransfer(part, model, answer.text);
    }
    if (part.kind === 'diagram' && answer.kind === 'diagram') return slipOfDiagram(part, model, answer.texts);
    if (part.kind === 'points' && answer.kind === 'points') return slipOfPoints(part, model, answer.text);
    if (part.kind === 'paths' && answer.kind === 'paths') return slipOfPaths(part, model, answer.text);
    if (part.kind === 'number' && answer.kind === 'number' && !part.condition)
      return slipOfNumber(part, model, answer.text);
    if (part.kind === 'gains' && answer.kind === 'gains') return slipOfGains(part, model, answer.gains, check);
    if (part.kind === 'range' && answer.kind === 'range') return slipOfRange(part, model, answer.text);
    if (part.kind === 'states' && answer.kind === 'states') return slipOfStates(answer, check);
    if (part.kind === 'bode' && answer.kind === 'bode') return slipOfBode(answer.terms, check);
    return undefined;
  }
}
