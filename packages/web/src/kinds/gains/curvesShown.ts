import { must, Problem, type Settings, type Trail } from '@nailset/core';
import { type LoopResponse, type LoopResponses, tryResponse } from '../../loop/loopResponse';
import type { PlotCurve } from '../../plot/curves';
import { familyOverGain, familyOverParameter, type Shown } from './PlotTools';

const ghostsShown = 3;

/** A stop on the trail with what the loop does there. */
export interface StopResponse {
  readonly stop: Trail[number];
  readonly index: number;
  readonly response: LoopResponse;
}

/** The stops whose loop can be computed. */
export const responsesOf = (trail: Trail, responses: LoopResponses): StopResponse[] =>
  trail.flatMap((stop, index) => {
    const response = tryResponse(responses, stop.gains);
    return response instanceof Problem ? [] : [{ stop, index, response }];
  });

/**
 * What is drawn in the response, from the back to the front: the last stops as ghosts, a family where one is asked for,
 * where the work began, stops that are kept, ways to start, and the present.
 */
export function curvesShown({
  shown,
  earlier,
  response,
  responses,
  settings,
  isKnob,
  starts,
  isStep,
}: {
  shown: Shown;
  /** Stops that are not the present, oldest first. */
  earlier: readonly StopResponse[];
  response: LoopResponse;
  responses: LoopResponses;
  settings: Settings;
  /** Whether the family is over a gain. */
  isKnob: boolean;
  starts: readonly PlotCurve[];
  isStep: boolean;
}): PlotCurve[] {
  const curveOf = ({ curves }: LoopResponse) => curves[shown.signal] ?? must(curves.y);
  const labelOf = (name: string, response: LoopResponse) => (isStep ? endLabel(name, response) : name);
  const first = earlier[0]?.response;
  const ghosts = shown.ghosts ? earlier.slice(1).filter(({ stop }) => !stop.pinned) : [];
  const familyOver = isKnob ? familyOverGain : familyOverParameter;
  const family = familyOver(shown.family, settings, responses, shown.signal);
  return [
    ...ghosts
      .slice(-ghostsShown)
      .map((ghost) => ({ id: `ghost-${ghost.index}`, curve: curveOf(ghost.response), look: 'ghost' as const })),
    ...family,
    ...(first && family.length === 0
      ? [{ id: 'first', curve: curveOf(first), look: 'first' as const, label: labelOf('first', first) }]
      : []),
    ...earlier
      .filter(({ stop }) => stop.pinned)
      .map((pin) => ({
        ...{ id: `pin-${pin.index}`, curve: curveOf(pin.response), look: 'second' as const },
        label: pin.stop.name ?? `stop ${pin.index + 1}`,
      })),
    ...(shown.signal === 'y' ? starts : []),
    { id: 'now', curve: curveOf(response), look: 'now', label: labelOf('now', response) },
  ];
}

const endLabel = (name: string, { measures }: LoopResponse): string =>
  measures.finalValue === null ? `${name}, unstable` : `${name}, ${measures.finalValue.toFixed(2)}`;
