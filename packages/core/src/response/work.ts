import { Problem } from '../expression/problem.js';

/** Steps of responses that may still be tried here; without end outside `within`. */
let left = Infinity;

/**
 * Runs `work` with a budget: this many steps of responses, however many responses they belong to. It is counted, not
 * timed, so that the same work always ends the same way.
 */
export function within<T>(steps: number, work: () => T): T {
  const before = left;
  left = Math.min(before, steps);
  try {
    return work();
  } finally {
    left = before === Infinity ? before : Math.max(0, before - (Math.min(before, steps) - left));
  }
}

/** Counts one step that is tried. @throws Problem `work` when the budget is used up. */
export function spendStep(): void {
  left -= 1;
  if (left < 0) {
    throw new Problem('work', 'This response swings or switches too fast to be worked out.');
  }
}
