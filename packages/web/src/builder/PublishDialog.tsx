import type { Publishing } from '@nailset/core';
import { formatMark, inPoints } from '@nailset/core';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../shared/Button';
import { CheckField } from '../shared/fields';

/** Asks once more before a version goes out, and lists what changes for whom. */
export function PublishDialog({
  version,
  submissions,
  changes,
  draws,
  open,
  busy,
  error,
  onOpenChange,
  onPublish,
}: {
  version: number;
  submissions: number;
  /** What would change for students; undefined until it is known. */
  changes: Publishing | undefined;
  /** Whether students have numbers of their own at all. */
  draws: boolean;
  open: boolean;
  busy: boolean;
  error: string | undefined;
  onOpenChange: (open: boolean) => void;
  onPublish: (newNumbers: boolean) => void;
}) {
  const [newNumbers, setNewNumbers] = useState(false);
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-40 max-h-[90vh] w-[min(92vw,460px)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-[3px] border border-rule bg-sheet p-5">
          <AlertDialog.Title className="font-serif text-lg">Publish version {version}?</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-3">
            Students see it at once, and it never changes again.
            {submissions > 0 &&
              ` The ${submissions} answers handed in so far keep their verdicts and count as tries; afterwards you can check them again.`}
          </AlertDialog.Description>
          {changes && <Changes changes={changes} draws={draws} newNumbers={newNumbers} />}
          {changes && changes.seen > 0 && draws && (
            <div className="mb-3">
              <CheckField label="New numbers for everyone" checked={newNumbers} onChange={setNewNumbers} />
            </div>
          )}
          <p role="alert" className="mb-2 text-brick">
            {error}
          </p>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Not yet</Button>
            </AlertDialog.Cancel>
            <Button look="strong" disabled={busy || !changes} onClick={() => onPublish(newNumbers)}>
              {busy ? 'Publishing …' : 'Publish'}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

const students = (count: number): string => (count === 1 ? '1 student' : `${count} students`);

function Changes({ changes, draws, newNumbers }: { changes: Publishing; draws: boolean; newNumbers: boolean }) {
  const { seen, ruledOut, parts, fixed } = changes;
  const lines = [
    ...parts.map((part) => partWords(part)),
    ...fixed.map(({ symbol, before, after }) => `${symbol}: ${before} becomes ${after} for everyone.`),
    ...(seen > 0 && draws ? numberWords(seen, ruledOut, newNumbers) : []),
  ];
  if (lines.length === 0) return null;
  return (
    <ul aria-label="What changes" className="mb-3 grid gap-1 border-l-2 border-copper pl-3 text-[13px]">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

function partWords({ title, change, before, after, handedIn }: Publishing['parts'][number]): string {
  const done = handedIn > 0 ? `, handed in by ${students(handedIn)}` : '';
  switch (change) {
    case 'added':
      return `“${title}” is new, ${inPoints(after)}.`;
    case 'removed':
      return `“${title}” goes${done}: its ${inPoints(before)} no longer count.`;
    case 'kind':
      return `“${title}” asks for another kind of answer${done}.`;
    case 'points':
      return `“${title}”: ${formatMark(before)} becomes ${inPoints(after)}${done}.`;
  }
}

function numberWords(seen: number, ruledOut: number, newNumbers: boolean): string[] {
  if (newNumbers) return [`${students(seen)} who have seen their numbers get new ones.`];
  const kept = seen - ruledOut;
  return [
    ...(kept > 0 ? [`${students(kept)} who have seen their numbers keep${kept === 1 ? 's' : ''} them.`] : []),
    ...(ruledOut > 0
      ? [`${students(ruledOut)} get${ruledOut === 1 ? 's' : ''} new numbers: the guards rule theirs out.`]
      : []),
  ];
}
