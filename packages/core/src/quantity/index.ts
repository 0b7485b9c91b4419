import { errorQuantities } from './error.js';
import { loopQuantities } from './loop.js';
import type { QuantityName } from './names.js';
import type { Quantity } from './quantity.js';
import { stepQuantities } from './step.js';
import { systemQuantities } from './system.js';

/** Everything that a nail can limit, a formula can use and a student can be asked for. */
export const quantities: Readonly<Record<QuantityName, Quantity>> = {
  ...stepQuantities,
  ...errorQuantities,
  ...systemQuantities,
  ...loopQuantities,
};
