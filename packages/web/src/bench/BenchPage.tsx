import { type Answer, type Bench, must, type StudentPart } from '@nailset/core';
import isEqual from 'fast-deep-equal';
import { nanoid } from 'nanoid';
import { memo, type ReactNode, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { ApiError } from '../api/client';
import { useBench, useHandIn, usePerson, useVerdicts } from '../api/queries';
import { KnownDrawings, knownDrawings } from '../diagram/knownDrawings';
import { studentKind } from '../kinds/students';
import type { Work } from '../loop/action';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { usePartAsked, usePartInAddress } from '../page/usePartInAddress';
import { type Saving, SavingNote } from '../shared/saving';
import { clockTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';
import { thisPage } from '../work/openPage';
import { unsavedOf } from '../work/unsaved';
import { basesOf, useSaving } from '../work/useSaving';
import { workFrom, workReducer } from '../work/work';
import { BenchSheet } from './BenchSheet';
import { ChangedElsewhere } from './ChangedElsewhere';
import { DueNote, useDueState, worthNow } from './DueNote';

export { PracticePage } from './PracticePage';

/** Brings what the part that an address names, or else the first one, is drawn with. */
export async function bringBench(parts: readonly StudentPart[], asked: string | null): Promise<void> {
  const part = parts.find(({ id }) => id === asked) ?? parts[0];
  if (part) await studentKind(part).bring?.();
}

/** An exercise as its student works on it. */
export default function BenchPage() {
  const { exerciseId = '' } = useParams();
  const bench = useBench(exerciseId);
  const [before, setBefore] = useState<Work>();
  useTitle(bench.data?.title ?? 'Bench');
  return (
    <PageOf query={bench} what="Opening the bench">
      {(data) => (
        <Drawn bench={data}>
          <Loaded
            key={data.versionId}
            bench={data}
            before={before}
            keep={setBefore}
            reload={() => void bench.refetch()}
          />
        </Drawn>
      )}
    </PageOf>
  );
}

/** Gives what is within the drawings that came with the exercise. */
function Drawn({ bench: { drawings }, children }: { bench: Bench; children: ReactNode }) {
  const known = useMemo(() => knownDrawings(drawings), [drawings]);
  return <KnownDrawings value={known}>{children}</KnownDrawings>;
}

/** The head of the bench, which stays as it is while something is nudged. */
const Head = memo(function Head({ bench, saving }: { bench: Bench; saving: Saving }) {
  return (
    <Header crumbs={[{ text: bench.course, to: `/courses/${bench.courseId}` }, { text: bench.title }]}>
      {bench.mayHandIn ? (
        <SavingNote saving={saving} saved={'at' in saving && saving.at ? `Saved ${clockTime(saving.at)}` : ''} />
      ) : (
        <span>Only students hand in</span>
      )}
      <DueNote bench={bench} />
    </Header>
  );
});

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
  const personId = usePerson().id;
  const unsaved = useMemo(() => unsavedOf(personId, bench.versionId), [personId, bench.versionId]);
  // Found once: what this page itself keeps from now on is no news to it.
  const [kept] = useState(() => (before ? undefined : unsaved.find()));
  const asked = usePartAsked();
  const [work, dispatch] = useReducer(workReducer, undefined, () => {
    const begun = workFrom(bench, before ?? kept?.work);
    const isThere = bench.parts.some(({ id }) => id === asked);
    return asked && isThere ? workReducer(begun, { do: 'open', part: asked }) : begun;
  });
  usePartInAddress(work.open);
  const bases = kept?.bases ?? basesOf(bench);
  const { saving, changed, settle } = useSaving(bench, work, dispatch, unsaved, {
    whose: personId,
    bases,
    page: thisPage,
  });
  const handIn = useHandIn(bench.exerciseId);
  useVerdicts(bench);
  const due = useDueState(bench);
  // One key per intent: the same answer sent again after a lost connection stays one try.
  const intent = useRef<{ key: string; of: { part: string; answer: Answer } }>(undefined);
  // What is done until the new version is there comes along as well.
  const [leaving, setLeaving] = useState(false);
  useEffect(() => {
    if (leaving) keep(work);
  }, [leaving, work, keep]);
  const outdated = handIn.error instanceof ApiError && handIn.error.code === 'oldVersion';

  const send = (part: StudentPart, answer: Answer) => {
    const now = { part: part.id, answer };
    if (!isEqual(intent.current?.of, now)) intent.current = { key: nanoid(24), of: now };
    const trail: Work['trails'][string] = work.trails[part.id] ?? [];
    const { key } = must(intent.current);
    const body = { key, versionId: bench.versionId, partId: part.id, answer, trail, whose: personId };
    handIn.mutate(body, { onSuccess: () => (intent.current = undefined) });
  };

  return (
    <div className="flex min-h-dvh flex-col">
      <Head bench={bench} saving={saving} />
      {outdated && (
        <p role="alert" className="border-b border-rule bg-wash px-5 py-2">
          {must(handIn.error).message}{' '}
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
      <ChangedElsewhere changed={changed} parts={bench.parts} settle={settle} />
      <main className="flex flex-1 flex-col">
        <BenchSheet
          bench={bench}
          work={work}
          dispatch={dispatch}
          handing={
            bench.mayHandIn
              ? {
                  busy: handIn.isPending,
                  error: outdated ? undefined : handIn.error?.message,
                  closed: due === 'closed',
                  worth: worthNow(due, bench),
                  handIn: send,
                }
              : undefined
          }
        />
      </main>
    </div>
  );
}
