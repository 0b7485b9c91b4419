import type { Answer, Bench, StudentPart } from '@nailset/core';
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { ApiError } from '../api/client';
import { useBench, useHandIn, useSession } from '../api/queries';
import { Header } from '../shared/Header';
import { PageOf } from '../shared/PageOf';
import { SavingNote } from '../shared/saving';
import { clockTime, dayAndTime } from '../shared/time';
import { usePastDue } from '../shared/usePastDue';
import { useTitle } from '../shared/useTitle';
import { BenchSheet } from './BenchSheet';
import { unsavedOf } from './unsaved';
import { useSaving } from './useSaving';
import { type Work, workFrom, workReducer } from './work';

/** An exercise as its student works on it. */
export default function BenchPage() {
  const { exerciseId = '' } = useParams();
  const bench = useBench(exerciseId);
  const [before, setBefore] = useState<Work>();
  useTitle(bench.data?.title ?? 'Bench');
  return (
    <PageOf query={bench} what="Opening the bench">
      {(data) => (
        <Loaded
          key={data.versionId}
          bench={data}
          before={before}
          keep={setBefore}
          reload={() => void bench.refetch()}
        />
      )}
    </PageOf>
  );
}

function Loaded({
  bench,
  before,
  keep,
  reload,
}: {
  bench: Bench;
  /** What was on the bench under an earlier version. */
  before: Work | undefined;
  keep: (work: Work) => void;
  reload: () => void;
}) {
  const personId = useSession().data!.person!.id;
  const unsaved = useMemo(() => unsavedOf(personId, bench.versionId), [personId, bench.versionId]);
  const [work, dispatch] = useReducer(workReducer, undefined, () => workFrom(bench, before ?? unsaved.find()));
  const saving = useSaving(bench, work, unsaved);
  const handIn = useHandIn(bench.exerciseId);
  const pastDue = usePastDue(bench.dueAt);
  // One key per intent: the same answer sent again after a lost connection stays one try.
  const intent = useRef<{ key: string; of: string }>(undefined);
  // What is done until the new version is there comes along as well.
  const [leaving, setLeaving] = useState(false);
  useEffect(() => {
    if (leaving) keep(work);
  }, [leaving, work, keep]);
  const outdated = handIn.error instanceof ApiError && handIn.error.code === 'oldVersion';

  const send = (part: StudentPart, answer: Answer) => {
    const of = `${part.id} ${JSON.stringify(answer)}`;
    if (intent.current?.of !== of) intent.current = { key: nanoid(24), of };
    const trail: Work['trails'][string] = work.trails[part.id] ?? [];
    const body = { key: intent.current.key, versionId: bench.versionId, partId: part.id, answer, trail };
    handIn.mutate(body, { onSuccess: () => (intent.current = undefined) });
  };

  return (
    <div className="flex min-h-dvh flex-col">
      <Header crumbs={[{ text: bench.course, to: `/courses/${bench.courseId}` }, { text: bench.title }]}>
        {bench.mayHandIn ? (
          <SavingNote saving={saving} saved={'at' in saving && saving.at ? `Saved ${clockTime(saving.at)}` : ''} />
        ) : (
          <span>Only students hand in</span>
        )}
        {bench.dueAt && (
          <span>
            {pastDue ? 'Was due' : 'Due'} <b className="font-medium text-ink">{dayAndTime(bench.dueAt)}</b>
          </span>
        )}
      </Header>
      {outdated && (
        <p role="alert" className="border-b border-rule bg-wash px-5 py-2">
          {handIn.error!.message}{' '}
          <button
            type="button"
            className="link"
            onClick={() => {
              setLeaving(true);
              reload();
            }}
          >
            Show the new version
          </button>
        </p>
      )}
      <main className="flex flex-1 flex-col">
        <BenchSheet
          bench={bench}
          work={work}
          dispatch={dispatch}
          handing={
            bench.mayHandIn
              ? { busy: handIn.isPending, error: outdated ? undefined : handIn.error?.message, pastDue, handIn: send }
              : undefined
          }
        />
      </main>
    </div>
  );
}
