import type { ExportFile, ExportKind, ExportRow, Marks } from '@nailset/core';
import { must } from '@nailset/core';
import { and, desc, eq } from 'drizzle-orm';
import { tableText } from '../csv.js';
import { Refusal } from '../errors.js';
import { record } from './courseLog.js';
import { exports } from './courseSchema.js';
import type { Database } from './database.js';
import { marksOf } from './marks.js';
import { people } from './schema.js';

/** Marks as registries read them; what was given out is kept as it was. */

/** To two places, as marks are given; exact halves do not come from binary fractions. */
const rounded = (value: number): number => Math.round(value * 100 + 1e-7) / 100;

const shown = (points: number | null): number | string => (points === null ? '' : rounded(points));

/** One row a student: an exercise or a part a column, sets, and the total in percent. */
function gradebook({ marking, exercises, rows }: Marks, byPart: boolean): string {
  const heads = exercises.flatMap(({ title, outOf, parts }) =>
    byPart ? parts.map((part) => `${title}: ${part}`) : [`${title} (of ${rounded(outOf)})`],
  );
  const sets = marking.sets.length > 1 ? marking.sets.map(({ name }) => `${name} %`) : [];
  const percent = (share: number | null) => (share === null ? '' : rounded(100 * share));
  return tableText([
    ['E-mail', 'Name', 'Student number', 'Group', ...heads, 'Points', ...sets, 'Total %'],
    ...rows.map(({ person, cells, sets: shares, total }) => [
      ...[person.email, person.name, person.studentNumber, person.group],
      ...cells.flatMap((cell) => {
        if (byPart) return cell.parts.map(shown);
        return [cell.excused === null ? shown(cell.points) : 'excused'];
      }),
      rounded(cells.reduce((sum, { points }) => sum + (points ?? 0), 0)),
      ...(sets.length > 0 ? shares.map(percent) : []),
      percent(total),
    ]),
  ]);
}

/** The columns of `results.csv` of OneRoster 1.2; ids are ours, students by number or e-mail. */
function oneRosterResults(courseId: string, { exercises, rows }: Marks, at: string): string {
  return tableText([
    [
      'sourcedId',
      'status',
      'dateLastModified',
      'lineItemSourcedId',
      'studentSourcedId',
      'scoreStatus',
      'score',
      'textScore',
      'classSourcedId',
      'scoreDate',
      'comment',
      'scoreScaleSourcedId',
      'inProgress',
      'incomplete',
      'late',
      'missing',
    ],
    ...rows.flatMap(({ person, cells }) =>
      exercises.map(({ id }, k) => {
        const { points, excused, open } = must(cells[k]);
        const status = excused !== null ? 'exempt' : points === null ? 'not submitted' : 'fully graded';
        const score = excused === null && points !== null ? rounded(points) : '';
        const missing = String(excused === null && points === null && !open);
        const student = person.studentNumber || person.email;
        return [
          `${id}:${person.id}`,
          'active',
          at,
          id,
          student,
          status,
          score,
          '',
          courseId,
          at.slice(0, 10),
          excused ?? '',
          '',
          'false',
          'false',
          'false',
          missing,
        ];
      }),
    ),
  ]);
}

/** The columns of `lineItems.csv` of OneRoster 1.2: the exercises that results refer to. */
function oneRosterLineItems(courseId: string, { exercises, marking }: Marks, at: string): string {
  return tableText([
    [
      'sourcedId',
      'status',
      'dateLastModified',
      'title',
      'description',
      'assignDate',
      'dueDate',
      'classSourcedId',
      'categorySourcedId',
      'gradingPeriodSourcedId',
      'academicSessionSourcedId',
      'resultValueMin',
      'resultValueMax',
      'schoolSourcedId',
    ],
    ...exercises.map(({ id, title, dueAt, outOf }) => {
      const set = marking.exercises[id]?.set ?? must(marking.sets[0]).id;
      return [id, 'active', at, title, '', '', dueAt?.slice(0, 10) ?? '', courseId, set, '', '', 0, rounded(outOf), ''];
    }),
  ]);
}

const files: Record<ExportKind, { name: string; words: string }> = {
  exercises: { name: 'marks.csv', words: 'marks by exercise' },
  parts: { name: 'marks-by-part.csv', words: 'marks by part' },
  oneRosterResults: { name: 'results.csv', words: 'OneRoster results' },
  oneRosterLineItems: { name: 'lineItems.csv', words: 'OneRoster line items' },
};

/** Gives the marks of a course out and keeps what was given. */
export async function addExport(
  database: Database,
  courseId: string,
  byPersonId: string,
  kind: ExportKind,
): Promise<ExportFile> {
  const marks = await marksOf(database, courseId);
  const at = new Date().toISOString();
  const content = {
    exercises: () => gradebook(marks, false),
    parts: () => gradebook(marks, true),
    oneRosterResults: () => oneRosterResults(courseId, marks, at),
    oneRosterLineItems: () => oneRosterLineItems(courseId, marks, at),
  }[kind]();
  const { name, words } = files[kind];
  return database.transaction(async (tx) => {
    const [kept] = await tx
      .insert(exports)
      .values({ courseId, byPersonId, kind, name, content })
      .returning({ id: exports.id });
    await record(tx, { courseId, byPersonId, words: `exported: ${words}` });
    return { id: must(kept).id, name, content };
  });
}

/** What was exported of a course and when, newest first. */
export async function exportsOf(database: Database, courseId: string): Promise<ExportRow[]> {
  const rows = await database
    .select({ id: exports.id, kind: exports.kind, name: exports.name, by: people.name, at: exports.at })
    .from(exports)
    .innerJoin(people, eq(people.id, exports.byPersonId))
    .where(eq(exports.courseId, courseId))
    .orderBy(desc(exports.at))
    .limit(200);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** A file as it was given out. @throws Refusal `notFound`. */
export async function exportFile(database: Database, courseId: string, exportId: string): Promise<ExportFile> {
  const [row] = await database
    .select({ id: exports.id, name: exports.name, content: exports.content })
    .from(exports)
    .where(and(eq(exports.courseId, courseId), eq(exports.id, exportId)));
  if (!row) throw new Refusal('notFound');
  return row;
}
