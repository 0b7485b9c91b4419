import type { MessagePort } from 'node:worker_threads';
import {
  type Answer,
  type Bench,
  type DrawValues,
  type ExerciseDocument,
  type FigureMeasures,
  isPrediction,
  modelOf,
  orElse,
  type Part,
  Problem,
  type Samples,
  type Trail,
  type Verdict,
  type WorkingStep,
} from '@nailset/core';
import {
  checkAnswer,
  curveMeasures,
  diagramsDrawn,
  drawValues,
  examine,
  type Finding,
  keptValues,
  readAnswer,
  readTrail,
  revealedCurves,
  solutionCurve,
  solutionOf,
  studentExercise,
} from '@nailset/core/checks';
import { drawingKey, layoutOf } from '@nailset/core/diagrams';
import { workingOf } from '@nailset/core/workings';

/** Whatever works with typed formulas; it runs on threads of its own, where it can be stopped. */

export type Given = Pick<ExerciseDocument, 'systems' | 'series' | 'parameters'>;

/** One answer to one part, with the numbers it was given for. */
export interface Answered {
  readonly given: Given;
  readonly part: Part;
  readonly values: DrawValues;
  readonly answer: Answer;
}

export interface Shown {
  readonly document: ExerciseDocument;
  readonly values: DrawValues;
}

/** An answer to be checked against another version; `values` are the numbers it was given for. */
export interface Rechecked {
  readonly partId: string;
  readonly values: DrawValues;
  readonly seed: string;
  readonly answer: Answer;
}

export interface Expected {
  readonly document: ExerciseDocument;
  readonly partId: string;
  readonly values: readonly DrawValues[];
}

export type Recheck = { readonly verdict: Verdict } | { readonly problem: string };

function recheckOne(document: ExerciseDocument, { partId, values, seed, answer }: Rechecked): Recheck {
  const part = document.parts.find(({ id }) => id === partId);
  if (!part) return { problem: 'This version has no such part.' };
  if (part.kind !== answer.kind) return { problem: 'In this version the part takes another kind of answer.' };
  const kept = keptValues(document, values, seed);
  if (!kept) return { problem: 'This version does not allow the student’s numbers.' };
  try {
    const model = modelOf(document, kept);
    readAnswer(part, model, answer);
    return { verdict: checkAnswer(part, model, answer) };
  } catch (error) {
    if (error instanceof Problem) return { problem: `Cannot be read in this version: ${error.message}` };
    throw error;
  }
}

export type Practised =
  | {
      readonly verdict: Verdict;
      readonly solution?: Bench['solutions'][number];
      readonly working: readonly WorkingStep[];
      readonly revealed: Samples[];
      readonly measured: FigureMeasures;
    }
  | { readonly problem: string; readonly at: number };

