import type { SheetData } from '@nailset/core';
import type { ReactNode } from 'react';
import type { FrequencyReadings } from '../../frequency/readings';
import type { Drawn } from '../sheet/drawn';

/** What every pane is given: the systems drawn, which of them is chosen, and earlier ones that were kept. */
export interface PaneProps {
  readonly drawn: readonly Drawn[];
  readonly chosen: Drawn | undefined;
  /** As they were when “Keep” was pressed. */
  readonly kept: readonly Drawn[];
  /** Another one with “Fit all” and with another sheet: every pane fits its axes then. */
  readonly fits: string;
  readonly className: string;
  /** Whether it has all the room. */
  readonly isLarge: boolean;
  /** To be shown with the other switches of the pane. */
  readonly tools?: ReactNode;
}

export type FrequencyData = Extract<SheetData, { readonly omegas: readonly number[] }>;

export interface FrequencyProps extends PaneProps {
  readonly readings: FrequencyReadings;
  readonly data: readonly FrequencyData[];
}
