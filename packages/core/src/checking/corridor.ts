import { must } from '../expression/must.js';
import type { CorridorNail } from '../kinds/gains/part.js';
import type { Motion } from '../response/motion.js';
import { crossing } from '../response/walk.js';

/** The point at which a motion leaves a corridor furthest, or comes nearest to leaving it (a negative distance). */
export interface Outside {
  readonly distance: number;
  readonly time: number;
  readonly above: boolean;
}

const floor = 1e-9;

/**
 * How far a motion leaves a corridor of straight lines. Method: between two of its corners, at the zeros of the slope's
 * difference to the bound's, found between steps that are short against the fastest term.
 */
export function outsideBy(motion: Motion, corridor: CorridorNail['corridor']): Outside {
  const slope = motion.derivative();
  let worst: Outside = { distance: -Infinity, time: 0, above: false };
  for (let k = 0; k + 1 < corridor.length; k++) {
    const [start, end] = [must(corridor[k]), must(corridor[k + 1])];
    for (const side of ['low', 'high'] as const) {
      const [from, to] = [start[side], end[side]];
      if (from === null || to === null || !(end.time > start.time)) continue;
      const rise = (to - from) / (end.time - start.time);
      const sign = side === 'high' ? 1 : -1;
      const consider = (time: number): void => {
        const distance = sign * (motion.at(time) - from - rise * (time - start.time));
        if (distance > worst.distance) worst = { distance, time, above: sign > 0 };
      };
      const off = (time: number): number => slope.at(time) - rise;
      consider(start.time);
      for (let time = start.time; time < end.time;) {
        const next = Math.min(end.time, time + Math.min(motion.step(time, floor), (end.time - start.time) / 50));
        if (off(time) * off(next) < 0) consider(crossing(off, time, next));
        consider(next);
        if (next <= time) break;
        time = next;
      }
    }
  }
  return worst;
}
