import type {
  Answer,
  ApplyCorrection,
  Correction,
  CorrectionPreview,
  DrawValues,
  ExerciseDocument,
  NewCorrection,
  Recheck,
  Verdict,
} from '@nailset/core';
import { must } from '@nailset/core';
import { and, asc, desc, eq, inArray, isNull, lt, sql } from 'drizzle-orm';
import { Refusal } from '../errors.js';
import { type Deed, record } from './courseLog.js';
import type { Database, Transaction } from './database.js';
import { documentOf } from './documents.js';
import { seedUnder } from './exercises.js';
import { recheckSoon } from './jobs.js';
import { corrections, draws, people, rechecks, returnedTries, submissions, verdicts, versions } from './schema.js';
import { standingOf } from './standing.js';

/** Answers checked again after an exercise was corrected: first a preview, which changes nothing, then what counts. */

/** An answer to be checked against another version; `values` are the numbers it was given for. */
export interface Rechecked {
  readonly partId: string;
  readonly values: DrawValues;
  readonly seed: string;
  readonly answer: Answer;
}

/** Checks answers against another version on a thread; what cannot be checked says why. */
export interface Rechecking {
  recheck(
    document: ExerciseDocument,
    items: readonly Rechecked[],
  ): Promise<readonly ({ readonly verdict: Verdict } | { readonly problem: string })[]>;
}

/** Answers checked at one go. */
const handful = 12;
/** Rows in one statement; PostgreSQL takes 65 535 parameters. */
const batch = 1000;

/**
 * Begins to check answers again against a version, as jobs; their verdicts count for nobody until it is applied.
 * @throws Refusal `notFound` for an unknown version, `badRequest` where there is no such answer.
 */
export async function beginCorrection(
  database: Database,
  exerciseId: string,
  byPersonId: string,
  { version, partIds, submissionIds }: NewCorrection,
): Promise<string> {
  return database.transaction(async (tx) => {
    const [against] = await tx
      .select({ id: versions.id })
      .from(versions)
      .where(and(eq(versions.exerciseId, exerciseId), eq(versions.number, version)));
    if (!against) throw new Refusal('notFound');
    const [made] = await tx
      .insert(corrections)
      .values({ exerciseId, versionId: against.id, byPersonId })
      .returning({ id: corrections.id });
    const correctionId = must(made).id;
    const chosen = tx
      .select({ correctionId: sql<string>`${correctionId}::uuid`.as('correction_id'), submissionId: submissions.id })
      .from(submissions)
      .where(
        and(
          eq(submissions.exerciseId, exerciseId),
          partIds.length > 0 ? inArray(submissions.partId, partIds) : undefined,
          submissionIds.length > 0 ? inArray(submissions.id, submissionIds) : undefined,
        ),
      );
    const { rowCount } = await tx.execute(
      sql`insert into ${rechecks} (correction_id, submission_id) ${chosen.getSQL()}`,
    );
    if (!rowCount) throw new Refusal('badRequest', 'There is no such answer to be checked again.');
    await recheckSoon(tx, correctionId);
    return correctionId;
  });
}

/**
 * Checks some of the answers that wait in a correction; false when none is left for now, or it was cancelled. Each is
 * taken by one worker alone, and what a worker that dies had taken waits again.
 */
export async function recheckSome(database: Database, threads: Rechecking, correctionId: string): Promise<boolean> {
  return database.transaction(async (tx) => {
    const [correction] = await tx.select().from(corrections).where(eq(corrections.id, correctionId));
    if (correction?.state !== 'checking') return false;
    const waiting = await tx
      .select({ submission: submissions, values: draws.values })
      .from(rechecks)
      .innerJoin(submissions, eq(submissions.id, rechecks.submissionId))
      .leftJoin(draws, and(eq(draws.versionId, submissions.versionId), eq(draws.personId, submissions.personId)))
      .where(and(eq(rechecks.correctionId, correctionId), isNull(rechecks.doneAt)))
      .limit(handful)
      .for('update', { of: rechecks, skipLocked: true });
    if (waiting.length === 0) {
      await tx.execute(sql`
        update ${corrections} set state = 'ready' where id = ${correctionId} and state = 'checking'
           and not exists (select from ${rechecks} where correction_id = ${correctionId} and done_at is null)`);
      return false;
    }
    const document = await documentOf(tx, correction.versionId);
    const seedOf = await seedUnder(tx, correction.versionId);
    const checked = await threads.recheck(
      document,
      waiting.map(({ submission: { partId, personId, answer }, values }) => ({
        ...{ partId, answer, values: values ?? {}, seed: seedOf(personId) },
      })),
    );
    const rows = waiting.map(({ submission }, k) => {
      const one = must(checked[k]);
      return { id: submission.id, ...('verdict' in one ? { result: one.verdict } : { problem: one.problem }) };
    });
    await tx.execute(sql`
      update ${rechecks} r set result = f.result, problem = f.problem, done_at = now()
        from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as f (id uuid, result jsonb, problem text)
       where r.correction_id = ${correctionId} and r.submission_id = f.id`);
    return true;
  });
}

