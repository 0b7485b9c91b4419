import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useResetLink } from '../api/account';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { copyText } from '../shared/copyText';
import { dayAndTime } from '../shared/time';

/** A link for someone who forgot the password, to be handed over by who made it. */
export function ResetLinkDialog({ courseId, person }: { courseId: string; person: { id: string; name: string } }) {
  const make = useResetLink(courseId);
  const [copied, setCopied] = useState(false);
  const link = make.data && `${location.origin}${make.data.path}`;
  const opened = (open: boolean) => {
    if (open) return;
    make.reset();
    setCopied(false);
  };
  return (
    <Dialog.Root onOpenChange={opened}>
      <Dialog.Trigger className="link text-[13px]" aria-label={`New password for ${person.name}`}>
        New password …
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-ink/20" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-30 w-[min(92vw,480px)] -translate-1/2 rounded-[3px] border border-rule bg-sheet p-5">
          <Dialog.Title className="font-serif text-[20px]">New password for {person.name}</Dialog.Title>
          {link ? (
            <>
              <Dialog.Description className="mt-1 text-slate">
                Hand it to {person.name} and nobody else. It works once, until {dayAndTime(make.data.expiresAt)}.
              </Dialog.Description>
              <p className="mt-3 rounded-[3px] bg-wash px-3 py-2 font-mono text-[12px] break-all">{link}</p>
            </>
          ) : (
            <Dialog.Description className="mt-1 text-slate">
              A link lets {person.name} set a new one. The present password works until then.
            </Dialog.Description>
          )}
          <FormError error={make.error} />
          <div className="mt-2 flex justify-end gap-2">
            <Dialog.Close asChild>
              <Button>{link ? 'Close' : 'Cancel'}</Button>
            </Dialog.Close>
            {link ? (
              <Button look="strong" onClick={() => void copyText(link).then(setCopied)}>
                {copied ? 'Copied' : 'Copy'}
              </Button>
            ) : (
              <Button look="strong" disabled={make.isPending} onClick={() => make.mutate(person.id)}>
                Make a link
              </Button>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
