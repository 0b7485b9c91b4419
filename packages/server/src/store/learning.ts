import type { PracticeTally, Verdict } from '@nailset/core';
import { and, asc, eq, sql } from 'drizzle-orm';
import { hintsTaken, practised } from './courseSchema.js';
import type { Database } from './database.js';

/** Hints that were asked for, and what came of practice. */

/** How many hints of each part someone has asked for. */
export async function hintsOf(database: Database, exerciseId: string, personId: string): Promise<Map<string, number>> {
  const taken = await database
    .select({ partId: hintsTaken.partId, number: sql<number>`max(${hintsTaken.number})::int` })
    .from(hintsTaken)
    .where(and(eq(hintsTaken.exerciseId, exerciseId), eq(hintsTaken.personId, personId)))
    .groupBy(hintsTaken.partId);
  return new Map(taken.map(({ partId, number }) => [partId, number]));
}

/** Records that someone asks for a hint; asked again it costs nothing more. */
export async function takeHint(
  database: Database,
  taken: { exerciseId: string; personId: string; partId: string; number: number; cost: number },
): Promise<void> {
  await database.insert(hintsTaken).values(taken).onConflictDoNothing();
}

/** Points that hints take from an answer that is handed in now. */
export const hintCostNow = (exerciseId: string, personId: string, partId: string) => sql`
  (select coalesce(sum(h.cost), 0) from ${hintsTaken} h
    where h.exercise_id = ${exerciseId}::uuid and h.person_id = ${personId}::uuid and h.part_id = ${partId})`;

/** Keeps what came of an answer to other numbers. */
export async function keepPractised(
  database: Database,
  { verdict, ...of }: { exerciseId: string; personId: string; partId: string; verdict: Verdict },
): Promise<void> {
  await database.insert(practised).values({ ...of, met: verdict.met, slip: verdict.slip?.words ?? null });
}

/** An answer of a student: whether it was right, and the slip that it showed. */
export interface Done {
  readonly met: boolean;
  readonly slip: string | null;
}

/** What someone made of a part in practice, oldest first. */
export const practisedBy = (
  database: Database,
  { exerciseId, personId, partId }: { exerciseId: string; personId: string; partId: string },
): Promise<Done[]> =>
  database
    .select({ met: practised.met, slip: practised.slip })
    .from(practised)
    .where(and(eq(practised.exerciseId, exerciseId), eq(practised.personId, personId), eq(practised.partId, partId)))
    .orderBy(asc(practised.at));

/** Right answers in a row after which a slip counts as shed. */
const shedAfter = 2;

/** What practice comes to; slips of hand-ins, which came before, count with it. */
export function tallyOf(handedIn: readonly Done[], practice: readonly Done[]): PracticeTally {
  const all = [...handedIn, ...practice];
  const lastWrong = all.reduce((last, { met }, k) => (met ? last : k), -1);
  const isSteady = all.length - 1 - lastWrong >= shedAfter;
  const times = new Map<string, number>();
  for (const { slip } of all) if (slip !== null) times.set(slip, (times.get(slip) ?? 0) + 1);
  return {
    done: practice.length,
    right: practice.filter(({ met }) => met).length,
    slips: [...times].map(([words, count]) => ({ words, times: count, shed: isSteady })),
  };
}
