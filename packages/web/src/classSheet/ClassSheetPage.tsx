import { type ClassSheet, must, type Part } from '@nailset/core';
import { Tabs } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useClassSheet } from '../api/queries';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { Empty, Loading } from '../page/states';
import { dayAndTime } from '../shared/time';
import { useTitle } from '../shared/useTitle';
import { AnswerPanel } from './AnswerPanel';
import { PartPanel } from './PartPanel';
import { SheetTable } from './SheetTable';
import { SlipList } from './SlipList';
import { summarise } from './summary';

const PointsChart = lazy(() => import('./PointsChart'));

/** A class: rows of nails on the left, everyone's responses and one student's answer on the right. */
export default function ClassSheetPage() {
  const { exerciseId = '' } = useParams();
  const sheet = useClassSheet(exerciseId);
  useTitle(sheet.data ? `Class sheet: ${sheet.data.title}` : 'Class sheet');
  return (
    <PageOf query={sheet} what="Opening the class sheet">
      {(data) => <Loaded sheet={data} />}
    </PageOf>
  );
}

function Loaded({ sheet }: { sheet: ClassSheet }) {
  const [chosen, setChosen] = useState<string>();
  const [partId, setPartId] = useState(
    (sheet.parts.findLast(({ kind }) => kind === 'gains') ?? must(sheet.parts[0])).id,
  );
  const part = sheet.parts.find(({ id }) => id === partId) ?? must(sheet.parts[0]);
  const { handedIn, look } = summarise(sheet);

  const choose = (submissionId: string) => {
    setChosen(submissionId);
    const of = sheet.flock.find((entry) => entry.submissionId === submissionId)?.partId;
    if (of) setPartId(of);
  };

  return (
    <div className="flex min-h-dvh flex-col xl:h-dvh">
      <Header
        crumbs={[
          { text: 'Shelf', to: `/courses/${sheet.courseId}` },
          { text: sheet.title, to: `/exercises/${sheet.exerciseId}/build` },
          { text: 'Class sheet' },
        ]}
      >
        {sheet.dueAt && <span>Due {dayAndTime(sheet.dueAt)}</span>}
        <span>
          <b className="font-medium text-ink">
            {handedIn} of {sheet.rows.length}
          </b>{' '}
          handed in
        </span>
        {look > 0 && (
          <span>
            <b className="font-medium text-copper">{look}</b> want a look
          </span>
        )}
      </Header>
      {sheet.rows.length === 0 ? (
        <Empty title="Nobody has joined yet.">
          Students join with the course code on the{' '}
          <Link className="link" to={`/courses/${sheet.courseId}`}>
            shelf
          </Link>
          .
        </Empty>
      ) : (
        <main className="grid min-h-0 flex-1 xl:grid-cols-[1.12fr_1fr] xl:grid-rows-[minmax(0,1fr)]">
          <div className="relative border-rule px-5 py-4 max-xl:border-b xl:overflow-y-auto xl:border-r">
            <h1 className="sr-only">Class sheet</h1>
            <SheetTable sheet={sheet} chosen={chosen} onChoose={choose} />
          </div>
          <div className="relative flex min-w-0 flex-col gap-5 px-5 py-4 xl:overflow-y-auto">
            <div>
              {sheet.parts.length > 1 && <PartTabs parts={sheet.parts} open={part.id} onOpen={setPartId} />}
              <PartPanel key={part.id} part={part} sheet={sheet} chosen={chosen} onChoose={choose} />
            </div>
            {chosen ? (
              <AnswerPanel submissionId={chosen} onClose={() => setChosen(undefined)} />
            ) : (
              <>
                <SlipList part={part} sheet={sheet} chosen={chosen} onChoose={choose} />
                <p className="text-note text-slate">
                  Choose a nail, a curve or a name to see the answer, its measures and its trail.
                </p>
                <Suspense fallback={<Loading what="Counting" />}>
                  <PointsChart sheet={sheet} />
                </Suspense>
              </>
            )}
          </div>
        </main>
      )}
    </div>
  );
}

function PartTabs({ parts, open, onOpen }: { parts: readonly Part[]; open: string; onOpen: (id: string) => void }) {
  return (
    <Tabs.Root value={open} onValueChange={onOpen}>
      <Tabs.List aria-label="Part" className="mb-3 flex flex-wrap gap-x-5 gap-y-1">
        {parts.map(({ id, title }, k) => (
          <Tabs.Trigger
            key={id}
            value={id}
            aria-label={title}
            title={title}
            className="border-b-2 border-transparent pb-1 text-slate data-[state=active]:border-petrol data-[state=active]:font-medium data-[state=active]:text-ink"
          >
            {parts.length > 4 && id !== open ? String.fromCharCode(97 + k) : title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {parts.map(({ id }) => (
        <Tabs.Content key={id} value={id} className="sr-only">
          Responses below
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
