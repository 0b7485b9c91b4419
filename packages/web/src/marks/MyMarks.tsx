import { type Counting, formatMark, inPoints, type Marks, must } from '@nailset/core';
import { Link } from 'react-router';
import { useMyMarks } from '../api/course';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty } from '../page/states';
import { dayAndTime } from '../shared/time';
import { percent } from './percent';

const words: Record<Counting, string> = {
  counts: 'counts',
  dropped: 'not among the best',
  excused: 'excused',
  open: 'still open',
};

/** A student’s own row and how it is made. */
export function MyMarks({ courseId }: { courseId: string }) {
  const marks = useMyMarks(courseId);
  return (
    <PageOf query={marks} what="Adding up your marks">
      {(data) => (
        <>
          <Header crumbs={[{ text: data.course, to: `/courses/${courseId}` }, { text: 'Marks' }]} />
          <main className="mx-auto max-w-3xl px-5 py-8">
            <h1 className="font-serif text-[26px]">Your marks</h1>
            {data.rows.length === 0 ? <Empty title="No marks yet." /> : <Own data={data} />}
          </main>
        </>
      )}
    </PageOf>
  );
}

function Own({ data }: { data: Marks }) {
  const { cells, sets: shares, total } = must(data.rows[0]);
  const { sets, exercises: rules } = data.marking;
  const whole = sets.reduce((sum, { weight }) => sum + weight, 0);
  return (
    <>
      <p className="mt-1 mb-5 text-slate">
        <b className="text-[18px] font-medium text-ink">{percent(total)}</b> of what counts by now.
      </p>
      {sets.map((set, s) => {
        const counted = data.exercises.flatMap((exercise, k) =>
          (rules[exercise.id]?.set ?? must(sets[0]).id) === set.id ? [{ exercise, cell: must(cells[k]) }] : [],
        );
        if (counted.length === 0) return null;
        return (
          <section key={set.id} aria-label={set.name} className="mb-7">
            <h2 className="flex items-baseline justify-between border-b border-rule pb-1 font-serif text-[18px]">
              <span>
                {set.name}
                <span className="ml-3 font-sans text-[13px] text-slate">
                  {sets.length > 1 && `${formatMark((100 * set.weight) / whole)} % of the total`}
                  {set.best !== null && ` · the best ${set.best} count`}
                </span>
              </span>
              <span>{percent(shares[s] ?? null)}</span>
            </h2>
            <table className="w-full">
              <thead className="sr-only">
                <tr>
                  <th>Exercise</th>
                  <th>How it counts</th>
                  <th>Points</th>
                </tr>
              </thead>
              <tbody>
                {counted.map(({ exercise, cell }) => (
                  <tr key={exercise.id} className="border-b border-grid">
                    <th scope="row" className="py-1.5 text-left font-normal">
                      <Link to={`/exercises/${exercise.id}`} className="hover:text-petrol hover:underline">
                        {exercise.title}
                      </Link>
                    </th>
                    <td className="px-3 text-[13px] text-slate">
                      {cell.excused !== null
                        ? `excused: ${cell.excused}`
                        : cell.counting === 'open' && exercise.dueAt
                          ? `due ${dayAndTime(exercise.dueAt)}`
                          : `${words[cell.counting]}${rules[exercise.id]?.bonus ? ', bonus' : ''}`}
                    </td>
                    <td className={`text-right whitespace-nowrap ${cell.counting === 'dropped' ? 'text-slate' : ''}`}>
                      {cell.points === null ? '–' : formatMark(cell.points)}{' '}
                      <span className="text-[13px] text-slate">of {inPoints(cell.outOf)}</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </>
  );
}
