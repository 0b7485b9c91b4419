import { type Draft, type ExerciseDocument, must } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { lazy, Suspense, useDeferredValue, useEffect, useEffectEvent, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useChangeExercise, useDraft, useMemberships, usePerson, usePublish, usePublishing } from '../api/queries';
import { DueField } from '../dates/DueField';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { ErrorNote } from '../page/states';
import { usePartAsked, usePartInAddress } from '../page/usePartInAddress';
import { Button } from '../shared/Button';
import { undoKey } from '../shared/history';
import { SavingNote, useLeaveWarning } from '../shared/saving';
import { clockTime } from '../shared/time';
import { UnreadProvider, useUnreadTexts } from '../shared/unread';
import { useSettled } from '../shared/useSettled';
import { useTitle } from '../shared/useTitle';
import { AskedColumn } from './AskedColumn';
import { exampleScope } from './exampleScope';
import { ExerciseMenu } from './ExerciseMenu';
import { GivenColumn } from './GivenColumn';
import { PublishDialog } from './PublishDialog';
import { SidePanel } from './SidePanel';
import { useDocumentHistory } from './useDocumentHistory';
import { useDraftSaving } from './useDraftSaving';

const DatesDialog = lazy(async () => ({ default: (await import('../dates/DatesDialog')).DatesDialog }));

/** Making an exercise: what is given, what is asked and accepted, and the student's view beside it. */
export default function BuilderPage() {
  const { exerciseId = '' } = useParams();
  const draft = useDraft(exerciseId);
  useTitle(draft.data ? `Build: ${draft.data.document.title}` : 'Builder');
  return (
    <PageOf query={draft} what="Opening the builder">
      {(data) => <Loaded key={draft.dataUpdatedAt} draft={data} reload={() => void draft.refetch()} />}
    </PageOf>
  );
}

function Loaded({ draft, reload }: { draft: Draft; reload: () => void }) {
  const { document, edit, step, canUndo, canRedo } = useDocumentHistory(draft, usePerson().id);
  const [open, setOpen] = useState(usePartAsked() ?? must(draft.document.parts[0]).id);
  const opened = document.parts.some(({ id }) => id === open) ? open : must(document.parts[0]).id;
  usePartInAddress(opened);
  const { saving, flush, giveUp } = useDraftSaving(draft, document);
  const publishing = usePublishSteps(draft, document, flush);
  const { value: unread, clear } = useUnreadTexts(
    open,
    document.parts.map(({ id }) => id),
  );
  const unreadNow = [...unread.texts.values()];
  useLeaveWarning(unreadNow.length > 0);
  const role = useMemberships().find(({ courseId }) => courseId === draft.courseId)?.role;
  const disabled = role !== 'instructor';

  // Findings and the student's view take longer than a keystroke; they follow when the hands rest.
  const settled = useSettled(document, 250);
  // The columns are painted first; what the draft says of itself and how a student sees it come after them.
  const followed = useDeferredValue<ExerciseDocument | null>(settled, null);
  const findings = useMemo(() => (followed ? examine(followed) : []), [followed]);
  const scope = useMemo(() => exampleScope(settled), [settled]);
  const problems = [
    ...unreadNow.map(({ label, message }) => `${label}: ${message}`),
    ...findings.map(({ message }) => message),
  ];

  // Fields hold what was typed; where something comes back they start afresh.
  const [takenBack, setTakenBack] = useState(0);
  const afresh = (change: () => void) => {
    clear();
    change();
    setTakenBack((count) => count + 1);
  };
  const takeStep = (way: 'undo' | 'redo') => afresh(() => step(way));
  useStepKeys(takeStep, disabled);

  return (
    <div className="flex min-h-dvh flex-col xl:h-dvh">
      <Header crumbs={[{ text: 'Shelf', to: `/courses/${draft.courseId}` }, { text: document.title || 'Untitled' }]}>
        <SavingNote
          saving={saving}
          saved={'at' in saving && saving.at ? `${publishing.words}, saved ${clockTime(saving.at)}` : ''}
          way={
            <button
              type="button"
              className="link"
              onClick={() => {
                giveUp();
                reload();
              }}
            >
              Reload
            </button>
          }
        />
        {!disabled && <StepButtons {...{ canUndo, canRedo }} onStep={takeStep} />}
        <ExerciseMenu draft={draft} disabled={disabled} onTakeBack={(earlier) => afresh(() => edit(earlier))} />
        {publishing.version !== null && (
          <Link to={`/exercises/${draft.id}/class`} className="link">
            Class sheet
          </Link>
        )}
        {!disabled && (
          <Button
            look="strong"
            disabled={problems.length > 0 || !publishing.changed || followed !== document}
            onClick={() => void publishing.ask()}
          >
            {publishing.changed ? `Publish version ${publishing.next}` : `Version ${publishing.version} is out`}
          </Button>
        )}
      </Header>
      <Problems problems={problems} />
      <main className="relative grid min-h-0 flex-1 xl:grid-cols-[minmax(345px,1fr)_minmax(400px,1.15fr)_minmax(470px,1.45fr)] xl:grid-rows-[minmax(0,1fr)]">
        <h1 className="sr-only">Builder: {document.title || 'untitled'}</h1>
        <div className="relative border-rule px-5 py-4 max-xl:border-b xl:overflow-y-auto xl:border-r">
          <UnreadProvider key={takenBack} value={unread}>
            <GivenColumn {...{ document, scope, findings, disabled, edit }} />
          </UnreadProvider>
        </div>
        <div className="relative border-rule px-5 py-4 max-xl:border-b xl:overflow-y-auto xl:border-r">
          <UnreadProvider key={takenBack} value={unread}>
            <AskedColumn
              {...{ document, scope, findings, disabled, edit }}
              open={opened}
              onOpen={setOpen}
              dates={<DraftDates draft={draft} disabled={disabled} />}
            />
          </UnreadProvider>
        </div>
        <div className="relative min-w-0 xl:overflow-y-auto">
          {followed && <SidePanel document={followed} open={opened} ready={findings.length === 0} />}
        </div>
      </main>
      <PublishDialog
        version={publishing.next}
        submissions={draft.submissions}
        changes={publishing.changes}
        draws={document.parameters.some(({ draw }) => draw.kind !== 'fixed')}
        open={publishing.asking}
        busy={publishing.busy}
        error={publishing.error ?? (saving.state === 'refused' ? saving.message : undefined)}
        onOpenChange={publishing.setAsking}
        onPublish={(newNumbers) => void publishing.send(newNumbers)}
      />
    </div>
  );
}

