import { type Problem, type Settings, formatNumber, ladderRange } from '@nailset/core';
import type { Knob } from '../bench/knobs';
import { type LoopResponse, type LoopResponses, tryResponse } from '../bench/loopResponse';
import { stepsOver } from './votes';

/** One place of a run. */
export interface RunMember {
  readonly label: string;
  /** NaN for a parameter of the plant, whose members stand in their own order. */
  readonly value: number;
  /** Worked out when the run comes to it. */
  found(): LoopResponse | Problem;
}

const count = 41;

/**
 * The places of a run over one setting, even steps of its range near where it starts and the value that it has now; or
 * over a parameter of the plant, its other values.
 */
export function membersOver(
  over: string,
  knobs: readonly Knob[],
  settings: Settings,
  responses: LoopResponses,
): RunMember[] {
  const knob = knobs.find(({ name }) => name === over);
  if (!knob) {
    return responses
      .others(over)
      .map(({ label, responses: other }) => ({ label, value: NaN, found: () => tryResponse(other, settings) }));
  }
  // Near its start, however far the ladder leads.
  const [all, near] = [ladderRange(knob), ladderRange({ start: knob.start, coarse: knob.coarse })];
  const [low, high] = [Math.max(all[0], near[0]), Math.min(all[1], near[1])];
  const own = settings[over];
  const values = [...stepsOver({ low, high, count }), ...(own === undefined ? [] : [own])]
    .map(Number)
    .filter((value, k, list) => Number.isFinite(value) && list.indexOf(value) === k);
  return values
    .sort((a, b) => a - b)
    .map((value) => ({
      label: `${over} ${formatNumber(value)}`,
      value,
      found: () => tryResponse(responses, { ...settings, [over]: String(value) }),
    }));
}

/** Where a run begins: at the value that the setting has, or at the first member. */
export function beginOf(members: readonly RunMember[], text: string | undefined): number {
  const value = Number(text);
  if (text === undefined || !Number.isFinite(value)) return 0;
  const off = members.map((member) => Math.abs(member.value - value));
  return Math.max(0, off.indexOf(Math.min(...off)));
}
