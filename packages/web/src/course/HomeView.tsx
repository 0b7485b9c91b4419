import { formatMark, type HomeRow, inPoints } from '@nailset/core';
import { Link } from 'react-router';
import { useHome } from '../api/queries';
import { useServerTime } from '../page/due';
import { Header } from '../page/Header';
import { Empty, ErrorNote, Loading } from '../page/states';
import { NailMark, type NailState } from '../shared/NailMark';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

/** The student's home: what there is to do, and how it stands. */
export function HomeView({ courseId }: { courseId: string }) {
  const home = useHome(courseId);
  useTitle(home.data?.course ?? 'Course');
  return (
    <>
      <Header crumbs={home.data ? [{ text: home.data.course }] : []} />
      <main className="mx-auto max-w-3xl px-5 py-8">
        {home.isPending && <Loading what="Looking up your exercises" />}
        {home.error && <ErrorNote error={home.error} retry={() => void home.refetch()} />}
        {home.data && (
          <>
            <div className="mb-5 flex flex-wrap items-baseline justify-between gap-x-5">
              <h1 className="font-serif text-[26px]">{home.data.course}</h1>
              <Link to={`/courses/${courseId}/marks`} className="link">
                Your marks
              </Link>
            </div>
            {home.data.exercises.length === 0 ? (
              <Empty title="No exercises yet.">They appear here once your instructor publishes them.</Empty>
            ) : (
              <Exercises exercises={home.data.exercises} />
            )}
          </>
        )}
      </main>
    </>
  );
}

const isDone = ({ parts }: HomeRow): boolean => parts.every(({ state }) => state === 'met' || state === 'handedIn');

/** What is next and what there are of points so far; then what is open, the soonest due first, and all else. */
function Exercises({ exercises }: { exercises: readonly HomeRow[] }) {
  const now = useServerTime(true);
  const dueIn = ({ dueAt }: HomeRow): number => (dueAt === null ? Infinity : new Date(dueAt).getTime() - now);
  const isOpen = (row: HomeRow): boolean => dueIn(row) > 0 && !isDone(row);
  const open = exercises.filter(isOpen).sort((a, b) => dueIn(a) - dueIn(b) || 0);
  const rest = exercises.filter((row) => !isOpen(row));
  const told = exercises.filter(({ points }) => points !== null);
  const sum = (of: (row: HomeRow) => number): number => told.reduce((total, row) => total + of(row), 0);
  return (
    <>
      <div className="mb-6 flex flex-wrap items-center justify-between gap-x-8 gap-y-3 border-y border-ink py-4">
        {open[0] ? <Next row={open[0]} /> : <p className="text-[16px]">Nothing is open at present.</p>}
        {told.length > 0 && (
          <p className="text-[13px] text-slate">
            <b className="text-[18px] font-normal text-ink">{formatMark(sum(({ points }) => points ?? 0))}</b> of{' '}
            {inPoints(sum(({ outOf }) => outOf))} so far
          </p>
        )}
      </div>
      <List title="Open" rows={open} alone={rest.length === 0} />
      <List title="Done or past" rows={rest} alone={open.length === 0} />
    </>
  );
}

/** The part to go on with. */
function Next({ row: { id, title, dueAt, parts } }: { row: HomeRow }) {
  const open = parts.find(({ state }) => state === 'open') ?? parts.find(({ state }) => state === 'missed');
  return (
    <p>
      <span className="caption mr-2">Next</span>
      <Link to={`/exercises/${id}${open ? `?part=${encodeURIComponent(open.id)}` : ''}`} className="link text-[16px]">
        {title}
        {open && parts.length > 1 && `: ${open.title}`}
      </Link>
      <span className="block text-[13px] text-slate">{dueAt ? `Due ${dayAndTime(dueAt)}` : 'No due date'}</span>
    </p>
  );
}

function List({ title, rows, alone }: { title: string; rows: readonly HomeRow[]; alone: boolean }) {
  if (rows.length === 0) return null;
  return (
    <section aria-label={title} className="mb-8">
      {!alone && <h2 className="caption mb-2">{title}</h2>}
      <ul className="border-t border-rule">
        {rows.map((exercise) => (
          <Row key={exercise.id} exercise={exercise} />
        ))}
      </ul>
    </section>
  );
}

const nails: Record<HomeRow['parts'][number]['state'], NailState> = {
  open: 'none',
  handedIn: 'close',
  met: 'held',
  missed: 'missed',
};
const words = { open: 'open', handedIn: 'handed in', met: 'all met', missed: 'not all met' } as const;

function Row({ exercise }: { exercise: HomeRow }) {
  const { id, title, dueAt, extended, points, outOf, parts } = exercise;
  const past = useServerTime(dueAt !== null) > new Date(dueAt ?? 0).getTime();
  return (
    <li className="border-b border-rule">
      <Link to={`/exercises/${id}`} className="group grid gap-x-6 gap-y-2 py-4 min-[560px]:grid-cols-[1fr_auto]">
        <span>
          <span className="block font-serif text-[18px] group-hover:text-petrol group-hover:underline">{title}</span>
          <span className="text-[13px] text-slate">
            {dueAt ? `${past ? 'Was due' : 'Due'} ${dayAndTime(dueAt)}` : 'No due date'}
            {extended !== null && ` · yours: ${extended}`}
          </span>
          <span className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
            {parts.map((part, k) => (
              <span key={k} className="flex items-center gap-1.5 text-[13px]">
                <NailMark state={nails[part.state]} label={part.title} />
                {part.title}
                <span className="text-slate">{words[part.state]}</span>
              </span>
            ))}
          </span>
        </span>
        <span className="self-center text-[18px] whitespace-nowrap">
          {points === null ? <span className="text-slate">–</span> : formatMark(points)}{' '}
          <span className="text-[13px] text-slate">of {inPoints(outOf)}</span>
        </span>
      </Link>
    </li>
  );
}
