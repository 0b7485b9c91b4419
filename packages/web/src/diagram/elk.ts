import Elk, { type ELK, type ElkNode } from 'elkjs/lib/elk-api';
import workerUrl from 'elkjs/lib/elk-worker.min.js?url';

/** As often as the layout runs before the browser has compiled most of it. */
const warmUps = 14;

interface Layouter {
  readonly elk: ELK;
  /** Rejects when the worker could not be loaded or broke off. */
  readonly broken: Promise<never>;
}

let started: Layouter | undefined;
let isWarm = false;
let running = 0;

/** The layout library in a worker of its own. */
function start(): Layouter {
  const worker = new Worker(workerUrl);
  const broken = new Promise<never>((_, reject) => {
    worker.addEventListener('error', () => reject(new Error('the layout did not run.')));
  });
  // It may break off before anything is laid out; whoever asks then is told.
  broken.catch(() => undefined);
  return { elk: new Elk({ workerFactory: () => worker }), broken };
}

/** Lays the same graph out again and again while nothing else is asked, so that the next change is drawn at once. */
async function warmUp(elk: ELK, graph: ElkNode): Promise<void> {
  for (let done = 0; done < warmUps;) {
    if (running === 0) {
      await elk.layout(structuredClone(graph));
      done++;
    }
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
}

/** Starts the worker, which is large, before there is something to lay out. */
export function beginLayout(): void {
  started ??= start();
}

/** Lays a graph out. The worker starts with the first one; one that fails is started once more. */
export async function layOut(graph: ElkNode, again = true): Promise<ElkNode> {
  const { elk, broken } = (started ??= start());
  const copy = structuredClone(graph);
  running++;
  try {
    const placed = await Promise.race([elk.layout(graph), broken]);
    if (!isWarm) void warmUp(elk, copy);
    isWarm = true;
    return placed;
  } catch (error) {
    elk.terminateWorker();
    if (started?.elk === elk) {
      started = undefined;
      isWarm = false;
    }
    if (!again) throw error;
    return await layOut(copy, false);
  } finally {
    running--;
  }
}
