import type { ExerciseDocument } from '@nailset/core';
import type { Proof } from '@nailset/core/checks';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { ProofMessage, ProofRequest } from './proof.worker';

export type ProofState =
  | { readonly state: 'none' }
  | { readonly state: 'running'; readonly share: number }
  | { readonly state: 'done'; readonly proof: Proof; readonly document: ExerciseDocument; readonly partId: string }
  | { readonly state: 'failed'; readonly message: string };

/** Proves a part in a worker of its own; a new proof or `cancel` ends the one that runs. */
export function useProof() {
  const [state, setState] = useState<ProofState>({ state: 'none' });
  const worker = useRef<Worker>(undefined);
  const cancel = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
    setState({ state: 'none' });
  }, []);
  useEffect(() => () => worker.current?.terminate(), []);
  const start = useCallback((document: ExerciseDocument, partId: string) => {
    worker.current?.terminate();
    const thread = new Worker(new URL('./proof.worker.ts', import.meta.url), { type: 'module' });
    worker.current = thread;
    setState({ state: 'running', share: 0 });
    thread.onmessage = ({ data }: MessageEvent<ProofMessage>) => {
      if ('share' in data) return setState({ state: 'running', share: data.share });
      thread.terminate();
      setState(
        'proof' in data
          ? { state: 'done', proof: data.proof, document, partId }
          : { state: 'failed', message: data.problem },
      );
    };
    thread.onerror = () => setState({ state: 'failed', message: 'The proof stopped unexpectedly. Try it again.' });
    const request: ProofRequest = { document, partId };
    thread.postMessage(request);
  }, []);
  return { state, start, cancel };
}
