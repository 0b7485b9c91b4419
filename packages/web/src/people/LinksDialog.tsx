import type { PersonalLink } from '@nailset/core';
import { useState } from 'react';
import { useLinks } from '../api/course';
import { FormError } from '../page/states';
import { Button } from '../shared/Button';
import { DialogFoot, DialogFrame } from '../shared/DialogFrame';
import { LongTable } from '../shared/LongTable';

/** Personal links for everyone who has not come in yet, to be handed out or sent by mail. */
export function LinksDialog({ courseId, waiting, mail }: { courseId: string; waiting: number; mail: boolean }) {
  const links = useLinks(courseId);
  const [open, setOpen] = useState(false);
  const close = (isOpen: boolean) => {
    setOpen(isOpen);
    links.reset();
  };
  const sent = links.data?.sent ?? 0;
  return (
    <DialogFrame
      title="Personal links"
      description={
        sent > 0
          ? `${sent} links are on their way.`
          : `With a link, each of the ${waiting} chooses a password and is in. Links handed out before go on working.`
      }
      open={open}
      onOpenChange={close}
      width="w-[min(94vw,760px)]"
      trigger={<Button>Links for {waiting} …</Button>}
    >
      {links.data && sent === 0 && <LinkList links={links.data.links} />}
      <FormError error={links.error} />
      <DialogFoot leave={links.data ? 'Close' : 'Cancel'}>
        {!links.data && mail && (
          <Button disabled={links.isPending} onClick={() => links.mutate(true)}>
            Send by mail
          </Button>
        )}
        {!links.data && (
          <Button look="strong" disabled={links.isPending} onClick={() => links.mutate(false)}>
            Make the links
          </Button>
        )}
      </DialogFoot>
    </DialogFrame>
  );
}

const whole = ({ path }: PersonalLink): string => `${location.origin}${path}`;

/** Links with the two ways of handing them out: a table, or a sheet to be cut up. */
export function LinkList({ links }: { links: readonly PersonalLink[] }) {
  if (links.length === 0) return null;
  const save = async () => {
    const { saveTable } = await import('../shared/saveTable');
    const rows = links.map((link) => [link.email, link.name, link.studentNumber, link.group, whole(link)]);
    saveTable(['E-mail', 'Name', 'Student number', 'Group', 'Link'], rows, 'links');
  };
  return (
    <>
      <p className="mb-2 flex flex-wrap gap-3">
        <Button onClick={() => void save()}>Save as CSV</Button>
        <Button onClick={() => window.print()}>Print</Button>
        <span className="self-center text-[13px] text-slate">They are shown this once.</span>
      </p>
      <LongTable
        label="Links"
        className="max-h-[46vh] border-y border-rule"
        rows={links}
        keyOf={({ email }) => email}
        height={44}
        head={
          <tr className="sr-only">
            <th>Name</th>
            <th>Link</th>
          </tr>
        }
        row={(link) => (
          <>
            <td className="py-1.5 pr-4 align-top text-[13px]">
              {link.name}
              <span className="block text-note text-slate">
                {[link.group, link.studentNumber].filter(Boolean).join(' · ')}
              </span>
            </td>
            <td className="py-1.5 font-mono text-[11px] break-all">{whole(link)}</td>
          </>
        )}
      />
    </>
  );
}
