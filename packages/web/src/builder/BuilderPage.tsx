import type { Draft } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { useEffect, useEffectEvent, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useChangeExercise, useDraft, usePublish, usePublishing, useSession } from '../api/queries';
import { Button } from '../shared/Button';
import { Header } from '../page/Header';
import { PageOf } from '../page/PageOf';
import { usePartAsked, usePartInAddress } from '../page/usePartInAddress';
import { undoKey } from '../shared/history';
import { SavingNote, useLeaveWarning } from '../shared/saving';
import { ErrorNote } from '../page/states';
import { clockTime } from '../shared/time';
import { UnreadProvider, useUnreadTexts } from '../shared/unread';
import { useSettled } from '../shared/useSettled';
import { useTitle } from '../shared/useTitle';
import { AskedColumn } from './AskedColumn';
import { ExerciseMenu } from './ExerciseMenu';
import { GivenColumn } from './GivenColumn';
import { exampleScope } from './exampleScope';
import { PublishDialog } from './PublishDialog';
import { SidePanel } from './SidePanel';
import { useDocumentHistory } from './useDocumentHistory';
import { useDraftSaving } from './useDraftSaving';

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
  const { document, edit, step, canUndo, canRedo } = useDocumentHistory(draft, useSession().data!.person!.id);
  const first = usePartAsked() ?? draft.document.parts[0]!.id;
  const [open, setOpen] = useState(first);
  const [asking, setAsking] = useState(false);
  const [version, setVersion] = useState({ number: draft.version, document: draft.changed ? null : draft.document });
  const [dueAt, setDueAt] = useState(draft.dueAt);
  // Fields hold what was typed; an earlier version starts them afresh.
  const [takenBack, setTakenBack] = useState(0);
  const { saving, flush, giveUp } = useDraftSaving(draft, document);
  const publish = usePublish(draft.id);
  const [asked, setAsked] = useState<number>();
  const publishing = usePublishing(draft.id, asking ? asked : undefined);
  const { value: unread, clear } = useUnreadTexts(
    open,
    document.parts.map(({ id }) => id),
  );
  const unreadNow = [...unread.texts.values()];
  useLeaveWarning(unreadNow.length > 0);
  const change = useChangeExercise(draft.id);
  const role = useSession().data!.memberships.find(({ courseId }) => courseId === draft.courseId)?.role;
  const disabled = role !== 'instructor';

  // Findings and the student's view take longer than a keystroke; they follow when the hands rest.
  const settled = useSettled(document, 250);
  const findings = useMemo(() => examine(settled), [settled]);
  const scope = useMemo(() => exampleScope(settled), [settled]);
  const problems = [
    ...unreadNow.map(({ label, message }) => `${label}: ${message}`),
    ...findings.map(({ message }) => message),
  ];
  const changed = version.number === null || version.document !== document;
  const next = (version.number ?? 0) + 1;

  // Fields hold what was typed, so they start afresh; the part that is open may be gone.
  const takeStep = (way: 'undo' | 'redo') => {
    clear();
    step(way);
    setTakenBack((count) => count + 1);
  };
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
    takeStep(way);
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => stepOnKey(event);
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const opened = document.parts.some(({ id }) => id === open) ? open : document.parts[0]!.id;
  usePartInAddress(opened);

  const ask = async () => {
    setAsked(await flush().catch(() => undefined));
    setAsking(true);
  };
  const send = async (newNumbers: boolean) => {
    const revision = await flush().catch(() => undefined);
    if (revision === undefined) return;
    const body = { revision, newNumbers };
    publish.mutate(body, {
      onSuccess: (published) => {
        setVersion({ number: published.version, document });
        setAsking(false);
      },
    });
  };
  const setDue = (due: string | null) => change.mutate({ dueAt: due }, { onSuccess: () => setDueAt(due) });

  return (
    <div className="flex min-h-dvh flex-col xl:h-dvh">
      <Header crumbs={[{ text: 'Shelf', to: `/courses/${draft.courseId}` }, { text: document.title || 'Untitled' }]}>
        <SavingNote
          saving={saving}
          saved={
            'at' in saving && saving.at ? `${stateWords(changed, version.number)}, saved ${clockTime(saving.at)}` : ''
          }
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
        {!disabled && (
          <span className="flex gap-3">
            <button type="button" className="link" disabled={!canUndo} onClick={() => takeStep('undo')}>
              Undo
            </button>
            <button type="button" className="link" disabled={!canRedo} onClick={() => takeStep('redo')}>
              Redo
            </button>
          </span>
        )}
        <ExerciseMenu
          draft={draft}
          disabled={disabled}
          onTakeBack={(earlier) => {
            clear();
            edit(earlier);
            setTakenBack((count) => count + 1);
          }}
        />
        {version.number !== null && (
          <Link to={`/exercises/${draft.id}/class`} className="link">
            Class sheet
          </Link>
        )}
        {!disabled && (
          <Button
            look="strong"
            disabled={findings.length > 0 || unreadNow.length > 0 || !changed || settled !== document}
            onClick={() => void ask()}
          >
            {changed ? `Publish version ${next}` : `Version ${version.number} is out`}
          </Button>
        )}
      </Header>
      {problems.length > 0 && (
        <p role="status" className="border-b border-rule bg-wash px-5 py-1.5 text-[13px]">
          <b className="font-medium text-brick">Not ready to publish.</b> {problems[0]}
          {problems.length > 1 && ` And ${problems.length - 1} more.`}
        </p>
      )}
      <main className="grid min-h-0 flex-1 xl:grid-cols-[minmax(345px,1fr)_minmax(400px,1.15fr)_minmax(470px,1.45fr)] xl:grid-rows-[minmax(0,1fr)]">
        <div className="relative border-rule px-5 py-4 max-xl:border-b xl:overflow-y-auto xl:border-r">
          <UnreadProvider key={takenBack} value={unread}>
            <GivenColumn document={document} scope={scope} findings={findings} disabled={disabled} edit={edit} />
          </UnreadProvider>
        </div>
        <div className="relative border-rule px-5 py-4 max-xl:border-b xl:overflow-y-auto xl:border-r">
          <UnreadProvider key={takenBack} value={unread}>
            <AskedColumn
              document={document}
              open={opened}
              onOpen={setOpen}
              scope={scope}
              findings={findings}
              disabled={disabled}
              dueAt={dueAt}
              onDue={setDue}
              edit={edit}
            />
          </UnreadProvider>
          {change.error && <ErrorNote error={change.error} />}
        </div>
        <div className="relative min-w-0 xl:overflow-y-auto">
          <SidePanel document={settled} open={opened} ready={findings.length === 0} />
        </div>
      </main>
      <PublishDialog
        version={next}
        submissions={draft.submissions}
        changes={publishing.data}
        draws={document.parameters.some(({ draw }) => draw.kind !== 'fixed')}
        open={asking}
        busy={publish.isPending}
        error={
          publish.error?.message ??
          publishing.error?.message ??
          (saving.state === 'refused' ? saving.message : undefined)
        }
        onOpenChange={setAsking}
        onPublish={(newNumbers) => void send(newNumbers)}
      />
    </div>
  );
}

function stateWords(changed: boolean, version: number | null): string {
  if (!changed) return 'Published';
  return version === null ? 'Draft' : `Draft after version ${version}`;
}
