import {
  type Answer,
  type AnswerOf,
  type Curve,
  curveMotion,
  curveOf,
  type DrawValues,
  type Kind,
  LoopModel,
  type Model,
  modelOf,
  type Motion,
  type NamedSystem,
  orElse,
  type Part,
  type PartOf,
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

/** How the answers of a kind respond; kinds that are not here have no response. @throws Problem for what cannot be read. */
const motions: { readonly [K in Kind]?: (part: PartOf<K>, model: Model, answer: AnswerOf<K>) => Motion | null } = {
  gains(part, model, { gains }) {
    const loop = new LoopModel(part, model.scope, model.series);
    return loop.signals(loop.loopWith(gains)).y;
  },
  curve: (part, model, { knobs }) => curveMotion(part, model.scope, knobs, model.series),
  transferFunction: (_part, model, { text }) => respond(typedIn(text, model)),
};

/** The response that an answer stands for; null where it has none, or answers an earlier version of another kind. */
function motionOf(part: Part, model: Model, answer: Answer): Motion | null {
  const motion = motions[part.kind] as unknown as
    ((part: Part, model: Model, answer: Answer) => Motion | null) | undefined;
  return motion && part.kind === answer.kind ? motion(part, model, answer) : null;
}

const typedIn = (text: string, { asSymbols: { names } }: Model): Transfer =>
  typedTransferFrom(typedTree(text, names.keys()), names);

function settlingOf(given: Given, { values, answer }: FlockEntry): number {
  if (answer.kind !== 'transferFunction') return 0;
  const settling = orElse(
    null,
    () => new TransferSubject(typedIn(answer.text, modelOf(given, values))).measures.settlingTime,
  );
  return settling ?? 0;
}
