import {
  type CorridorNail,
  formatNumber,
  type InputSignal,
  isStepOfOutput,
  type Measures,
  type Nail,
  quantities,
  type TimeUnit,
  type VerdictItem,
  withUnit,
} from '@nailset/core';

/** A nail where it meets the plot: hatched ground that the response must not enter, and a pin with its words. */
export interface Limit {
  readonly id: string;
  readonly met: boolean;
  readonly words: string;
  /** Hatched rectangle in units of the plot; infinite sides reach the frame. */
  readonly ground?: { t0: number; t1: number; y0: number; y1: number };
  /** Line along the ground's edge. */
  readonly edge: { t0: number; y0: number; t1: number; y1: number };
  readonly pin: { t: number; y: number; up: boolean };
}

/** Whether a response is one to a step at once, from rest. */
export const startsWithStep = (input: InputSignal | undefined): boolean =>
  input === undefined || (input.kind === 'levels' && input.at === 0 && input.from === 0);

/** On another input only a corridor has a place on the plot: all other nails are about a step. */
export const nailsOnPlot = ({ input, nails }: { input?: InputSignal; nails: readonly Nail[] }): readonly Nail[] =>
  startsWithStep(input) ? nails : nails.filter((nail) => 'corridor' in nail);

/** Whether nails are measured on a step while another input is drawn. */
export const measuresAStep = ({ input, nails }: { input?: InputSignal; nails: readonly Nail[] }): boolean =>
  !startsWithStep(input) &&
  nails.some((nail) => 'quantity' in nail && ['response', 'error'].includes(quantities[nail.quantity].source));

/**
 * Where each nail meets a unit step response with this final value. Nails without a place on the plot (a final value
 * that is asked for from below, say) are on the rail only.
 */
export function limitsOf(
  nails: readonly Nail[],
  items: readonly VerdictItem[],
  measures: Measures,
  firstCrossing: number,
  tMax: number,
  { height = 1, timeUnit = 's' }: { height?: number; timeUnit?: TimeUnit } = {},
): Limit[] {
  const final = measures.finalValue ?? height;
  return nails.flatMap((nail): Limit[] => {
    const met = items.find((item) => item.id === nail.id)?.met ?? false;
    if ('corridor' in nail) return corridorLimits(nail, met, tMax);
    if (!isStepOfOutput(nail) || nail.relation !== 'atMost') return [];
    const { unit } = quantities[nail.quantity];
    const limit = withUnit(nail.limit, unit === 's' ? timeUnit : unit);
    const short = (name: string): string => `${name} ≤ ${limit}`;
    const common = { id: nail.id, met };
    switch (nail.quantity) {
      case 'overshootPercent': {
        const level = final * (1 + nail.limit / 100);
        const ground = { t0: 0, t1: Infinity, y0: level, y1: Infinity };
        const edge = { t0: 0, y0: level, t1: Infinity, y1: level };
        return [{ ...common, words: short('overshoot'), ground, edge, pin: { t: 0.86 * tMax, y: level, up: true } }];
      }
      case 'settlingTime': {
        const low = 0.98 * final;
        const ground = { t0: nail.limit, t1: Infinity, y0: -Infinity, y1: low };
        const edge = { t0: nail.limit, y0: -Infinity, t1: nail.limit, y1: low };
        const words = `within 2 % from ${limit}`;
        const t = nail.limit + 0.3 * (tMax - nail.limit);
        return [{ ...common, words, ground, edge, pin: { t, y: low, up: false } }];
      }
      case 'riseTime': {
        const t = firstCrossing + nail.limit;
        const y = 0.9 * final;
        return [
          {
            ...common,
            words: short('rise'),
            edge: { t0: firstCrossing, y0: y, t1: t, y1: y },
            pin: { t, y, up: false },
          },
        ];
      }
      case 'peakTime':
        return [
          {
            ...common,
            words: short('peak'),
            edge: { t0: nail.limit, y0: final, t1: nail.limit, y1: 1.3 * final },
            pin: { t: nail.limit, y: 1.3 * final, up: true },
          },
        ];
      case 'stepError':
        return [
          {
            ...common,
            words: `offset ≤ ${formatNumber(nail.limit)}`,
            edge: { t0: 0.94 * tMax, y0: height * (1 - nail.limit), t1: Infinity, y1: height * (1 - nail.limit) },
            pin: { t: 0.97 * tMax, y: height * (1 - nail.limit), up: false },
          },
        ];
      default:
        return [];
    }
  });
}

/** The corridor's bounds, stretch by stretch, hatched on the far side; its pin stands at the first corner. */
function corridorLimits({ id, corridor }: CorridorNail, met: boolean, tMax: number): Limit[] {
  const stretches: Limit[] = [];
  for (let k = 0; k + 1 < corridor.length; k++) {
    const [start, end] = [corridor[k]!, corridor[k + 1]!];
    for (const side of ['low', 'high'] as const) {
      const [y0, y1] = [start[side], end[side]];
      if (y0 === null || y1 === null) continue;
      const above = side === 'high';
      // Ground is a rectangle, so a slanting bound is hatched from its outer end on.
      const ground = above
        ? { t0: start.time, t1: end.time, y0: Math.max(y0, y1), y1: Infinity }
        : { t0: start.time, t1: end.time, y0: -Infinity, y1: Math.min(y0, y1) };
      stretches.push({
        id: `${id}-${side}-${k}`,
        met,
        words: stretches.length === 0 ? 'corridor' : '',
        ground,
        edge: { t0: start.time, y0, t1: end.time, y1 },
        pin: {
          t: stretches.length === 0 ? (start.time + Math.min(end.time, tMax)) / 2 : Infinity,
          y: (y0 + y1) / 2,
          up: above,
        },
      });
    }
  }
  return stretches;
}
