import { createHash } from 'node:crypto';
import { type Answer, type EnteredAnswers, type EnteredPlan, must, type Part, Problem } from '@nailset/core';
import { answerFromText } from '@nailset/core/checks';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { cellsOf } from '../csv.js';
import { Refusal } from '../errors.js';
import { partNamed } from '../partNamed.js';
import { record } from './courseLog.js';
import type { Database, Transaction } from './database.js';
import { datesIn } from './dates.js';
import { drawFor, type Drawing, newestVersion } from './exercises.js';
import type { Reading } from './handIn.js';
import { enqueued } from './jobs.js';
import { courseWithPeople } from './people.js';
import { submissions } from './schema.js';

/** Answers from paper, a form or another platform, handed in for students by staff. */

interface Member {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly studentNumber: string;
}

interface Line {
  readonly line: number;
  readonly who: string;
  readonly partName: string;
  readonly text: string;
}

interface Read extends Line {
  readonly person: Member | undefined;
  readonly part: Part | undefined;
  readonly answer: Answer | undefined;
  readonly problem: string | null;
}

/** Most answers in one table. */
const mostLines = 5000;
/** Lines that are read at the same time. */
const atOnce = 16;

/**
 * What a table of answers says and who gave them; with `apply` what can be read is handed in. It counts as in time, as
 * it was answered elsewhere, and the same table again changes nothing.
 *
 * Columns: who (e-mail, student number or name), then part and answer, or one column for each part.
 * @throws Refusal `badRequest` where it is no such table.
 */
export async function enterAnswers(
  database: Database,
  threads: Drawing & Reading,
  { exerciseId, courseId, byPersonId }: { exerciseId: string; courseId: string; byPersonId: string },
  { text, apply }: EnteredAnswers,
): Promise<EnteredPlan> {
  const version = await newestVersion(database, exerciseId);
  const { parts, systems, series, parameters } = version.document;
  const lines = linesOf(cellsOf('The table', text), parts);
  if (lines.length > mostLines) throw new Refusal('badRequest', `A table holds at most ${mostLines} answers.`);
  const { people } = await courseWithPeople(database, courseId);
  const students = people.filter(({ role }) => role === 'student');
  const read: Read[] = [];
  for (let k = 0; k < lines.length; k += atOnce) {
    read.push(...(await Promise.all(lines.slice(k, k + atOnce).map(readLine))));
  }
  const known = await knownKeys(database, exerciseId, read.map(keyOf));
  const isKnown = (entry: Read) => entry.person !== undefined && known.has(`${entry.person.id} ${keyOf(entry)}`);
  const fresh = read.filter((entry) => entry.problem === null && !isKnown(entry));
  if (apply && fresh.length > 0) {
    const dates = await datesIn(database, [exerciseId]);
    await database.transaction(async (tx) => {
      for (const entry of fresh) {
        const { dueAt } = dates(exerciseId, must(entry.person).id);
        await insert(tx, { exerciseId, versionId: version.id, byPersonId, dueAt }, entry);
      }
      await record(tx, { courseId, exerciseId, byPersonId, words: `${fresh.length} answers from elsewhere handed in` });
    });
  }
  return {
    rows: read.map((entry) => ({
      ...{ line: entry.line, text: entry.text, problem: entry.problem, known: isKnown(entry) },
      name: entry.person?.name ?? entry.who,
      partId: entry.part?.id ?? '',
      part: entry.part?.title ?? entry.partName,
    })),
    entered: apply ? fresh.length : 0,
  };

  async function readLine(line: Line): Promise<Read> {
    const person = personNamed(students, line.who);
    const part = partNamed(parts, line.partName);
    const read = { ...line, person: typeof person === 'string' ? undefined : person, part, answer: undefined };
    if (typeof person === 'string') return { ...read, problem: person };
    if (!part) return { ...read, problem: `There is no part “${line.partName}”.` };
    try {
      const answer = answerFromText(part, line.text);
      const values = await drawFor(database, threads, version, person.id);
      await threads.read({ given: { systems, series, parameters }, part, values, answer, trail: [] });
      return { ...read, answer, problem: null };
    } catch (error) {
      if (error instanceof Problem || error instanceof Refusal) return { ...read, problem: error.message };
      throw error;
    }
  }
}

