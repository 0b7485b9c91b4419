import { type DrawValues, formatNumber, ladderRange, type Problem, type Settings } from '@nailset/core';
import type { Knob } from '../loop/knob';
import { type LoopResponse, type LoopResponses, tryResponse } from '../loop/loopResponse';
import { stepsOver } from './votes';

/** One place of a run. */
export interface RunMember {
  readonly label: string;
  readonly value: number;
  /** Of the loop with this value. */
  readonly responses: LoopResponses;
  /** Worked out when the run comes to it. */
  response(): LoopResponse | Problem;
}

const count = 41;

/**
 * The places of a run, rising. Over a setting: even steps of its range near where it starts, and the value that it has
 * now. Over a parameter of the plant: its own value and others about it, close to each other where the part has a locus.
 */
export function membersOver(
  over: string,
  knobs: readonly Knob[],
  settings: Settings,
  responses: LoopResponses,
  parameters: DrawValues,
): RunMember[] {
  const knob = knobs.find(({ name }) => name === over);
  const member = (value: number, responses: LoopResponses, all: Settings): RunMember => ({
    label: `${over} ${formatNumber(value)}`,
    ...{ value, responses },
    response: () => tryResponse(responses, all),
  });
  if (!knob) {
    const swept = responses.sweep(over);
    const one = { value: Number(parameters[over]), responses };
    return (swept.length > 0 ? swept : [...responses.others(over), one])
      .map(({ value, responses: of }) => member(value, of, settings))
      .sort((a, b) => a.value - b.value);
  }
  // Near its start, however far the ladder leads.
  const [all, near] = [ladderRange(knob), ladderRange({ start: knob.start, coarse: knob.coarse })];
  const [low, high] = [Math.max(all[0], near[0]), Math.min(all[1], near[1])];
  const setting = settings[over];
  const values = [...stepsOver({ low, high, count }), ...(setting === undefined ? [] : [setting])]
    .map(Number)
    .filter((value, k, list) => Number.isFinite(value) && list.indexOf(value) === k);
  return values.sort((a, b) => a - b).map((value) => member(value, responses, { ...settings, [over]: String(value) }));
}

/** Where a run begins: at the value that the setting or parameter has, or at the first member. */
export function beginOf(members: readonly RunMember[], text: string | undefined): number {
  const value = Number(text);
  if (text === undefined || !Number.isFinite(value)) return 0;
  const off = members.map((member) => Math.abs(member.value - value));
  return Math.max(0, off.indexOf(Math.min(...off)));
}
