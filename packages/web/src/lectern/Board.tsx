import type { WorkingStep } from '@nailset/core';
import { useEffect, useRef, useState } from 'react';
import { WorkingList } from '../shared/WorkingList';
import type { WorkingRequest } from './working.worker';

/** The way to the answer, on the wall; worked out in a worker once someone wants it. */
export function Board(asked: WorkingRequest) {
  const [steps, setSteps] = useState<readonly WorkingStep[] | 'waiting'>();
  const worker = useRef<Worker>(undefined);
  useEffect(() => () => worker.current?.terminate(), []);
  const show = () => {
    setSteps('waiting');
    const thread = new Worker(new URL('./working.worker.ts', import.meta.url), { type: 'module' });
    worker.current = thread;
    thread.onmessage = ({ data }: MessageEvent<readonly WorkingStep[]>) => setSteps(data);
    thread.onerror = () => setSteps([]);
    thread.postMessage(asked);
  };
  if (steps === undefined) {
    return (
      <button type="button" className="link justify-self-start" onClick={show}>
        Show the working
      </button>
    );
  }
  if (steps === 'waiting') return <p role="status">Working it out …</p>;
  if (steps.length === 0) return <p className="text-slate">There is no working to this part.</p>;
  return <WorkingList steps={steps} />;
}
