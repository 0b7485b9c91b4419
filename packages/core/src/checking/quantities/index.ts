import type { QuantityName } from '../../exercise/quantityNames.js';
import { finalValue } from './finalValue.js';
import { overshoot } from './overshoot.js';
import { peakTime } from './peakTime.js';
import type { Quantity } from './quantity.js';
import { riseTime } from './riseTime.js';
import { settlingTime } from './settlingTime.js';
import { stepError } from './stepError.js';

/** Every quantity that a nail can limit or a student can be asked for. */
export const quantities: Readonly<Record<QuantityName, Quantity>> = {
  overshootPercent: overshoot,
  riseTime,
  settlingTime,
  peakTime,
  stepError,
  finalValue,
};
