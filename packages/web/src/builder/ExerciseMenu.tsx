import { type Draft, type ExerciseDocument, formatNumber } from '@nailset/core';
import { Dialog, DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useChangeExercise, useCopy, useVersion, useVersions } from '../api/queries';
import { ErrorNote, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { dayAndTime } from '../shared/time';

const item = 'cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-wash';

/** Versions, duplicate, archive, export. */
export function ExerciseMenu({
  draft,
  disabled,
  onTakeBack,
}: {
  draft: Draft;
  disabled: boolean;
  /** Makes an earlier version the draft. */
  onTakeBack: (document: ExerciseDocument) => void;
}) {
  const [versions, setVersions] = useState(false);
  const copy = useCopy(draft.id);
  const change = useChangeExercise(draft.id);
  const navigate = useNavigate();
  const [refused, setRefused] = useState('');
  /** Goes on where something worked, and says what did not. */
  const whenDone = <T,>(work: Promise<T>, goOn: (result: T) => unknown, not: string) => {
    setRefused('');
    void work.then(goOn, (error: Error) => setRefused(`${not} ${error.message}`));
  };
  return (
    <>
      {refused && (
        <span role="alert" className="text-brick">
          {refused}
        </span>
      )}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="link">More</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-30 rounded-[3px] border border-rule bg-sheet py-1 text-body"
          >
            <DropdownMenu.Item className={item} onSelect={() => setVersions(true)}>
              Versions
            </DropdownMenu.Item>
            <DropdownMenu.Item asChild className={item}>
              <Link to={`/exercises/${draft.id}/lectern`} className="block">
                On the lectern
              </Link>
            </DropdownMenu.Item>
            {draft.version !== null && (
              <>
                <DropdownMenu.Item asChild className={item}>
                  <Link to={`/exercises/${draft.id}/print`} className="block">
                    Print
                  </Link>
                </DropdownMenu.Item>
                <DropdownMenu.Item asChild className={item}>
                  <Link to={`/exercises/${draft.id}/again`} className="block">
                    Check answers again
                  </Link>
                </DropdownMenu.Item>
              </>
            )}
            <DropdownMenu.Item asChild className={item}>
              <a href={`/api/exercises/${draft.id}/file`} download className="block">
                Export as a file
              </a>
            </DropdownMenu.Item>
            {!disabled && (
              <>
                <DropdownMenu.Item
                  className={item}
                  onSelect={() =>
                    whenDone(copy.mutateAsync(), ({ id }) => navigate(`/exercises/${id}/build`), 'Not duplicated.')
                  }
                >
                  Duplicate
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className={item}
                  onSelect={() =>
                    whenDone(
                      change.mutateAsync({ archived: true }),
                      () => navigate(`/courses/${draft.courseId}`),
                      'Not archived.',
                    )
                  }
                >
                  Archive
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Dialog.Root open={versions} onOpenChange={setVersions}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed top-1/2 left-1/2 z-40 w-[460px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5"
          >
            <Dialog.Title className="font-serif text-lg">Versions</Dialog.Title>
            <VersionList
              draft={draft}
              disabled={disabled}
              onTakeBack={(document) => {
                onTakeBack(document);
                setVersions(false);
              }}
            />
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

function VersionList({
  draft,
  disabled,
  onTakeBack,
}: {
  draft: Draft;
  disabled: boolean;
  onTakeBack: (document: ExerciseDocument) => void;
}) {
  const versions = useVersions(draft.id);
  const version = useVersion(draft.id);
  if (versions.isPending) return <Loading what="Looking up the versions" />;
  if (!versions.data) return <ErrorNote error={versions.error} retry={() => void versions.refetch()} />;
  if (versions.data.length === 0) return <p className="my-4 text-slate">Nothing is published yet.</p>;
  return (
    <>
      <p className="mt-1 text-note text-slate">
        A published version never changes. Taking one back makes it the draft.
      </p>
      <ul className="my-4 max-h-72 overflow-y-auto">
        {versions.data.map(({ number, publishedAt, by, submissions }) => (
          <li key={number} className="flex items-baseline justify-between gap-3 border-t border-grid py-2 text-[13px]">
            <span>
              <b className="font-medium">Version {number}</b> · {dayAndTime(publishedAt)} · {by}
              <span className="block text-slate">{formatNumber(submissions)} answers handed in</span>
            </span>
            {!disabled && (
              <Button onClick={() => version.mutate(number, { onSuccess: onTakeBack })} disabled={version.isPending}>
                Take back
              </Button>
            )}
          </li>
        ))}
      </ul>
      {version.error && <ErrorNote error={version.error} />}
    </>
  );
}
