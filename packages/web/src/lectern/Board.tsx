import type { WorkingStep } from '@nailset/core';
import { useState } from 'react';
import { notWorkedOut, useWorker } from '../shared/useWorker';
import { WorkingList } from '../shared/WorkingList';
import type { WorkingRequest } from './working.worker';

const start = () => new Worker(new URL('./working.worker.ts', import.meta.url), { type: 'module' });

/** The way to the answer, on the wall; worked out in a worker once someone wants it. */
export function Board(about: WorkingRequest) {
  const [asked, setAsked] = useState<WorkingRequest>();
  const came = useWorker<WorkingRequest, readonly WorkingStep[]>(start, asked);
  if (!asked) {
    return (
      <button type="button" className="link justify-self-start" onClick={() => setAsked(about)}>
        Show the working
      </button>
    );
  }
  if (!came) return <p role="status">Working it out …</p>;
  if (!came.answer) return <p className="text-brick">{notWorkedOut}</p>;
  if (came.answer.length === 0) return <p className="text-slate">There is no working to this part.</p>;
  return <WorkingList steps={came.answer} />;
}
