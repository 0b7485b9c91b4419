import {
  type Answer,
  type Curve,
  curveMotion,
  curveOf,
  type DrawValues,
  LoopModel,
  type Model,
  modelOf,
  type Motion,
  type NamedSystem,
  orElse,
  type Part,
  respond,
  type Series,
  type Transfer,
  TransferSubject,
  typedTransferFrom,
  typedTree,
} from '@nailset/core';

/** What the systems of an exercise need beside a part. */
export interface Given {
  readonly systems: NamedSystem[];
  readonly series: Series[];
}

/** One student's answer, to be drawn. */
export interface FlockEntry {
  readonly submissionId: string;
  readonly values: DrawValues;
  readonly answer: Answer;
}

/** Its response; times 0 to the part's horizon. */
export interface FlockCurve {
  readonly submissionId: string;
  readonly curve: Curve;
}

/** Time that shows most stable responses of the class settling. */
export function horizonOf(part: Part, given: Given, entries: readonly FlockEntry[]): number {
  if ('horizon' in part) return part.horizon;
  const settled = entries.map((entry) => settlingOf(given, entry)).sort((a, b) => a - b);
  const middle = settled[Math.floor(settled.length / 2)] ?? 5;
  return Number((1.4 * middle || 5).toPrecision(2));
}

/** Everyone's response to one part; answers that have none are left out. */
export function flockCurves(part: Part, given: Given, entries: readonly FlockEntry[], horizon: number): FlockCurve[] {
  return entries.flatMap(({ submissionId, values, answer }) => {
    const motion = orElse(null, () => motionOf(part, modelOf(given, values), answer));
    return motion ? [{ submissionId, curve: curveOf(motion, horizon, 0.004) }] : [];
  });
}

/** The response that an answer stands for. @throws Problem for answers that cannot be read. */
function motionOf(part: Part, model: Model, answer: Answer): Motion | null {
  if (part.kind === 'gains' && answer.kind === 'gains') {
    const loop = new LoopModel(part, model.scope, model.series);
    return loop.signals(loop.loopWith(answer.gains)).y;
  }
  if (part.kind === 'curve' && answer.kind === 'curve') {
    return curveMotion(part, model.scope, answer.knobs, model.series);
  }
  return answer.kind === 'transferFunction' ? respond(typedIn(answer.text, model)) : null;
}

const typedIn = (text: string, { own: { names } }: Model): Transfer =>
  typedTransferFrom(typedTree(text, names.keys()), names);

function settlingOf(given: Given, { values, answer }: FlockEntry): number {
  if (answer.kind !== 'transferFunction') return 0;
  const found = orElse(
    null,
    () => new TransferSubject(typedIn(answer.text, modelOf(given, values))).measures.settlingTime,
  );
  return found ?? 0;
}
