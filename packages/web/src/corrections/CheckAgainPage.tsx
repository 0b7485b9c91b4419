import type { Correction } from '@nailset/core';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useBeginCorrection, useCorrections } from '../api/course';
import { useClassSheet, useMemberships, useVersions } from '../api/queries';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty, ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';
import { CorrectionView } from './CorrectionView';

/** After an exercise was corrected: which answers, against which version; then what would change; then that it counts. */
export function CheckAgainPage() {
  const { exerciseId = '' } = useParams();
  const sheet = useClassSheet(exerciseId);
  useTitle('Check again');
  return (
    <PageOf query={sheet} what="Looking up answers">
      {({ courseId, title, parts }) => (
        <div className="flex min-h-dvh flex-col md:h-dvh">
          <Header
            crumbs={[
              { text: 'Shelf', to: `/courses/${courseId}` },
              { text: title, to: `/exercises/${exerciseId}/build` },
              { text: 'Check again' },
            ]}
          >
            <Link className="link" to={`/exercises/${exerciseId}/class`}>
              Class sheet
            </Link>
          </Header>
          <Corrections exerciseId={exerciseId} courseId={courseId} parts={parts} />
        </div>
      )}
    </PageOf>
  );
}

interface Asked {
  readonly id: string;
  readonly title: string;
}

function Corrections({
  exerciseId,
  courseId,
  parts,
}: {
  exerciseId: string;
  courseId: string;
  parts: readonly Asked[];
}) {
  const corrections = useCorrections(exerciseId);
  const [chosen, setChosen] = useState<string>();
  const mayChange = useMemberships().find((entry) => entry.courseId === courseId)?.role === 'instructor';
  const waiting = corrections.data?.find(({ state }) => state === 'checking' || state === 'ready');
  // What was decided last stays in sight.
  const open = chosen ?? (waiting ?? corrections.data?.[0])?.id;
  return (
    <main className="grid min-h-0 flex-1 md:grid-cols-[290px_1fr]">
      <aside className="border-rule px-5 py-5 max-md:border-b md:overflow-y-auto md:border-r">
        <h1 className="mb-3 font-serif text-[22px]">Check again</h1>
        {mayChange && <Begin {...{ exerciseId, parts }} onBegun={setChosen} />}
        {corrections.isPending && <Loading what="Looking up" />}
        {corrections.error && <ErrorNote error={corrections.error} retry={() => void corrections.refetch()} />}
        {corrections.data && corrections.data.length > 0 && (
          <ul aria-label="Earlier" className="mt-5 border-t border-rule">
            {corrections.data.map((correction) => (
              <li key={correction.id} className="border-b border-grid">
                <button
                  type="button"
                  aria-current={correction.id === open}
                  className="w-full py-2 text-left text-[13px] hover:text-petrol aria-[current=true]:font-medium"
                  onClick={() => setChosen(correction.id)}
                >
                  Version {correction.version} · {stateWords(correction)}
                  <span className="block text-note font-normal text-slate">
                    {dayAndTime(correction.at)} · {correction.by}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        )}
      </aside>
      {open ? (
        <CorrectionView key={open} {...{ exerciseId, parts, mayChange }} id={open} />
      ) : (
        corrections.data && (
          <Empty title="Nothing is being checked again.">
            Publish the corrected exercise first. What checking finds counts only when you say so.
          </Empty>
        )
      )}
    </main>
  );
}

const stateWords = ({ state, done, total }: Correction): string =>
  ({ checking: `${done} of ${total}`, ready: 'to decide', cancelled: 'dropped', applied: 'applied' })[state];

/** Which answers are checked again, and against which version. */
function Begin({
  exerciseId,
  parts,
  onBegun,
}: {
  exerciseId: string;
  parts: readonly Asked[];
  onBegun: (id: string) => void;
}) {
  const versions = useVersions(exerciseId);
  const begin = useBeginCorrection(exerciseId);
  const [version, setVersion] = useState<number>();
  const [partId, setPartId] = useState('');
  const newest = versions.data?.[0]?.number;
  if (versions.error && !versions.data)
    return <ErrorNote error={versions.error} retry={() => void versions.refetch()} />;
  if (newest === undefined) return null;
  const against = version ?? newest;
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate(
          { version: against, partIds: partId ? [partId] : [], submissionIds: [] },
          { onSuccess: ({ id }) => onBegun(id) },
        );
      }}
    >
      <label className="label">
        Against
        <select className="input mt-1" value={against} onChange={(event) => setVersion(Number(event.target.value))}>
          {(versions.data ?? []).map(({ number, publishedAt }) => (
            <option key={number} value={number}>
              version {number}, {dayAndTime(publishedAt)}
            </option>
          ))}
        </select>
      </label>
      <label className="label">
        Answers
        <select className="input mt-1" value={partId} onChange={(event) => setPartId(event.target.value)}>
          <option value="">to every part</option>
          {parts.map(({ id, title }) => (
            <option key={id} value={id}>
              to “{title}”
            </option>
          ))}
        </select>
      </label>
      <Button look="strong" type="submit" disabled={begin.isPending}>
        Check again
      </Button>
      <p className="text-note text-slate">No mark changes until you have seen the result.</p>
      <FormError error={begin.error} />
    </form>
  );
}
