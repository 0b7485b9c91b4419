import { type DrawValues, type ExerciseDocument, modelOf, must, orElse, type WorkingStep } from '@nailset/core';
import { workingOf } from '@nailset/core/workings';

/** A question to the worker: the way to the answer of one part. */
export interface WorkingRequest {
  readonly document: ExerciseDocument;
  readonly partId: string;
  readonly values: DrawValues;
}

self.onmessage = ({ data: { document, partId, values } }: MessageEvent<WorkingRequest>) => {
  const part = must(document.parts.find(({ id }) => id === partId));
  const steps: readonly WorkingStep[] = orElse([], () => workingOf(part, modelOf(document, values)));
  self.postMessage(steps);
};
