import { AlertDialog } from 'radix-ui';
import { Button } from '../shared/Button';

/** Asks once more before a version goes out, and says what it means for those who handed in already. */
export function PublishDialog({
  version,
  submissions,
  open,
  busy,
  error,
  onOpenChange,
  onPublish,
}: {
  version: number;
  submissions: number;
  open: boolean;
  busy: boolean;
  error: string | undefined;
  onOpenChange: (open: boolean) => void;
  onPublish: () => void;
}) {
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-40 w-[min(92vw,420px)] -translate-x-1/2 -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5">
          <AlertDialog.Title className="font-serif text-lg">Publish version {version}?</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-4">
            Students see it at once, and it never changes again.
            {submissions > 0 && ` The ${submissions} answers handed in so far keep their verdicts and count as tries.`}
          </AlertDialog.Description>
          <p role="alert" className="mb-2 text-brick">
            {error}
          </p>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Not yet</Button>
            </AlertDialog.Cancel>
            <Button look="strong" disabled={busy} onClick={onPublish}>
              {busy ? 'Publishing …' : 'Publish'}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
