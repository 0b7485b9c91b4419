import type { Bench } from '@nailset/core';
import { useCallback, useReducer } from 'react';
import type { Work, WorkAction } from '../loop/action';
import { workFrom, workReducer } from '../work/work';

interface Followed {
  readonly bench: Bench;
  readonly work: Work;
}

/** What is done to the work; a bench alone is followed. */
type Step = WorkAction | Bench;

/**
 * Work in the student’s view of a draft. An edit of the draft keeps what is on the bench, gains and trail, as far as the
 * parts still ask for it. The work and the bench that it fits are one state: of two, React can put off one and keep the
 * other, and a part would be drawn that the work has no answer to.
 */
export function usePreviewWork(bench: Bench): [work: Work, dispatch: (action: WorkAction) => void] {
  const [followed, step] = useReducer(stepped, bench, begun);
  if (followed.bench !== bench) step(bench);
  return [followed.work, useCallback((action: WorkAction) => step(action), [])];
}

const begun = (bench: Bench): Followed => ({ bench, work: workFrom(bench) });

function stepped({ bench, work }: Followed, step: Step): Followed {
  if ('do' in step) return { bench, work: workReducer(work, step) };
  const { chosen, held } = work;
  return { bench: step, work: { ...workFrom(step, work), chosen, ...(held ? { held } : {}) } };
}
