import { Dialog } from 'radix-ui';
import { memo } from 'react';
import { Button } from '../shared/Button';
import { ownWords } from '../shared/OwnWord';

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

/** The keys of the bench, and its own words. */
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
          className="fixed top-1/2 left-1/2 z-40 max-h-[92dvh] w-[min(94vw,760px)] -translate-x-1/2 overflow-y-auto -translate-y-1/2 rounded-[3px] border border-rule bg-sheet p-5"
        >
          <Dialog.Title className="font-serif text-lg">Keys and words</Dialog.Title>
          <div className="my-4 grid gap-x-8 gap-y-4 sm:grid-cols-2">
            <Pairs rows={keys} className="font-mono" />
            <Pairs rows={Object.entries(ownWords)} className="font-medium" />
          </div>
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
});

const Pairs = ({ rows, className }: { rows: readonly (readonly [string, string])[]; className: string }) => (
  <dl className="grid grid-cols-[auto_1fr] content-start gap-x-5 gap-y-2">
    {rows.map(([name, what]) => (
      <div key={name} className="contents">
        <dt className={className}>{name}</dt>
        <dd>{what}</dd>
      </div>
    ))}
  </dl>
);
