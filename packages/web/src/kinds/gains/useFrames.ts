import { Problem, type Settings } from '@nailset/core';
import { useState } from 'react';
import { type GainsOf, type LoopResponse, type LoopResponses, tryResponse } from '../../loop/loopResponse';
import type { PlotCurve } from '../../plot/curves';
import { frameAbout, frameFor } from '../../plot/frame';
import { reachOf } from '../../plot/PolePlane';
import { useFrame } from '../../plot/useFrame';

/** The axes of every plot of a gains part. They hold still while gains move, and change when someone asks for it. */
export function useFrames(part: GainsOf, responses: LoopResponses, response: LoopResponse, began: Settings) {
  const { horizon } = part;
  const { height } = responses.model;
  const [frame, setFrame, back] = useFrame(horizon, () => frameAbout(horizon, responses.reference, height));
  const [effort, setEffort] = useFrame(horizon, () => frameFor(horizon, [], effortLevels(responses, response)));
  // Held from where the work began, so that there is room to see the poles move.
  const [reach, setReach] = useState(() => {
    const start = tryResponse(responses, began);
    const from = start instanceof Problem ? response : start;
    return Math.max(1.5 * reachOf(from.poles), reachOf(response.poles));
  });
  const fitEffort = (first: LoopResponse | undefined) => {
    const { u } = response.curves;
    if (u) setEffort(frameFor(horizon, [u, ...(first?.curves.u ? [first.curves.u] : [])]));
  };
  const fit = (drawn: readonly PlotCurve[], isOutput: boolean, first: LoopResponse | undefined) => {
    const curves = drawn.map(({ curve }) => curve);
    setFrame(frameFor(horizon, curves, isOutput ? [0, height] : [0]));
    fitEffort(first);
    setReach(reachOf(response.poles));
  };
  return { frame, effort, reach, fit, fitEffort, view: setFrame, back };
}

/** Room for the effort: its limits, or several times what it takes where the work begins. */
function effortLevels({ model }: LoopResponses, { curves: { u } }: LoopResponse): number[] {
  if (model.limits) return [model.limits.low, model.limits.high, 0];
  const values = u ? Array.from(u.values) : [1];
  return [0, 5 * Math.max(0, ...values), 5 * Math.min(0, ...values)];
}