/** From when students see it, and until when they hand in; they hold at once, without a version. */
function DraftDates({ draft, disabled }: { draft: Draft; disabled: boolean }) {
  const [dates, setDates] = useState({ visibleFrom: draft.visibleFrom, dueAt: draft.dueAt });
  const change = useChangeExercise(draft.id);
  const setDate = (date: Partial<typeof dates>) =>
    change.mutate(date, { onSuccess: () => setDates((old) => ({ ...old, ...date })) });
  return (
    <>
      <div>
        <DueField dueAt={dates.dueAt} disabled={disabled} onDue={(dueAt) => setDate({ dueAt })} />
        {!disabled && (
          <Suspense fallback={null}>
            <DatesDialog exerciseId={draft.id} courseId={draft.courseId} />
          </Suspense>
        )}
      </div>
      <DueField
        which="visible"
        dueAt={dates.visibleFrom}
        disabled={disabled}
        onDue={(visibleFrom) => setDate({ visibleFrom })}
      />
      {change.error && <ErrorNote error={change.error} />}
    </>
  );
}

/** Which version is out, and the way to the next one: what it would change is asked, and then it is published. */
function usePublishSteps(draft: Draft, document: ExerciseDocument, flush: () => Promise<number>) {
  const [version, setVersion] = useState({ number: draft.version, document: draft.changed ? null : draft.document });
  const [asking, setAsking] = useState(false);
  const [revision, setRevision] = useState<number>();
  const publish = usePublish(draft.id);
  const publishing = usePublishing(draft.id, asking ? revision : undefined);
  const changed = version.number === null || version.document !== document;
  const saved = () => flush().catch(() => undefined);
  return {
    ...{ asking, setAsking, changed, version: version.number, next: (version.number ?? 0) + 1 },
    words: stateWords(changed, version.number),
    changes: publishing.data,
    busy: publish.isPending,
    error: publish.error?.message ?? publishing.error?.message,
    ask: async () => {
      setRevision(await saved());
      setAsking(true);
    },
    send: async (newNumbers: boolean) => {
      const last = await saved();
      if (last === undefined) return;
      publish.mutate(
        { revision: last, newNumbers },
        {
          onSuccess: (published) => {
            setVersion({ number: published.version, document });
            setAsking(false);
          },
        },
      );
    },
  };
}

/** The keys of undo and redo, for all of the builder. */
function useStepKeys(onStep: (way: 'undo' | 'redo') => void, disabled: boolean): void {
  const stepOnKey = useEffectEvent((event: KeyboardEvent) => {
    const way = undoKey(event);
    const { target } = event;
    // In a field that is typed in, the browser undoes letter by letter; what lies over the builder has nothing of its history.
    const isElsewhere =
      target instanceof HTMLElement &&
      (target.matches('textarea, input:not([type=checkbox], [type=radio])') ||
        target.closest('[role$=dialog], .whole-screen'));
    if (!way || isElsewhere || disabled || event.defaultPrevented) return;
    event.preventDefault();
    onStep(way);
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => stepOnKey(event);
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

function StepButtons({
  canUndo,
  canRedo,
  onStep,
}: {
  canUndo: boolean;
  canRedo: boolean;
  onStep: (way: 'undo' | 'redo') => void;
}) {
  return (
    <span className="flex gap-3">
      <button type="button" className="link" disabled={!canUndo} onClick={() => onStep('undo')}>
        Undo
      </button>
      <button type="button" className="link" disabled={!canRedo} onClick={() => onStep('redo')}>
        Redo
      </button>
    </span>
  );
}

function Problems({ problems: [first, ...others] }: { problems: readonly string[] }) {
  if (first === undefined) return null;
  return (
    <p role="status" className="border-b border-rule bg-wash px-5 py-1.5 text-[13px]">
      <b className="font-medium text-brick">Not ready to publish.</b> {first}
      {others.length > 0 && ` And ${others.length} more.`}
    </p>
  );
}

function stateWords(changed: boolean, version: number | null): string {
  if (!changed) return 'Published';
  return version === null ? 'Draft' : `Draft after version ${version}`;
}
