import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './Button';

/** What lies over a page: a heading, a sentence, and what there is to do; Escape and a click beside it close it. */
export function DialogFrame({
  title,
  description,
  open,
  onOpenChange,
  trigger,
  returnTo,
  width = 'w-[min(92vw,520px)]',
  children,
}: {
  title: string;
  /** A sentence on what it is for, where the heading does not say all. */
  description?: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  /** The button that opens it. */
  trigger?: ReactNode;
  /** Without a trigger: what opened it, and has the focus again afterwards. */
  returnTo?: HTMLElement | null;
  width?: string;
  children: ReactNode;
}) {
  return (
    <Dialog.Root {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      {trigger && <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/20" />
        <Dialog.Content
          {...(description === undefined && { 'aria-describedby': undefined })}
          {...(returnTo && {
            onCloseAutoFocus: (event: Event) => {
              event.preventDefault();
              returnTo.focus();
            },
          })}
          className={`fixed top-1/2 left-1/2 z-30 flex max-h-[92dvh] ${width} -translate-1/2 flex-col overflow-y-auto rounded-[3px] border border-rule bg-sheet p-5`}
        >
          <Dialog.Title className="font-serif text-[20px]">{title}</Dialog.Title>
          {description !== undefined && (
            <Dialog.Description asChild>
              <div className="mt-1 mb-3 text-slate">{description}</div>
            </Dialog.Description>
          )}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Its last row: the way out, and what there is to do. */
export function DialogFoot({ leave = 'Cancel', children }: { leave?: string; children?: ReactNode }) {
  return (
    <div className="mt-1 flex justify-end gap-2">
      <Dialog.Close asChild>
        <Button>{leave}</Button>
      </Dialog.Close>
      {children}
    </div>
  );
}
