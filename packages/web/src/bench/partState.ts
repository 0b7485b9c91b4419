import { type Answer, type Attempt, type Bench, must, type Scope, type StudentPart } from '@nailset/core';
import { useMemo } from 'react';
import type { Live, Readable } from '../kinds/kind';
import { readableAnswer, sameAnswer, studentKind } from '../kinds/students';
import type { Work } from '../loop/action';
import { useLive } from '../work/useLive';
import { fallbacks } from '../work/work';

/** How one part stands: what is on the bench for it, how that reads, and what came of it so far. */
export interface PartState {
  readonly answer: Answer;
  readonly live: Live | undefined;
  readonly readable: Readable;
  /** Oldest first. */
  readonly attempts: readonly Attempt[];
  readonly last: Attempt | undefined;
  readonly triesLeft: number;
  /** The newest one met everything, and stands on the bench as it was handed in. */
  readonly isSolved: boolean;
  /** Why nothing can be handed in now; empty when it can. */
  readonly blocked: string;
  readonly solution: Bench['solutions'][number] | undefined;
  /** Whether what is right may be drawn by now. */
  readonly revealed: boolean;
}

export function usePartState(bench: Bench, work: Work, part: StudentPart, scope: Scope, closed: boolean): PartState {
  const answer = must(work.answers[part.id]);
  const live = useLive(part, answer, fallbacks(work, part), bench.series);
  const attempts = useMemo(() => bench.handedIn.filter(({ partId }) => partId === part.id), [bench.handedIn, part.id]);
  const triesLeft = part.attempts - attempts.filter(({ returned }) => !returned).length;
  const last = attempts.at(-1);
  const readable = readableNow(part, answer, scope, live);
  // After a correction the same answer may be right.
  const same = last?.version === bench.version && sameAnswer(last.answer, answer);
  const solution = bench.solutions.find(({ partId }) => partId === part.id);
  return {
    ...{ answer, live, readable, attempts, last, triesLeft, solution },
    isSolved: same && last.verdict?.met === true,
    blocked: blockedBecause(readable, triesLeft, same, closed),
    revealed: triesLeft <= 0 || solution !== undefined || attempts.some(({ verdict }) => verdict?.met),
  };
}

/** How an answer reads; one that is set on a ladder, by what it gives. */
function readableNow(part: StudentPart, answer: Answer, scope: Scope, live: Live | undefined): Readable {
  const read = readableAnswer(part, answer, scope);
  if (!live) return read;
  const { response, problem } = live;
  return { shown: null, words: response?.verdict.words ?? '', problem: problem?.message ?? read.problem };
}

function blockedBecause(readable: Readable, left: number, same: boolean, closed: boolean): string {
  if (closed) return 'The due date has passed.';
  if (left <= 0) return 'All tries are used; your best one counts.';
  if (readable.problem) return readable.problem;
  if (same) return 'This is what you handed in. Another answer is another try.';
  return '';
}

/** The first part after this one, and then from the top, that is not solved and has tries left. */
export function nextOpen({ parts, handedIn }: Bench, partId: string): string | undefined {
  const at = parts.findIndex(({ id }) => id === partId);
  const isOpen = ({ id, attempts }: StudentPart): boolean => {
    const tries = handedIn.filter((attempt) => attempt.partId === id);
    return !tries.some(({ verdict }) => verdict?.met) && tries.filter(({ returned }) => !returned).length < attempts;
  };
  return [...parts.slice(at + 1), ...parts.slice(0, at)].find(isOpen)?.id;
}

/**
 * The parts that stand on one sheet with the open one: small neighbours together, as on paper; anything larger has the
 * sheet for itself, and so has everything where the exercise says so.
 */
export function partsTogether({ parts, layout }: Pick<Bench, 'parts' | 'layout'>, partId: string): StudentPart[] {
  const at = parts.findIndex(({ id }) => id === partId);
  const here = must(parts[at]);
  const isSmall = (part: StudentPart | undefined): boolean =>
    part !== undefined && !part.figure && studentKind(part).isSmall(part);
  if (layout === 'single' || !isSmall(here)) return [here];
  let [from, to] = [at, at];
  while (isSmall(parts[from - 1])) from -= 1;
  while (isSmall(parts[to + 1])) to += 1;
  return parts.slice(from, to + 1);
}
