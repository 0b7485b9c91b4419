import { isPromised } from '../../checking/slips/rule.js';
import { axesOf, guarded, judged, type Tried } from '../../checking/trial.js';
import { sampled } from '../../exercise/figure.js';
import { must } from '../../expression/must.js';
import { openGains } from '../../loop/controller.js';
import type { ControlLoop } from '../../loop/controlLoop.js';
import type { Searching } from '../kind.js';
import { loopModelOf, nailsOf } from './check.js';
import type { GainsPart } from './part.js';

export const searching: Searching<'gains'> = {
  way: 'descent',
  axes: ({ controller }) => axesOf(openGains(controller)),
  nails: ({ nails }) => nails.map(({ id }) => id),
  trying(part, model) {
    const loopModel = loopModelOf(part, model);
    return guarded(part.nails.length, (settings) => {
      const loop = loopModel.loopWith(settings);
      const tried = judged(nailsOf(part, loopModel, loop));
      return { settings, ...tried, stable: loop.stable, deceived: isDeceived(part, loop, tried) };
    });
  },
  curve(part, model, settings) {
    const loop = loopModelOf(part, model);
    const { y } = loop.signals(loop.loopWith(settings));
    return y ? sampled('output', y, part.horizon) : null;
  },
};

/** A nail that the rules speak of is missed by more than this, as a share of its limit. */
const clearly = 0.2;

function isDeceived(part: GainsPart, loop: ControlLoop, { beyond }: Pick<Tried, 'beyond'>): boolean {
  if (!loop.stable || loop.hasDeadTime) return false;
  const promised = part.nails.map((nail) => isPromised(nail, loop));
  return (
    promised.every((holds) => holds !== false) &&
    promised.some((holds, k) => holds === true && must(beyond[k]) > clearly)
  );
}
