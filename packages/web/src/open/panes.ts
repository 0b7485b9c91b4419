import type { Drawn } from './drawn';

/** What every pane is given: the systems drawn, which of them is chosen, and earlier ones that were kept. */
export interface PaneProps {
  readonly drawn: readonly Drawn[];
  readonly chosen: Drawn | undefined;
  /** As they were when “Keep” was pressed. */
  readonly kept: readonly Drawn[];
  /** Another one with “Fit all” and with another sheet: every pane fits its axes then. */
  readonly fits: string;
  readonly className: string;
}
