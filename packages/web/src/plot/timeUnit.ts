import type { TimeUnit } from '@nailset/core';
import { createContext, useContext } from 'react';

/** In what the times on the page are counted; frequencies are in radians for each. */
export const TimeUnitContext = createContext<TimeUnit>('s');

export const useTimeUnit = (): TimeUnit => useContext(TimeUnitContext);
