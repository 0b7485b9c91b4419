import type { Answer, Settings, Trail, Trend } from '@nailset/core';
import type { Knob } from './knob';
import type { HeldRatios } from './ratios';

/** What a student has on the bench: one answer and one trail per part, the open part and the chosen knob. */
export interface Work {
  readonly open: string;
  readonly chosen: string;
  readonly answers: Readonly<Record<string, Answer>>;
  readonly trails: Readonly<Record<string, Trail>>;
  /** Per part the last settings that were all numbers; they stay on the plot while another is being typed. */
  readonly readable: Readonly<Record<string, Settings>>;
  /** Per part the leads and lags that move as one. */
  readonly held?: Readonly<Record<string, HeldRatios>>;
  /** Counts changes that are worth saving. */
  readonly changes: number;
}

export type WorkAction =
  | { do: 'open'; part: string }
  | { do: 'choose'; knob: string }
  | { do: 'answer'; part: string; answer: Answer }
  | { do: 'set'; part: string; knob: string; text: string }
  | { do: 'setAll'; part: string; settings: Settings }
  | { do: 'holdRatio'; part: string; pair: string }
  | { do: 'nudge'; part: string; knob: Knob; by: number }
  | { do: 'pick'; part: string; option: string; several: boolean }
  | { do: 'fill'; part: string; cell: string; trend: Trend }
  | { do: 'stop'; part: string; holding: number }
  | { do: 'restore'; part: string; index: number }
  | { do: 'name'; part: string; index: number; name: string }
  | { do: 'pin'; part: string; index: number }
  | { do: 'adopt'; part: string; answer: Answer; trail: Trail };
