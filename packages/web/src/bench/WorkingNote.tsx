import { useState } from 'react';
import { useWorking } from '../api/learning';
import { WorkingList } from '../shared/WorkingList';

/** The way to the expected answer, once someone wants to see it. */
export function WorkingNote({ exerciseId, part }: { exerciseId: string; part: { id: string; title: string } }) {
  const [open, setOpen] = useState(false);
  const working = useWorking(exerciseId, part.id, open);
  return (
    <section aria-label={`Working: ${part.title}`} className="mt-4 max-w-3xl">
      <button type="button" className="link text-[13px]" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Hide the working' : 'Show the working'}
      </button>
      {open && (
        <div className="mt-2 border-l-2 border-moss pl-4">
          {working.data ? (
            working.data.length > 0 ? (
              <WorkingList steps={working.data} />
            ) : (
              <p className="text-slate">There is no working to this part.</p>
            )
          ) : working.error ? (
            <p role="alert" className="text-brick">
              {working.error.message}
            </p>
          ) : (
            <p role="status" className="text-slate">
              Working it out …
            </p>
          )}
        </div>
      )}
    </section>
  );
}
