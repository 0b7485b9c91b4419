import { Dialog } from 'radix-ui';
import { memo } from 'react';
import { Button } from '../shared/Button';

const keys = [
  ['1 2 3', 'choose a gain'],
  ['↑ ↓', 'nudge it by a fine rung'],
  ['Shift ↑ ↓', 'nudge it by a coarse rung'],
  ['F', 'fit the axes to all that is drawn'],
  ['M', 'show where measures are read'],
  ['G', 'show or hide earlier curves'],
  ['R', 'set a reading on the curve; a click does too'],
  ['← → ↑ ↓', 'move the reading, zero, pole or corner that has the focus'],
  ['Delete', 'take that reading away'],
  ['?', 'this list'],
] as const;

/** The keys of the bench. */
export const KeysDialog = memo(function KeysDialog({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 w-80 -translate-x-1/2 -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5"
        >
          <Dialog.Title className="font-serif text-lg">Keys</Dialog.Title>
          <dl className="my-4 grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-mono">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
});
