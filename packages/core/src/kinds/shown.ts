import { sampled } from '../exercise/figure.js';
import type { Samples } from '../exercise/seen.js';
import { orElse } from '../expression/problem.js';
import { TransferSubject } from '../quantity/subject.js';
import { respond } from '../response/respond.js';
import type { Transfer } from '../system/transfer.js';

/** The step response of an expected system until it has settled; undefined where it does not settle. */
export const responseShown = (system: Transfer): Samples | undefined =>
  orElse(undefined, () => {
    const { settlingTime } = new TransferSubject(system).measures;
    return settlingTime === null ? undefined : sampled('expected', respond(system), 1.6 * settlingTime || 1);
  });
