import type { Kind, StudentPart } from '@nailset/core';

/** Something that people in the room raise a hand for. */
export interface VoteOption {
  readonly id: string;
  readonly text: string;
}

const ways: readonly VoteOption[] = [
  { id: 'more', text: 'It overshoots more' },
  { id: 'less', text: 'It overshoots less' },
  { id: 'same', text: 'It stays as it is' },
];

const sure: readonly VoteOption[] = [
  { id: 'sure', text: 'I have an answer' },
  { id: 'unsure', text: 'Not yet' },
];

/** What is voted on before a part is revealed: its own options, how a response will change, or who has an answer. */
export function optionsOf(part: StudentPart): readonly VoteOption[] {
  const options = optionsOfKind[part.kind] as unknown as ((part: StudentPart) => readonly VoteOption[]) | undefined;
  return options?.(part) ?? sure;
}

const optionsOfKind: { readonly [K in Kind]?: (part: Extract<StudentPart, { kind: K }>) => readonly VoteOption[] } = {
  choice: ({ options }) => options,
  gains: () => ways,
};

/** Hands by option. */
export type Votes = Readonly<Record<string, number>>;

/** One count changed by hand or typed; never below zero, and no larger than a lecture hall. */
export const withVote = (votes: Votes, id: string, count: number): Votes => ({
  ...votes,
  [id]: Math.min(2000, Math.max(0, Math.round(Number.isFinite(count) ? count : 0))),
});

/** The share of all hands that each option has, from 0 to 1. */
export function sharesOf(options: readonly VoteOption[], votes: Votes): number[] {
  const counts = options.map(({ id }) => votes[id] ?? 0);
  const all = counts.reduce((sum, count) => sum + count, 0);
  return counts.map((count) => (all === 0 ? 0 : count / all));
}

/** Values of a setting from one end of its range to the other, as they are typed. */
export function stepsOver({ low, high, count }: { low: number; high: number; count: number }): string[] {
  return Array.from({ length: count }, (_, k) =>
    String(Number((low + ((high - low) * k) / (count - 1)).toPrecision(4))),
  );
}
