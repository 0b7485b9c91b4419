import { type Attempt, must, type Practice, type PracticeResult, type PracticeTally } from '@nailset/core';
import { useEffect, useReducer, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { useCheckPractice, usePractice } from '../api/learning';
import { Header } from '../page/Header';
import { ErrorNote, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { OwnWord } from '../shared/OwnWord';
import { useTitle } from '../shared/useTitle';
import { WorkingList } from '../shared/WorkingList';
import { workFrom, workReducer } from '../work/work';
import { BenchSheet } from './BenchSheet';

/** One part with other numbers, as often as wished; nothing of it counts. */
export function PracticePage() {
  const { exerciseId = '', partId = '' } = useParams();
  const practice = usePractice(exerciseId);
  const { mutate } = practice;
  // Once for the page; a set of numbers is not asked for again by looking at it.
  const asked = useRef(false);
  useEffect(() => {
    if (!asked.current) mutate(partId);
    asked.current = true;
  }, [mutate, partId]);
  useTitle('Practice');
  const again = () => mutate(partId);
  if (practice.data) return <Practising key={practice.data.seed} practice={practice.data} again={again} />;
  return (
    <>
      <Header />
      <main>
        <h1 className="sr-only">Practice</h1>
        {practice.error ? <ErrorNote error={practice.error} retry={again} /> : <Loading what="Drawing other numbers" />}
      </main>
    </>
  );
}

function Practising({ practice, again }: { practice: Practice; again: () => void }) {
  const { bench: given, seed } = practice;
  const part = must(given.parts[0]);
  const [work, dispatch] = useReducer(workReducer, undefined, () => workFrom(given, undefined));
  const [results, setResults] = useState<readonly (PracticeResult & Pick<Attempt, 'answer' | 'handedInAt'>)[]>([]);
  const check = useCheckPractice(given.exerciseId);
  const newest = results.at(-1);
  const bench = {
    ...given,
    // As many tries as it takes.
    parts: [{ ...part, attempts: Infinity }],
    working: false,
    handedIn: results.map(({ verdict, answer, handedInAt }, k) => ({
      ...{ id: String(k), partId: part.id, attempt: k + 1, version: given.version, answer, verdict },
      ...{ handedInAt, checked: true, outOfTime: false, comments: [], returned: false },
    })),
    solutions: newest?.solution ? [newest.solution] : [],
    revealed: newest && newest.revealed.length > 0 ? [{ partId: part.id, curves: newest.revealed }] : [],
    measured: newest ? [{ partId: part.id, curves: newest.measured }] : [],
  };
  return (
    <div className="flex min-h-dvh flex-col">
      <Header
        crumbs={[
          { text: given.course, to: `/courses/${given.courseId}` },
          { text: given.title, to: `/exercises/${given.exerciseId}?part=${part.id}` },
          { text: 'Practice' },
        ]}
      >
        <span>Ungraded</span>
      </Header>
      <main className="flex flex-1 flex-col">
        <BenchSheet
          bench={bench}
          work={work}
          dispatch={dispatch}
          handing={{
            busy: check.isPending,
            error: check.error?.message,
            closed: false,
            worth: '',
            ungraded: true,
            handIn: (_part, answer) =>
              check.mutate(
                { seed, partId: part.id, answer },
                {
                  onSuccess: (result) =>
                    setResults((old) => [...old, { ...result, answer, handedInAt: new Date().toISOString() }]),
                },
              ),
          }}
          below={
            newest &&
            newest.working.length > 0 && (
              <details className="mt-4 max-w-3xl">
                <summary className="cursor-pointer text-[13px] text-petrol">The working</summary>
                <div className="mt-2 border-l-2 border-moss pl-4">
                  <WorkingList steps={newest.working} />
                </div>
              </details>
            )
          }
          more={
            <>
              <div>
                <OwnWord word="practice" />
                <Button onClick={again}>Another set of numbers</Button>
              </div>
              <Tally tally={newest?.tally ?? practice.tally} />
            </>
          }
        />
      </main>
    </div>
  );
}

/** What practice comes to: how many were right, and which slips are left behind. */
function Tally({ tally: { done, right, slips } }: { tally: PracticeTally }) {
  if (done === 0 && slips.length === 0) return null;
  return (
    <section aria-label="So far" className="text-[13px]">
      <h2 className="caption mb-1">So far</h2>
      {done > 0 && (
        <p>
          {right} of {done} right
        </p>
      )}
      <ul className="mt-1 grid gap-1">
        {slips.map(({ words, times, shed }) => (
          <li key={words} className={shed ? 'text-slate' : ''}>
            {shed ? <b className="font-medium text-moss">Shed: </b> : times > 1 ? `${times} times: ` : ''}
            <span className={shed ? 'line-through' : ''}>{words}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
