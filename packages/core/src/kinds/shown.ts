import { sampled } from '../exercise/figure.js';
import type { Samples } from '../exercise/seen.js';
import { orElse } from '../expression/problem.js';
import { TransferSubject } from '../quantity/subject.js';
import type { Motion } from '../response/motion.js';
import { respond } from '../response/respond.js';
import { within } from '../response/work.js';
import type { Transfer } from '../system/transfer.js';

/** Steps that the response beside an expected answer is worth. */
const stepsShown = 2000;

/**
 * The step response of an expected system until it has settled; undefined where it does not settle, or takes too long to
 * be followed.
 */
export const responseShown = (system: Transfer): Samples | undefined =>
  orElse(undefined, () =>
    within(stepsShown, () => {
      const { settlingTime } = new TransferSubject(system).measures;
      return settlingTime === null ? undefined : sampled('expected', respond(system), 1.6 * settlingTime || 1);
    }),
  );

/** How far a step response has to go to be seen growing; what tracks a step stays below. */
const grown = 3;

/** Steps that a small picture is worth: a fraction of what the check of an answer may take. */
const stepsOfPicture = 400;
const mostPoints = 160;

/**
 * The unit step response of a system over a time in which it is seen to settle or to grow, as coarse as a small picture
 * bears. Undefined where it does neither soon, or takes too long to be followed.
 */
export const responseTried = (system: Transfer, label: string): Samples | undefined =>
  orElse(undefined, () =>
    within(stepsOfPicture, () => {
      const motion = respond(system);
      const { settlingTime } = new TransferSubject(system).measures;
      const horizon = settlingTime === null ? growingTime(motion) : 1.3 * settlingTime || 1;
      if (horizon === undefined) return undefined;
      const { times, values } = sampled(label, motion, horizon, { tolerance: 0.01, digits: 4 });
      const every = Math.ceil(times.length / mostPoints);
      const isKept = (_: number, k: number): boolean => k % every === 0 || k === times.length - 1;
      return { label, times: times.filter(isKept), values: values.filter(isKept) };
    }),
  );

/** Until when a response has grown so far, whatever its scale of time. */
function growingTime(motion: Motion): number | undefined {
  for (let time = 2 ** -60; time < 2 ** 60; time *= 1.5) {
    for (let k = 1; k <= 24; k++) if (Math.abs(motion.at((time * k) / 24)) > grown) return time;
  }
  return undefined;
}