export const work = {
  check({ given, part, values, answer }: Answered): Verdict {
    return checkAnswer(part, modelOf(given, values), answer);
  },

  /**
   * Answers checked against another version than they were given for, with the numbers that they were given for; where
   * that cannot be done, why.
   */
  recheck({ document, items }: { document: ExerciseDocument; items: readonly Rechecked[] }): Recheck[] {
    return items.map((item) => recheckOne(document, item));
  },

  /** What keeps an answer from being read; undefined for nothing. */
  read({
    given,
    part,
    values,
    answer,
    trail,
  }: Answered & { trail: Trail }): { message: string; at: number } | undefined {
    try {
      readAnswer(part, modelOf(given, values), answer);
      readTrail(part, trail);
      return undefined;
    } catch (error) {
      // A thread hands over plain data only.
      if (error instanceof Problem) return { message: error.message, at: error.at };
      throw error;
    }
  },

  /** A student’s numbers: those seen before, where the document allows them, or new ones from the seed. */
  draw({ document, before, seed }: { document: ExerciseDocument; before?: DrawValues; seed: string }): DrawValues {
    return (before && keptValues(document, before, seed)) ?? drawValues(document, seed);
  },

  view({ document, values }: Shown): ReturnType<typeof studentExercise> {
    return studentExercise(document, values);
  },

  /** Where everything stands in the diagrams that a student's page draws, by `drawingKey`. */
  async drawings({ document, values }: Shown): Promise<NonNullable<Bench['drawings']>> {
    // Large, and needed by few threads.
    const { default: Elk } = await import('elkjs/lib/elk.bundled.js');
    const elk = new Elk.default();
    const drawn = diagramsDrawn(studentExercise(document, values));
    return Promise.all(
      drawn.map(async ({ diagram, outputs }) => ({
        of: drawingKey(diagram, outputs),
        drawing: await layoutOf((graph) => elk.layout(graph), diagram, outputs),
      })),
    );
  },

  /** The expected answers of every part that has one. */
  solutions({ document, values }: Shown): Bench['solutions'] {
    const model = modelOf(document, values);
    return document.parts.flatMap((part) => {
      const text = solutionOf(part, model);
      if (text === null) return [];
      const curve = solutionCurve(part, model);
      return [{ partId: part.id, text, ...(curve ? { curve } : {}) }];
    });
  },

  /** The expected answers to one part for several students; null for none. */
  expected({ document, partId, values }: Expected): (string | null)[] {
    const part = document.parts.find(({ id }) => id === partId);
    if (!part) return values.map(() => null);
    const known = new Map<string, string | null>();
    return values.map((drawn) => {
      const key = JSON.stringify(drawn);
      if (!known.has(key))
        known.set(
          key,
          orElse(null, () => solutionOf(part, modelOf(document, drawn))),
        );
      return known.get(key) ?? null;
    });
  },

  /** The way to the expected answer of one part. */
  working({ document, partId, values }: Shown & { partId: string }): readonly WorkingStep[] {
    const part = document.parts.find(({ id }) => id === partId);
    return part ? workingOf(part, modelOf(document, values)) : [];
  },

  /** An answer to other numbers: its verdict, and all that may be told after it; or why it cannot be read. */
  practised({ document, partId, values, answer }: Shown & { partId: string; answer: Answer }): Practised {
    const part = document.parts.find(({ id }) => id === partId);
    if (!part) return { problem: 'There is no such part.', at: 0 };
    const model = modelOf(document, values);
    try {
      const verdict = checkAnswer(part, model, answer);
      const text = solutionOf(part, model);
      const curve = solutionCurve(part, model);
      return {
        verdict,
        ...(text === null ? {} : { solution: { partId, text, ...(curve ? { curve } : {}) } }),
        working: workingOf(part, model),
        revealed: revealedCurves(document, part, values),
        measured: curveMeasures(document, part, values),
      };
    } catch (error) {
      if (error instanceof Problem) return { problem: error.message, at: error.at };
      throw error;
    }
  },

  /** The curves of every part that is a prediction. */
  revealed({ document, values }: Shown): Bench['revealed'] {
    return document.parts
      .filter(isPrediction)
      .map((part) => ({ partId: part.id, curves: revealedCurves(document, part, values) }));
  },

  /** The measures of every curve beside a part. */
  measured({ document, values }: Shown): Bench['measured'] {
    return document.parts
      .filter(({ figure }) => figure)
      .map((part) => ({ partId: part.id, curves: curveMeasures(document, part, values) }));
  },

  /** How many of these sets of numbers the document does not allow. */
  countRuledOut({ document, seen }: { document: ExerciseDocument; seen: readonly DrawValues[] }): number {
    return seen.filter((values) => orElse(true, () => keptValues(document, values, '') === undefined)).length;
  },

  /** Everything that keeps a document from being published. */
  examine(document: ExerciseDocument): Finding[] {
    return examine(document);
  },
};

export type Work = typeof work;

/** One piece of work, as it is sent to a thread. */
export interface Piece {
  readonly name: keyof Work;
  readonly input: unknown;
  /** Hears when the work begins, where it may have to wait first. */
  readonly begun: MessagePort | undefined;
}

export default function run({ name, input, begun }: Piece): unknown {
  begun?.postMessage(null);
  begun?.close();
  return (work[name] as (input: unknown) => unknown)(input);
}
