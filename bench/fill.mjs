// Fills a database with courses as large as a university's, from the rows of the demo course, in SQL:
//   DATABASE_URL=… npm run fill -- --courses 50 --students 300 --tries 3 --copies 1
// --copies 3 puts every exercise into a course three times: a shelf of 66.
// The demo must be there (./nailset start made it). Nothing that is there is changed; the new courses are called “Filled n”.
import { parseArgs } from 'node:util';
import pg from 'pg';

const { values } = parseArgs({
  options: {
    courses: { type: 'string', default: '50' },
    students: { type: 'string', default: '300' },
    tries: { type: 'string', default: '3' },
    copies: { type: 'string', default: '1' },
  },
});
const courses = Number(values.courses);
const students = Number(values.students);
const tries = Number(values.tries);
const copies = Number(values.copies);
if (![courses, students, tries, copies].every((count) => Number.isInteger(count) && count > 0)) {
  throw new Error('--courses, --students, --tries and --copies are whole numbers above 0.');
}
const connectionString = process.env['DATABASE_URL'];
if (!connectionString) throw new Error('DATABASE_URL says which database to fill.');

const client = new pg.Client({ connectionString });
await client.connect();
const started = performance.now();
const { rows } = await client.query(`select id from courses where demo limit 1`);
if (rows.length === 0) throw new Error('There is no demo course in this database; ./nailset start makes it.');
const demo = rows[0].id;

await client.query('begin');
await client.query(
  `create temporary table template on commit drop as
     select e.id as exercise_id, v.id as version_id, v.document, e.draft, s.part_id, s.answer, s.trail, d.result,
            row_number() over (partition by e.id order by s.handed_in_at) as n,
            count(*) over (partition by e.id) as of_exercise,
            (select values from draws where version_id = v.id limit 1) as values
       from exercises e
       join versions v on v.exercise_id = e.id
       join lateral (select part_id from submissions where exercise_id = e.id order by handed_in_at limit 1) p on true
       join submissions s on s.exercise_id = e.id and s.part_id = p.part_id
       join lateral (select result from verdicts where submission_id = s.id order by checked_at desc limit 1) d on true
      where e.course_id = $1`,
  [demo],
);
for (let course = 1; course <= courses; course++) {
  const {
    rows: [{ id }],
  } = await client.query(`insert into courses (name, join_code) values ($1, $2) returning id`, [
    `Filled ${course}`,
    `FILL${String(Date.now() % 1e6).padStart(6, '0')}${course}`,
  ]);
  await client.query(
    `with class as (
       insert into people (email, name, password_hash)
       select 'filled.' || $2::text || '.' || n || '@harbour.example', 'Student ' || n, 'nobody signs in with this'
         from generate_series(1, $3::int) n returning id)
     insert into memberships (course_id, person_id, role) select $1, id, 'student' from class`,
    [id, `${course}-${Math.round(started)}-${process.pid}`, students],
  );
  // The demo's instructor teaches these courses too, so that someone can look at them.
  await client.query(
    `insert into memberships (course_id, person_id, role)
     select $1, person_id, role from memberships where course_id = $2 and role <> 'student'`,
    [id, demo],
  );
  await client.query(
    `with made as (
       insert into exercises (course_id, draft, due_at)
       select $1, draft || jsonb_build_object('title', left(draft ->> 'title', 100) || case copy when 1 then '' else ' ' || copy end),
              now() + interval '9 days'
         from (select distinct on (exercise_id) exercise_id, draft from template order by exercise_id) t
        cross join generate_series(1, $4::int) copy
       returning id, draft ->> 'title' as title),
     matched as (
       select made.id, t.exercise_id as from_id
         from made
         join (select distinct exercise_id, left(draft ->> 'title', 100) as stem from template) t
           on made.title = t.stem or (made.title like t.stem || ' %' and substr(made.title, length(t.stem) + 2) ~ '^[0-9]+$')),
     published as (
       insert into versions (exercise_id, number, document, published_by)
       select m.id, 1, t.document, (select person_id from memberships where course_id = $2 and role = 'instructor' limit 1)
         from matched m
         join (select distinct on (exercise_id) exercise_id, document from template order by exercise_id) t
           on t.exercise_id = m.from_id
       returning id, exercise_id),
     class as (
       select person_id, row_number() over () as seat from memberships where course_id = $1 and role = 'student'),
     numbers as (
       insert into draws (version_id, person_id, values)
       select p.id, c.person_id, t.values
         from published p
         join matched m on m.id = p.exercise_id
         join (select distinct on (exercise_id) exercise_id, values from template order by exercise_id) t
           on t.exercise_id = m.from_id
        cross join class c returning version_id),
     handed as (
       insert into submissions (exercise_id, version_id, person_id, part_id, attempt, key, answer, trail, handed_in_at)
       select m.id, p.id, c.person_id, t.part_id, a, 'filled-' || gen_random_uuid(), t.answer, t.trail,
              now() - interval '1 hour' * (c.seat % 200) - interval '1 minute' * (10 - a)
         from matched m
         join published p on p.exercise_id = m.id
        cross join class c
        cross join generate_series(1, $3::int) a
         join template t on t.exercise_id = m.from_id and t.n = 1 + (c.seat * 7 + a) % t.of_exercise
       returning id, exercise_id, person_id, attempt)
     insert into verdicts (submission_id, result, points)
     select h.id, t.result, coalesce((t.result ->> 'points')::float8, 0)
       from handed h
       join class c on c.person_id = h.person_id
       join matched m on m.id = h.exercise_id
       join template t on t.exercise_id = m.from_id and t.n = 1 + (c.seat * 7 + h.attempt) % t.of_exercise`,
    [id, demo, tries, copies],
  );
  process.stdout.write(`\rFilled ${course} of ${courses} courses`);
}
await client.query('commit');
await client.query('analyze');
const { rows: counted } = await client.query('select count(*)::int as submissions from submissions');
console.log(`: ${counted[0].submissions} submissions in ${((performance.now() - started) / 1000).toFixed(0)} s.`);
await client.end();
