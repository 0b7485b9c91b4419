import { orProblem, Problem } from '@nailset/core';
import type { Readable } from './kind';

/** What kinds have in common whose answer is one typed text. */

/** Whether two texts are the same but for blanks. */
export const isSameText = (left: { text: string }, right: { text: string }): boolean =>
  bare(left.text) === bare(right.text);

export const bare = (text = ''): string => text.replace(/\s/g, '');

export const ShownText = ({ answer }: { answer: { readonly text: string } }) => (
  <p className="mt-1 text-[16px]">{answer.text}</p>
);

/** Words for a text that can be read, and otherwise why not. */
export function readableAs(words: () => string, whenEmpty?: string | false): Readable {
  const outcome = orProblem(words);
  if (outcome instanceof Problem) return { shown: null, words: '', problem: whenEmpty || outcome.message };
  return { shown: null, words: outcome, problem: undefined };
}

/** An answer that is whole, or what is still to be done. */
export const readableWhen = (problem: string | false, words = ''): Readable => ({
  ...{ shown: null, words },
  problem: problem || undefined,
});
