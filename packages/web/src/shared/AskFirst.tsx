import { AlertDialog } from 'radix-ui';
import type { ReactElement } from 'react';
import { Button } from './Button';

/** Asks before something goes that cannot be brought back; `children` is the button that would take it. */
export function AskFirst({
  title,
  description,
  action,
  onDo,
  children,
}: {
  title: string;
  description: string;
  /** On the button that does it, as in “Remove”. */
  action: string;
  onDo: () => void;
  children: ReactElement;
}) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{children}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-40 w-[min(92vw,400px)] -translate-x-1/2 -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5">
          <AlertDialog.Title className="font-serif text-lg">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-4">{description}</AlertDialog.Description>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button>Keep it</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button look="strong" onClick={onDo}>
                {action}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
