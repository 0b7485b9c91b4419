import { type Part, sumOfShares, type TermOverview } from '@nailset/core';
import { pointsOf } from '@nailset/core/checks';
import { sql } from 'drizzle-orm';
import { grouped } from '../grouped.js';
import type { Database } from './database.js';
import { courseWithPeople } from './people.js';
import { exercises, overrides, submissions, verdicts } from './schema.js';
import { publishedExercises } from './shelf.js';

/** How a class did over the term. */

/** Most exercises at one look, the latest. */
const most = 24;

interface Item {
  readonly id: string;
  readonly label: string;
  readonly met: boolean;
}

/** Points, nails and slips of the answers that count, and when answers came, for the latest exercises. */
export async function overviewOf(database: Database, courseId: string): Promise<TermOverview> {
  const [{ people }, published] = await Promise.all([
    courseWithPeople(database, courseId),
    publishedExercises(database, courseId),
  ]);
  const students = new Set(people.filter(({ role }) => role === 'student').map(({ id }) => id));
  const [best, days] = await Promise.all([bestAnswers(database, courseId), answersByDay(database, courseId)]);
  const handed = published.filter(({ exercise }) => best.some(({ e }) => e === exercise.id)).slice(-most);
  return {
    exercises: handed.map(({ exercise, version }) => {
      const ofExercise = best.filter(({ e, p }) => e === exercise.id && students.has(p));
      const byPerson = grouped(ofExercise, ({ p }) => p);
      const { parts, title } = version.document;
      const outOf = sumOfShares(parts.map(pointsOf));
      const shares = [...byPerson.values()].map((rows) => sumOfShares(rows.map(({ points }) => points)) / (outOf || 1));
      return {
        id: exercise.id,
        title,
        dueAt: exercise.dueAt?.toISOString() ?? null,
        students: students.size,
        handedIn: byPerson.size,
        mean: shares.length > 0 ? sumOfShares(shares) / shares.length : null,
        nails: parts.flatMap((part) =>
          nailsOf(
            part,
            ofExercise.filter((row) => row.part === part.id),
          ),
        ),
        slips: slipsOf(ofExercise),
        perDay: days
          .filter(({ e }) => e === exercise.id)
          .map(({ day, count }) => ({ daysBefore: day, answers: count })),
      };
    }),
  };
}

type Row = Awaited<ReturnType<typeof bestAnswers>>[number];

/** How often each nail of a part holds; a part without nails of its own is one. */
function nailsOf(asked: Part, rows: readonly Row[]): { part: string; label: string; held: number; of: number }[] {
  const part = asked.title;
  // Of options of which one is right, what was chosen differs from one student to the next.
  if (asked.kind === 'choice' && !asked.several) {
    const held = rows.filter(({ met }) => met).length;
    return rows.length > 0 ? [{ part, label: part, held, of: rows.length }] : [];
  }
  const labels = new Map<string, { label: string; held: number; of: number }>();
  for (const { items } of rows) {
    const single = items.length === 1;
    for (const { id, label, met } of items) {
      const entry = labels.get(id) ?? { label: single && !label ? part : label || part, held: 0, of: 0 };
      labels.set(id, { ...entry, held: entry.held + Number(met), of: entry.of + 1 });
    }
  }
  return [...labels.values()].map((entry) => ({ part, ...entry }));
}

/** The slips of an exercise with how many students made them, the commonest first. */
function slipsOf(rows: readonly Row[]): { id: string; words: string; students: number }[] {
  const slips = new Map<string, { words: string; people: Set<string> }>();
  for (const { slip, p, met } of rows) {
    if (!slip || met) continue;
    const entry = slips.get(slip.id) ?? { words: slip.words, people: new Set<string>() };
    entry.people.add(p);
    slips.set(slip.id, entry);
  }
  return [...slips]
    .map(([id, { words, people }]) => ({ id, words, students: people.size }))
    .sort((a, b) => b.students - a.students)
    .slice(0, 12);
}

/** The answer that counts of everyone to every part, without the answers themselves. */
async function bestAnswers(database: Database, courseId: string) {
  const { rows } = await database.execute<{
    e: string;
    p: string;
    part: string;
    points: number;
    met: boolean;
    items: Item[];
    slip: { id: string; words: string } | null;
  }>(sql`
    select distinct on (s.exercise_id, s.person_id, s.part_id)
           s.exercise_id as e, s.person_id as p, s.part_id as part,
           coalesce(o.points, greatest(0, v.points - s.hint_cost))::float8 as points, coalesce((v.result ->> 'met')::boolean, false) as met,
           coalesce(jsonb_path_query_array(v.result, '$.items[*]'), '[]'::jsonb) as items, v.result -> 'slip' as slip
      from ${submissions} s
      join ${exercises} x on x.id = s.exercise_id and x.course_id = ${courseId} and not x.archived
      join lateral (select v.points, v.result from ${verdicts} v where v.submission_id = s.id
                     order by v.checked_at desc limit 1) v on true
      left join lateral (select o.points from ${overrides} o where o.submission_id = s.id
                          order by o.at desc limit 1) o on true
     order by s.exercise_id, s.person_id, s.part_id, coalesce(o.points, greatest(0, v.points - s.hint_cost)) desc, s.attempt`);
  return rows.map((row) => ({ ...row, items: row.items.map(({ id, label, met }) => ({ id, label, met })) }));
}

/** How many answers came on each day, counted back from the due date, or where there is none up from the first. */
async function answersByDay(database: Database, courseId: string) {
  const { rows } = await database.execute<{ e: string; day: number; count: number }>(sql`
    with own as (
      select s.exercise_id as e, s.handed_in_at as at, x.due_at as due,
             min(s.handed_in_at) over (partition by s.exercise_id) as first
        from ${submissions} s join ${exercises} x on x.id = s.exercise_id
       where x.course_id = ${courseId} and not x.archived)
    select e, (case when due is null then floor(extract(epoch from at - first) / 86400)
                    else floor(extract(epoch from due - at) / 86400) end)::int as day, count(*)::int as count
      from own group by 1, 2 order by 1, 2 desc`);
  return rows;
}
