import { type ExerciseDocument, must, Problem } from '@nailset/core';
import { type Proof, prove } from '@nailset/core/checks';

/** A question to the worker: prove one part. */
export interface ProofRequest {
  readonly document: ExerciseDocument;
  readonly partId: string;
}

/** What the worker says: how far it is, what it found, or why it could not. */
export type ProofMessage = { share: number } | { proof: Proof } | { problem: string };

const say = (message: ProofMessage): void => self.postMessage(message);

/** Ten students and a search take a while; the page stays free, and stops the worker to cancel. */
self.onmessage = ({ data: { document, partId } }: MessageEvent<ProofRequest>) => {
  const part = must(document.parts.find(({ id }) => id === partId));
  let told = 0;
  try {
    const work = prove(document, part);
    for (;;) {
      const next = work.next();
      if (next.done) return say({ proof: next.value });
      if (performance.now() - told > 60) {
        told = performance.now();
        say({ share: next.value });
      }
    }
  } catch (error) {
    if (error instanceof Problem) return say({ problem: error.message });
    throw error;
  }
};