const counted = {
  total: sql<number>`(select count(*)::int from ${rechecks} r where r.correction_id = ${corrections.id})`,
  done: sql<number>`(select count(r.done_at)::int from ${rechecks} r where r.correction_id = ${corrections.id})`,
};

const correctionRows = (database: Database | Transaction) =>
  database
    .select({ correction: corrections, version: versions.number, by: people.name, ...counted })
    .from(corrections)
    .innerJoin(versions, eq(versions.id, corrections.versionId))
    .innerJoin(people, eq(people.id, corrections.byPersonId))
    .$dynamic();

type CorrectionRow = Awaited<ReturnType<typeof correctionRows>>[number];

const told = ({ correction, version, by, total, done }: CorrectionRow): Correction => ({
  ...{ id: correction.id, version, state: correction.state, done, total, by, at: correction.at.toISOString() },
  ...{ counting: correction.counting, reason: correction.reason, givesBack: correction.givesBack },
  appliedAt: correction.appliedAt?.toISOString() ?? null,
});

/** The corrections of an exercise, newest first. */
export async function correctionsOf(database: Database, exerciseId: string): Promise<Correction[]> {
  const rows = await correctionRows(database)
    .where(eq(corrections.exerciseId, exerciseId))
    .orderBy(desc(corrections.at))
    .limit(50);
  return rows.map(told);
}

/** A correction with what it found of each answer, and what counts of it by now. @throws Refusal `notFound`. */
export async function correctionPreview(
  database: Database,
  exerciseId: string,
  correctionId: string,
): Promise<CorrectionPreview> {
  const [row] = await correctionRows(database).where(
    and(eq(corrections.id, correctionId), eq(corrections.exerciseId, exerciseId)),
  );
  if (!row) throw new Refusal('notFound');
  const [checked, standing, names] = await Promise.all([
    database.select().from(rechecks).where(eq(rechecks.correctionId, correctionId)),
    standingOf(database, exerciseId),
    database
      .selectDistinct({ id: people.id, name: people.name })
      .from(people)
      .innerJoin(submissions, eq(submissions.personId, people.id))
      .where(eq(submissions.exerciseId, exerciseId))
      .orderBy(asc(people.name)),
  ]);
  const nameOf = new Map(names.map(({ id, name }) => [id, name]));
  const byId = new Map(standing.map((entry) => [entry.id, entry]));
  const numbers = await database
    .select({ id: versions.id, number: versions.number })
    .from(versions)
    .where(eq(versions.exerciseId, exerciseId));
  const numberOf = new Map(numbers.map(({ id, number }) => [id, number]));
  const rows = checked.flatMap(({ submissionId, result, problem, doneAt }): Recheck[] => {
    const entry = byId.get(submissionId);
    if (!entry || !doneAt) return [];
    const { personId, partId, attempt, verdict, override } = entry;
    return [
      {
        ...{ submissionId, personId, name: nameOf.get(personId) ?? '', partId, attempt, problem },
        before: {
          points: override?.points ?? verdict?.points ?? 0,
          outOf: verdict?.outOf ?? 0,
          words: override ? `Set by hand: ${override.reason}` : (verdict?.words ?? 'No verdict.'),
          version: must(numberOf.get(entry.checkedAgainst)),
        },
        after: result && { points: result.points, outOf: result.outOf, words: result.words },
        byHand: override !== null,
      },
    ];
  });
  return { ...told(row), rows };
}

/** Whether a verdict takes the place of the present one. What is the same for the student is left as it is. */
export function replaces(before: Verdict | null, after: Verdict, counting: 'better' | 'newer'): boolean {
  if (!before) return true;
  const same = before.points === after.points && before.outOf === after.outOf && before.met === after.met;
  if (same) return false;
  if (counting === 'newer' || after.points > before.points) return true;
  return after.points === before.points && (after.met || !before.met);
}

