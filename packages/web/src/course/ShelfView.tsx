import { type ExerciseDocument, formatMark, must, type Role, type ShelfRow } from '@nailset/core';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useChangeExercise, useNewExercise, useShelf } from '../api/queries';
import { CourseNav } from '../page/CourseNav';
import { Header } from '../page/Header';
import { Empty, ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { jsonIn } from '../shared/json';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';

/** The instructor's home: exercises with their state, due dates and what was handed in. */
export function ShelfView({ courseId, role }: { courseId: string; role: Role }) {
  const shelf = useShelf(courseId);
  const create = useNewExercise(courseId);
  const navigate = useNavigate();
  useTitle(shelf.data ? `Shelf, ${shelf.data.course}` : 'Shelf');
  const picker = useRef<HTMLInputElement>(null);
  const [refused, setRefused] = useState<Error | null>(null);
  const open = (document: ExerciseDocument, onError: (error: Error) => void = () => undefined) =>
    create.mutate(document, { onSuccess: ({ id }) => void navigate(`/exercises/${id}/build`), onError });
  // What these two need is loaded when they are used: most visits to a shelf make nothing.
  const add = async () => open((await import('../builder/newExercise')).newExercise());
  const addFrom = async (file: File) => {
    setRefused(null);
    create.reset();
    const read = jsonIn(await file.text());
    if (read === undefined) {
      return setRefused(new Error(`“${file.name}” is not an exercise file: its text is not JSON.`));
    }
    const { upgraded } = await import('@nailset/core/checks');
    open(upgraded(read) as ExerciseDocument, ({ message }) =>
      setRefused(new Error(`“${file.name}” was not taken in. ${message.replace(/^The request/, 'The file')}`)),
    );
  };
  const present = shelf.data?.exercises.filter((row) => !row.archived) ?? [];
  const archived = shelf.data?.exercises.filter((row) => row.archived) ?? [];
  return (
    <>
      <Header crumbs={shelf.data ? [{ text: shelf.data.course }, { text: 'Shelf' }] : []}>
        <CourseNav courseId={courseId} />
        {shelf.data && (
          <span>
            Course code <b className="font-mono font-medium text-ink">{shelf.data.joinCode}</b>
          </span>
        )}
      </Header>
      <main className="mx-auto max-w-6xl px-5 py-8">
        {shelf.isPending && <Loading what="Opening the shelf" />}
        {shelf.error && <ErrorNote error={shelf.error} retry={() => void shelf.refetch()} />}
        {shelf.data && (
          <>
            <div className="mb-5 flex items-baseline justify-between">
              <h1 className="font-serif text-[26px]">Shelf</h1>
              {role === 'instructor' && (
                <span className="flex flex-wrap gap-2">
                  <input
                    ref={picker}
                    type="file"
                    accept=".json,application/json"
                    aria-label="Exercise file"
                    className="hidden"
                    onChange={({ target }) => {
                      const file = target.files?.[0];
                      target.value = '';
                      if (file) void addFrom(file);
                    }}
                  />
                  <Link to={`/courses/${courseId}/print`} className="link mr-2 self-center text-[13px]">
                    Print
                  </Link>
                  <Button onClick={() => picker.current?.click()} disabled={create.isPending}>
                    Import
                  </Button>
                  <Button look="strong" onClick={() => void add()} disabled={create.isPending}>
                    New exercise
                  </Button>
                </span>
              )}
            </div>
            {(refused ?? create.error) && <ErrorNote error={must(refused ?? create.error)} />}
            {present.length === 0 ? (
              <Empty title="The shelf is empty.">
                Make a first exercise; students join with the course code above.
              </Empty>
            ) : (
              <Table rows={present} />
            )}
            {archived.length > 0 && <Archived rows={archived} mayRestore={role === 'instructor'} />}
          </>
        )}
      </main>
    </>
  );
}

function Table({ rows }: { rows: readonly ShelfRow[] }) {
  const head = 'px-3 py-2 text-left text-note font-normal text-slate';
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full  border-t border-rule">
        <thead>
          <tr className="border-b border-rule">
            <th className={`${head} pl-0`}>Exercise</th>
            <th className={head}>State</th>
            <th className={`${head} max-sm:hidden`}>Due</th>
            <th className={`${head} text-right max-sm:hidden`}>Points</th>
            <th className={head}>Handed in</th>
            <th className={`${head} max-sm:hidden`}>To review</th>
            <th className={head}>
              <span className="sr-only">Open</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className="border-b border-grid">
              <td className="py-3 pr-3">
                <Link
                  to={`/exercises/${row.id}/build`}
                  className="font-serif text-[17px] hover:text-petrol hover:underline"
                >
                  {row.title}
                </Link>
              </td>
              <td className="px-3 text-[13px]">
                {row.version === null ? <span className="text-copper">Draft</span> : `Version ${row.version}`}
                {row.version !== null && row.changed && <span className="block text-copper">changed since</span>}
              </td>
              <td className="px-3 text-[13px] whitespace-nowrap max-sm:hidden">
                {row.dueAt ? dayAndTime(row.dueAt) : '–'}
              </td>
              <td className="px-3 text-right max-sm:hidden">{formatMark(row.points)}</td>
              <td className="px-3">{row.version !== null && <Share part={row.handedIn} whole={row.students} />}</td>
              <td className="px-3 max-sm:hidden">
                {row.wantingLook > 0 && (
                  <Link to={`/exercises/${row.id}/class?show=review`} className="text-copper underline">
                    {row.wantingLook}
                  </Link>
                )}
              </td>
              <td className="py-2 pl-3 text-right">
                {row.version !== null && (
                  <Link to={`/exercises/${row.id}/class`} className="link whitespace-nowrap">
                    Class sheet
                  </Link>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What was put away; students do not see it, and nothing of it is lost. */
function Archived({ rows, mayRestore }: { rows: readonly ShelfRow[]; mayRestore: boolean }) {
  return (
    <details className="mt-6 text-[13px]">
      <summary className="cursor-pointer text-slate">Archived, {rows.length}</summary>
      <ul className="mt-2">
        {rows.map((row) => (
          <ArchivedRow key={row.id} row={row} mayRestore={mayRestore} />
        ))}
      </ul>
    </details>
  );
}

function ArchivedRow({ row, mayRestore }: { row: ShelfRow; mayRestore: boolean }) {
  const change = useChangeExercise(row.id);
  return (
    <li className="flex items-baseline justify-between gap-3 border-t border-grid py-2">
      <Link to={`/exercises/${row.id}/build`} className="link">
        {row.title}
      </Link>
      {mayRestore && (
        <Button look="quiet" disabled={change.isPending} onClick={() => change.mutate({ archived: false })}>
          Back on the shelf
        </Button>
      )}
      {change.error && <FormError error={change.error} />}
    </li>
  );
}

function Share({ part, whole }: { part: number; whole: number }) {
  return (
    <span className="flex flex-wrap items-center gap-x-2.5 text-[13px] whitespace-nowrap">
      {part} of {whole}
      <svg viewBox="0 0 100 6" className="h-1.5 w-20" preserveAspectRatio="none" aria-hidden="true">
        <rect width="100" height="6" className="fill-grid" />
        <rect width={whole > 0 ? (100 * part) / whole : 0} height="6" className="fill-petrol/60" />
      </svg>
    </span>
  );
}
