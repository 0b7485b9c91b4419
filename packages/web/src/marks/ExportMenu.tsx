import type { ExportFile, ExportKind } from '@nailset/core';
import { useState } from 'react';
import { useExport, useExportAgain, useExports } from '../api/course';
import { ErrorNote, FormError, Loading } from '../page/states';
import { Button } from '../shared/Button';
import { DialogFrame } from '../shared/DialogFrame';
import { download } from '../shared/files';
import { dayAndTime } from '../shared/time';

const kinds: readonly [ExportKind, string, string][] = [
  ['exercises', 'CSV, a column an exercise', 'E-mail, student number, group, points, totals.'],
  ['parts', 'CSV, a column a part', 'The same, part by part.'],
  ['oneRosterResults', 'OneRoster 1.2 results', 'results.csv, for registries and learning platforms.'],
  ['oneRosterLineItems', 'OneRoster 1.2 line items', 'lineItems.csv, which results refer to.'],
];

const save = ({ name, content }: ExportFile) => download(new Blob([content], { type: 'text/csv' }), name);

/** Marks out of the house, and what went out before. */
export function ExportMenu({ courseId }: { courseId: string }) {
  const [open, setOpen] = useState(false);
  const make = useExport(courseId);
  return (
    <DialogFrame
      title="Export marks"
      description="As they stand now. Each file is kept, so that you can see later what went out."
      open={open}
      onOpenChange={setOpen}
      trigger={<Button className="py-1">Export …</Button>}
    >
      <ul className="grid gap-2">
        {kinds.map(([kind, words, more]) => (
          <li key={kind} className="flex items-baseline justify-between gap-4">
            <span>
              {words}
              <span className="block text-note text-slate">{more}</span>
            </span>
            <Button
              className="py-1"
              aria-label={`Save ${words}`}
              disabled={make.isPending}
              onClick={() => make.mutate(kind, { onSuccess: save })}
            >
              Save
            </Button>
          </li>
        ))}
      </ul>
      <FormError error={make.error} />
      {open && <Earlier courseId={courseId} />}
    </DialogFrame>
  );
}

function Earlier({ courseId }: { courseId: string }) {
  const earlier = useExports(courseId);
  const again = useExportAgain(courseId);
  if (earlier.isPending) return <Loading what="Looking up exports" />;
  if (!earlier.data) return <ErrorNote error={earlier.error} retry={() => void earlier.refetch()} />;
  if (earlier.data.length === 0) return null;
  return (
    <section aria-label="Exported before" className="border-t border-rule pt-3">
      <h3 className="caption mb-1">Exported before</h3>
      <ul className="max-h-40 overflow-y-auto text-[13px]">
        {earlier.data.map(({ id, name, by, at }) => (
          <li key={id} className="flex items-baseline justify-between gap-3 border-t border-grid py-1">
            <span>
              {dayAndTime(at)} · {name} · {by}
            </span>
            <button
              type="button"
              className="link"
              aria-label={`Save ${name} of ${dayAndTime(at)} again`}
              onClick={() => again.mutate(id, { onSuccess: save })}
            >
              Save
            </button>
          </li>
        ))}
      </ul>
      <FormError error={again.error} />
    </section>
  );
}