const plain = (text: string): string => text.trim().toLowerCase().replace(/\s+/g, ' ');

/** The student meant by an e-mail, a number or a name; why none is, otherwise. */
function personNamed(students: readonly Member[], who: string): Member | string {
  const wanted = plain(who);
  if (!wanted) return 'It does not say whose answer this is.';
  const named = students.filter(
    ({ email, studentNumber, name }) =>
      plain(email) === wanted || (studentNumber !== '' && plain(studentNumber) === wanted) || plain(name) === wanted,
  );
  if (named.length > 1) return `${named.length} students of the course are called “${who}”. Use e-mail or number.`;
  return named[0] ?? `No student of the course has the e-mail, number or name “${who}”.`;
}

/** One answer a line, from a table with a part column or with a column for each part. */
function linesOf(rows: readonly (readonly string[])[], parts: readonly Part[]): Line[] {
  const [head = [], ...body] = rows;
  const names = head.map(plain);
  const column = (...wanted: string[]) => names.findIndex((name) => wanted.includes(name.replace(/[^a-z]/g, '')));
  const who = column('email', 'emailaddress', 'student', 'studentnumber', 'number', 'name', 'person', 'matriculation');
  if (who < 0)
    throw new Refusal('badRequest', 'No column says whose answers these are: e-mail, student number or name.');
  const part = column('part', 'question');
  const answer = column('answer', 'response', 'value');
  const wide = names.flatMap((name, k) => (k !== who && partNamed(parts, name) ? [k] : []));
  if ((part < 0 || answer < 0) && wide.length === 0) {
    const asked = parts.map(({ title }) => title).join(', ');
    throw new Refusal('badRequest', `The table has neither “part” and “answer” nor a column for a part: ${asked}.`);
  }
  const columns = part >= 0 && answer >= 0 ? undefined : wide;
  return body.flatMap((row, k) => {
    const cell = (column: number) => (row[column] ?? '').trim();
    const texts = columns
      ? columns.map((column) => ({ partName: head[column] ?? '', text: cell(column) }))
      : [{ partName: cell(part), text: cell(answer) }];
    return texts.filter(({ text }) => text !== '').map((each) => ({ line: k + 2, who: cell(who), ...each }));
  });
}

/** Names the same answer to the same part in whichever table it stands. */
const keyOf = ({ part, text }: Pick<Read, 'part' | 'text'>): string =>
  `entered-${createHash('sha256')
    .update(`${part?.id ?? ''}\n${text}`)
    .digest('hex')
    .slice(0, 40)}`;

async function knownKeys(database: Database, exerciseId: string, keys: readonly string[]): Promise<Set<string>> {
  if (keys.length === 0) return new Set();
  const rows = await database
    .select({ personId: submissions.personId, key: submissions.key })
    .from(submissions)
    .where(and(eq(submissions.exerciseId, exerciseId), inArray(submissions.key, [...new Set(keys)])));
  return new Set(rows.map(({ personId, key }) => `${personId} ${key}`));
}

async function insert(
  tx: Transaction,
  {
    exerciseId,
    versionId,
    byPersonId,
    dueAt,
  }: { exerciseId: string; versionId: string; byPersonId: string; dueAt: string | null },
  entry: Read,
): Promise<void> {
  const personId = must(entry.person).id;
  const partId = must(entry.part).id;
  await tx.execute(sql`
    with added as (
      insert into ${submissions} (exercise_id, version_id, person_id, part_id, attempt, key, answer, trail, handed_in_at, entered_by)
      select ${exerciseId}::uuid, ${versionId}::uuid, ${personId}::uuid, ${partId},
             (select coalesce(max(attempt), 0) + 1 from ${submissions}
               where exercise_id = ${exerciseId}::uuid and person_id = ${personId}::uuid and part_id = ${partId}),
             ${keyOf(entry)}, ${JSON.stringify(entry.answer)}::jsonb, '[]'::jsonb,
             least(now(), coalesce(${dueAt}::timestamptz, now())), ${byPersonId}::uuid
      on conflict do nothing
      returning id)
    select enqueued.id from added, ${enqueued(sql`added.id`, sql`'-infinity'::timestamptz`, sql`${personId}`)} as enqueued`);
}
