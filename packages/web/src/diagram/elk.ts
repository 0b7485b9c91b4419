import Elk, { type ELK } from 'elkjs/lib/elk-api';
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';

let started: ELK | undefined;

/** The layout library in a worker of its own, started when the first diagram is drawn. */
export function elk(): ELK {
  return (started ??= new Elk({ workerFactory: () => new Worker(workerUrl) }));
}