/**
 * Lets the verdicts of a correction count, all at once; each change goes into the course’s log.
 * @throws Refusal `notFound`, `notChecked`, `alreadyDecided`.
 */
export async function applyCorrection(
  database: Database,
  { exerciseId, courseId, byPersonId }: { exerciseId: string; courseId: string; byPersonId: string },
  correctionId: string,
  { counting, reason, givesBack }: ApplyCorrection,
): Promise<{ changed: number }> {
  return database.transaction(async (tx) => {
    const correction = await lockCorrection(tx, exerciseId, correctionId);
    if (correction.state === 'checking') throw new Refusal('notChecked');
    if (correction.state !== 'ready') throw new Refusal('alreadyDecided');
    const { versionId } = correction;
    const [against] = await tx.select({ number: versions.number }).from(versions).where(eq(versions.id, versionId));
    const number = must(against).number;
    await tx
      .update(corrections)
      .set({ state: 'applied', counting, givesBack, reason: reason.trim(), appliedAt: new Date() })
      .where(eq(corrections.id, correctionId));
    const { rows } = await tx.execute<{
      id: string;
      personId: string;
      partId: string;
      attempt: number;
      before: Verdict | null;
      after: Verdict;
    }>(sql`
      select s.id, s.person_id as "personId", s.part_id as "partId", s.attempt, v.result as before, r.result as after
        from ${rechecks} r join ${submissions} s on s.id = r.submission_id
        left join lateral (select result from ${verdicts} v where v.submission_id = s.id
                            order by v.checked_at desc limit 1) v on true
       where r.correction_id = ${correctionId} and r.result is not null`);
    const changed = rows.filter(({ before, after }) => replaces(before, after, counting));
    for (let from = 0; from < changed.length; from += batch) {
      await tx.insert(verdicts).values(
        changed.slice(from, from + batch).map(({ id, after }) => ({
          ...{ submissionId: id, result: after, points: after.points, versionId, correctionId },
        })),
      );
    }
    const { parts } = await documentOf(tx, versionId);
    const titleOf = (partId: string) => parts.find(({ id }) => id === partId)?.title ?? partId;
    const deeds = changed.map(({ personId, partId, attempt, before, after }): Deed => {
      const points = `${before?.points ?? 0} of ${before?.outOf ?? after.outOf} → ${after.points} of ${after.outOf} points`;
      const words = `${titleOf(partId)}, try ${attempt}: ${points}, checked again against version ${number}`;
      return { courseId, exerciseId, personId, byPersonId, words, reason: reason.trim() };
    });
    await record(tx, ...deeds, {
      ...{ courseId, exerciseId, byPersonId, reason: reason.trim() },
      words: `correction applied: ${changed.length} of ${rows.length} answers changed${givesBack ? ', tries given back' : ''}`,
    });
    if (givesBack) await giveBack(tx, correctionId, number);
    return { changed: changed.length };
  });
}

/** Tries spent on earlier versions than this do not count as used any more. */
async function giveBack(tx: Transaction, correctionId: string, number: number): Promise<void> {
  const spent = tx
    .select({
      submissionId: submissions.id,
      correctionId: sql<string>`${correctionId}::uuid`.as('correction_id'),
    })
    .from(rechecks)
    .innerJoin(submissions, eq(submissions.id, rechecks.submissionId))
    .innerJoin(versions, eq(versions.id, submissions.versionId))
    .where(and(eq(rechecks.correctionId, correctionId), lt(versions.number, number)));
  await tx.execute(
    sql`insert into ${returnedTries} (submission_id, correction_id) ${spent.getSQL()} on conflict do nothing`,
  );
}

/** Ends a correction without any effect. @throws Refusal `notFound`, `alreadyDecided`. */
export async function cancelCorrection(database: Database, exerciseId: string, correctionId: string): Promise<void> {
  await database.transaction(async (tx) => {
    const { state } = await lockCorrection(tx, exerciseId, correctionId);
    if (state === 'applied') throw new Refusal('alreadyDecided');
    await tx.update(corrections).set({ state: 'cancelled' }).where(eq(corrections.id, correctionId));
  });
}

async function lockCorrection(tx: Transaction, exerciseId: string, correctionId: string) {
  const [correction] = await tx
    .select()
    .from(corrections)
    .where(and(eq(corrections.id, correctionId), eq(corrections.exerciseId, exerciseId)))
    .for('update');
  if (!correction) throw new Refusal('notFound');
  return correction;
}
