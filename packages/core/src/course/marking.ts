import type { Static } from 'typebox';
import * as Type from 'typebox';
import { sumOfShares } from '../exercise/points.js';

/** From points to marks: sets of exercises, weights, the best n, bonus and excused exercises. Pure. */

const closed = { additionalProperties: false };
const weight = Type.Number({ minimum: 0, maximum: 1000 });
const setId = Type.String({ pattern: '^[A-Za-z0-9_-]{1,32}$' });

export const MarkSet = Type.Object(
  {
    id: setId,
    name: Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' }),
    weight,
    best: Type.Union([Type.Integer({ minimum: 1, maximum: 200 }), Type.Null()], {
      description: 'How many of its exercises count, the best ones; null for all.',
    }),
  },
  closed,
);
export type MarkSet = Static<typeof MarkSet>;

export const MarkRule = Type.Object(
  {
    set: setId,
    weight: Type.Union([weight, Type.Null()], { description: 'Within its set; null for its points.' }),
    bonus: Type.Boolean({ description: 'What it gives is added; what is missing takes nothing away.' }),
  },
  closed,
);
export type MarkRule = Static<typeof MarkRule>;

export const Marking = Type.Object(
  {
    sets: Type.Array(MarkSet, { minItems: 1, maxItems: 20 }),
    exercises: Type.Record(Type.String(), MarkRule, {
      description: 'By the id of the exercise; others are in the first set, by their points.',
    }),
  },
  closed,
);
export type Marking = Static<typeof Marking>;

/** Every point counts alike. */
export const plainMarking: Marking = {
  sets: [{ id: 'all', name: 'Exercises', weight: 1, best: null }],
  exercises: {},
};

/** What is the matter with a scheme; undefined for nothing. */
export function markingProblem({ sets, exercises }: Marking): string | undefined {
  const ids = new Set(sets.map(({ id }) => id));
  if (ids.size < sets.length) return 'Two sets have the same id.';
  if (new Set(sets.map(({ name }) => name.trim())).size < sets.length) return 'Two sets have the same name.';
  if (sets.every((set) => set.weight === 0)) return 'Every set weighs 0. Give one of them a weight.';
  const lost = Object.values(exercises).find(({ set }) => !ids.has(set));
  return lost && `An exercise is in the set “${lost.set}”, which is not there.`;
}

/** One exercise of one student, as it counts. `points` is null where nothing was handed in. */
export interface MarkCell {
  readonly exerciseId: string;
  readonly points: number | null;
  readonly outOf: number;
  readonly excused: boolean;
  /** Nothing is lost yet by not having handed it in. */
  readonly open: boolean;
}

/** How a cell came to count: in full, not among the best, excused, not due yet. */
export type Counting = 'counts' | 'dropped' | 'excused' | 'open';

export interface SetMark {
  readonly id: string;
  /** Share reached, 1 for all, more with a bonus; null where nothing counts yet. */
  readonly share: number | null;
  readonly counting: Readonly<Record<string, Counting>>;
}

export interface CourseMark {
  readonly sets: readonly SetMark[];
  /** Share reached of all sets by weight; null where nothing counts yet. */
  readonly total: number | null;
}

/** The rule for an exercise, given or implied. */
export const ruleFor = (marking: Marking, exerciseId: string): MarkRule =>
  marking.exercises[exerciseId] ?? { set: marking.sets[0]?.id ?? '', weight: null, bonus: false };

/**
 * A student’s mark. Within a set each exercise counts by its share of points and its weight; with “best n” those n
 * count that give the highest mean. Sets count by weight; those in which nothing counts yet are left out.
 */
export function courseMark(marking: Marking, cells: readonly MarkCell[]): CourseMark {
  const sets = marking.sets.map((set) => {
    const ofExercise = cells.filter(({ exerciseId }) => ruleFor(marking, exerciseId).set === set.id);
    return setMark(marking, set, ofExercise);
  });
  const counted = marking.sets.flatMap(({ weight }, k) => {
    const share = sets[k]?.share ?? null;
    return share === null ? [] : [{ weight, share }];
  });
  return { sets, total: weighted(counted) };
}

function setMark(marking: Marking, { id, best }: MarkSet, cells: readonly MarkCell[]): SetMark {
  const counting: Record<string, Counting> = {};
  const rated = cells.flatMap((cell) => {
    const { weight, bonus } = ruleFor(marking, cell.exerciseId);
    const { exerciseId, points, outOf, excused, open } = cell;
    if (excused || (open && points === null)) {
      counting[exerciseId] = excused ? 'excused' : 'open';
      return [];
    }
    counting[exerciseId] = 'counts';
    return [{ exerciseId, bonus, weight: weight ?? outOf, share: outOf > 0 ? (points ?? 0) / outOf : 0 }];
  });
  const every = rated.filter(({ bonus, weight }) => !bonus && weight > 0);
  const plain = best === null ? every : bestOf(every, best);
  for (const { exerciseId } of every)
    if (!plain.some((kept) => kept.exerciseId === exerciseId)) counting[exerciseId] = 'dropped';
  const share = weighted(plain);
  const whole = sumOfShares(plain.map(({ weight }) => weight));
  const extra = rated.filter(({ bonus }) => bonus);
  if (extra.length === 0 || whole === 0) return { id, share, counting };
  const added = sumOfShares(extra.map((cell) => cell.weight * cell.share)) / whole;
  return { id, share: (share ?? 0) + added, counting };
}

interface Rated {
  readonly exerciseId: string;
  readonly weight: number;
  readonly share: number;
}

/**
 * The n entries whose weighted mean is highest, so that more points never lower it. Source: W. Dinkelbach, On nonlinear
 * fractional programming, Management Science 13 (1967): the mean of the entries that gain most over a mean is no lower.
 */
function bestOf(entries: readonly Rated[], n: number): readonly Rated[] {
  let mean = 0;
  for (;;) {
    const kept = [...entries].sort((a, b) => b.weight * (b.share - mean) - a.weight * (a.share - mean)).slice(0, n);
    const next = weighted(kept) ?? 0;
    if (next <= mean) return kept;
    mean = next;
  }
}

/** The weighted mean; null for nothing that weighs anything. */
function weighted(entries: readonly { weight: number; share: number }[]): number | null {
  const whole = sumOfShares(entries.map(({ weight }) => weight));
  return whole > 0 ? sumOfShares(entries.map(({ weight, share }) => weight * share)) / whole : null;
}
