import { formatMark, must, type TermOverview } from '@nailset/core';
import { lazy, Suspense, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useOverview } from '../api/course';
import { useMemberships } from '../api/queries';
import { CourseNav } from '../page/CourseNav';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty, Loading } from '../page/states';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

type Exercise = TermOverview['exercises'][number];

/** How the class did over the term: points, nails, slips and when answers came, one exercise against the others. */
export function TermPage() {
  const { courseId = '' } = useParams();
  const overview = useOverview(courseId);
  const course = useMemberships().find((entry) => entry.courseId === courseId)?.course ?? 'Course';
  useTitle('Term');
  return (
    <PageOf query={overview} what="Looking over the term">
      {({ exercises }) => (
        <>
          <Header crumbs={[{ text: course, to: `/courses/${courseId}` }, { text: 'Term' }]}>
            <CourseNav courseId={courseId} />
          </Header>
          <main className="mx-auto max-w-6xl px-5 py-6">
            <h1 className="mb-4 font-serif text-[26px]">The class over the term</h1>
            {exercises.length === 0 ? (
              <Empty title="Nothing was handed in yet.">Points, nails and slips of the class stand here then.</Empty>
            ) : (
              <Suspense fallback={<Loading what="Drawing" />}>
                <Term exercises={exercises} />
              </Suspense>
            )}
          </main>
        </>
      )}
    </PageOf>
  );
}

function Term({ exercises }: { exercises: readonly Exercise[] }) {
  const [chosen, setChosen] = useState(must(exercises.at(-1)).id);
  const open = exercises.find(({ id }) => id === chosen) ?? must(exercises.at(-1));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-8 lg:grid-cols-[repeat(2,minmax(0,1fr))]">
      <Points exercises={exercises} />
      <SlipsOverTerm exercises={exercises} />
      <section aria-label="One exercise" className="lg:col-span-2">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-t border-rule pt-4">
          <select
            aria-label="Exercise"
            className="input w-auto max-w-full font-serif text-[18px]"
            value={open.id}
            onChange={(event) => setChosen(event.target.value)}
          >
            {exercises.map(({ id, title }, k) => (
              <option key={id} value={id}>
                {k + 1} · {title}
              </option>
            ))}
          </select>
          <span className="text-[13px] text-slate">
            {open.handedIn} of {open.students} handed in
            {open.mean !== null && `, ${formatMark(Math.round(100 * open.mean))} % of the points on average`}
            {open.dueAt && `, due ${dayAndTime(open.dueAt)}`}
          </span>
          <Link to={`/exercises/${open.id}/class`} className="link ml-auto text-[13px]">
            Class sheet
          </Link>
        </div>
      </section>
      <Nails exercise={open} />
      <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-8">
        <Slips exercise={open} />
        <Days exercise={open} />
      </div>
    </div>
  );
}

const Bars = lazy(() => import('../plot/Bars'));

/** Many exercises go by their number, which stands before their title below. */
const nameOf = (title: string, k: number, exercises: readonly Exercise[]): string =>
  exercises.length > 8 ? String(k + 1) : title;

function Points({ exercises }: { exercises: readonly Exercise[] }) {
  const data = exercises.map(({ title, mean }, k) => ({
    name: nameOf(title, k, exercises),
    value: Math.round(100 * (mean ?? 0)),
  }));
  return (
    <Bars title="Points on average, % of all" heads={['exercise', 'points %']} data={data} height={200} most={100} />
  );
}

function SlipsOverTerm({ exercises }: { exercises: readonly Exercise[] }) {
  const data = exercises.map(({ title, slips }, k) => ({
    name: nameOf(title, k, exercises),
    value: slips.reduce((sum, { students }) => sum + students, 0),
  }));
  return <Bars title="Slips recognised, in all" heads={['exercise', 'slips']} data={data} height={200} />;
}

/** Nails of an exercise by the share that holds, the weakest first. */
function Nails({ exercise }: { exercise: Exercise }) {
  const nails = [...exercise.nails].sort((a, b) => a.held / a.of - b.held / b.of);
  return (
    <section aria-label="Nails">
      <h2 className="caption mb-2">Share that holds, weakest first</h2>
      <table className="w-full">
        <thead className="sr-only">
          <tr>
            <th>Nail</th>
            <th>Held</th>
            <th>Share</th>
          </tr>
        </thead>
        <tbody>
          {nails.map(({ part, label, held, of }, k) => (
            <tr key={k} className="border-t border-grid">
              <th scope="row" className="py-1 pr-3 text-left text-[13px] font-normal">
                {label}
                {label !== part && <span className="block text-note text-slate">{part}</span>}
              </th>
              <td className="pr-3 text-right text-[13px] whitespace-nowrap">
                {held} of {of}
              </td>
              <td className="w-40">
                <svg viewBox="0 0 100 8" preserveAspectRatio="none" className="h-2 w-full" aria-hidden="true">
                  <rect width="100" height="8" className="fill-grid" />
                  <rect width={(100 * held) / of} height="8" className="fill-moss/70" />
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Slips({ exercise: { slips } }: { exercise: Exercise }) {
  return (
    <section aria-label="Slips">
      <h2 className="caption mb-2">Slips</h2>
      {slips.length === 0 ? (
        <p className="text-[13px] text-slate">None that is known.</p>
      ) : (
        <ul>
          {slips.map(({ id, words, students }) => (
            <li key={id} className="grid grid-cols-[28px_1fr] border-t border-grid py-1.5 text-[13px]">
              <b className="text-[15px] font-medium text-copper">{students}</b>
              {words}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** When answers came, counted towards the due date where there is one. */
function Days({ exercise: { perDay, dueAt } }: { exercise: Exercise }) {
  const order = [...perDay].sort((a, b) => (dueAt ? b.daysBefore - a.daysBefore : a.daysBefore - b.daysBefore));
  const name = (day: number) => (dueAt ? (day < 0 ? `${-day} late` : `${day + 1}`) : `${day + 1}`);
  const data = order.map(({ daysBefore, answers }) => ({ name: name(daysBefore), value: answers }));
  const title = dueAt ? 'Answers by day, days left before the due date' : 'Answers by day, from the first';
  return <Bars title={title} heads={['day', 'answers']} data={data} height={200} />;
}
