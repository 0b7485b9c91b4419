import type { Verdict } from '../checking/verdict.js';
import { verdictAsShown } from '../checking/verdictAsShown.js';
import type { ExerciseDocument } from '../exercise/document.js';
import type { Part } from '../exercise/parts.js';
import { isPrediction } from '../exercise/points.js';
import { attemptsOf, hasSolution } from './index.js';

/** An attempt as far as it decides what its student may see. */
export interface Disclosed {
  readonly partId: string;
  /** Null where the check ran out of time, or is not done. */
  readonly verdict: Verdict | null;
  readonly checked: boolean;
  readonly override: { readonly points: number; readonly reason: string } | null;
  readonly points: number;
}

type Rules = Pick<ExerciseDocument, 'late' | 'verdict' | 'shows'>;

/** When an exercise stops taking answers, late ones included; null for never. */
export const closesAt = ({ late }: Pick<ExerciseDocument, 'late'>, dueAt: Date | null): Date | null =>
  dueAt && new Date(dueAt.getTime() + (late?.hours ?? 0) * 3_600_000);

/**
 * What one student may see of one exercise by now: pure, from its rules, its due date, what was handed in and the time.
 * An answer that is expected is told to nobody who can still hand in what it gives away.
 */
export class Disclosure {
  /** Whether no answer is taken any more, not even a late one. */
  readonly closed: boolean;
  /** What is told of verdicts; null while they are kept back. */
  readonly verdicts: ExerciseDocument['shows'] | null;

  constructor(rules: Rules, dueAt: Date | null, now: Date) {
    const closes = closesAt(rules, dueAt);
    this.closed = closes !== null && closes < now;
    this.verdicts = rules.verdict === 'atOnce' || this.closed ? rules.shows : null;
  }

  /** Verdict, points and decision of an attempt, as far as they are told. */
  ofAttempt({ verdict, checked, override, points }: Disclosed) {
    const shows = this.verdicts;
    return {
      checked,
      outOfTime: shows !== null && checked && verdict === null,
      ...(shows && verdict ? { verdict: verdictAsShown(verdict, shows) } : {}),
      ...(shows && override ? { override } : {}),
      ...(shows && (override ?? verdict) ? { points } : {}),
    };
  }

  /** How a part stands, from its best attempt. An answer that came late is right all the same. */
  ofPart(best: Disclosed | undefined): 'open' | 'handedIn' | 'met' | 'missed' {
    if (!best) return 'open';
    if (!this.verdicts || !best.verdict) return 'handedIn';
    const met = best.override ? best.points >= best.verdict.outOf : best.verdict.met;
    return met ? 'met' : 'missed';
  }

  /**
   * Whether expected answers are told. Parts of an exercise share its model, so one of them would give away others: all
   * are shown, or none. A part with many right answers keeps none of them back.
   */
  solutions(
    document: Pick<ExerciseDocument, 'solution' | 'attempts'> & { readonly parts: readonly Part[] },
    attempts: readonly Disclosed[],
  ): boolean {
    if (document.solution === 'never') return false;
    if (this.closed) return true;
    if (document.solution === 'afterDue' || !this.verdicts) return false;
    return document.parts.every((part) => {
      const ofPart = attempts.filter(({ partId }) => partId === part.id);
      return (
        !hasSolution(part) || ofPart.some(({ verdict }) => verdict?.met) || ofPart.length >= attemptsOf(document, part)
      );
    });
  }

  /**
   * Whether a part may be practised with other numbers, ungraded: always, or once nothing can be gained by it any more.
   * Without numbers that are drawn there are no others.
   */
  practice(
    document: Pick<ExerciseDocument, 'practice' | 'attempts' | 'parameters'>,
    part: Part,
    attempts: readonly Disclosed[],
  ): boolean {
    const { practice = 'afterwards' } = document;
    if (practice === 'never' || !document.parameters.some(({ draw }) => draw.kind !== 'fixed')) return false;
    if (practice === 'always' || this.closed) return true;
    const ofPart = attempts.filter(({ partId }) => partId === part.id);
    return (
      this.ofPart(ofPart.find(({ verdict }) => verdict?.met)) === 'met' || ofPart.length >= attemptsOf(document, part)
    );
  }

  /** Whether the curves of a prediction are shown: it can no longer be changed. */
  prediction(part: Part, attempts: readonly Disclosed[]): boolean {
    return isPrediction(part) && (this.closed || attempts.some(({ partId }) => partId === part.id));
  }
}
