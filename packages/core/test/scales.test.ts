import { answer } from '../src/batch/answer';

/** Powers of the unit of time and of the gain that a field grows with. */
type Dimension = readonly [time: number, gain: number];
const plain: Dimension = [0, 0];
const time: Dimension = [1, 0];
const rate: Dimension = [-1, 0];
const level: Dimension = [0, 1];
const inverse: Dimension = [0, -1];

interface Plant {
  readonly numerator: readonly number[];
  readonly denominator: readonly number[];
  readonly deadTime?: number;
}

const times10 = (value: number, power: number): number => Number(`${value}e${power}`);

/** G(T·s)·c for T = 10^slower, c = 10^larger, exact in decimals; times grow by T, values by c. */
function scaled({ numerator, denominator, deadTime = 0 }: Plant, slower: number, larger = 0) {
  const stretched = (p: readonly number[], by = 0) => p.map((c, k) => times10(c, by + slower * (p.length - 1 - k)));
  return {
    numerator: stretched(numerator, larger),
    denominator: stretched(denominator),
    deadTime: times10(deadTime, slower),
  };
}

const typical: Record<string, Plant> = {
  'a resonance': { numerator: [12.25], denominator: [1, 2.1, 12.25] },
  'a double pole, touched by nothing': { numerator: [1], denominator: [1, 100, 2325, 15750] },
  'an integrator with lags': { numerator: [1], denominator: [1, 7, 10, 0] },
  'poles 1e-5 apart': { numerator: [3], denominator: [1, 5.00001, 7.00004, 3.00003] },
  'three equal poles and a pair': { numerator: [1, 4], denominator: [1, 4, 10, 16, 13, 4] },
  'a zero in the right half-plane': { numerator: [-1, 2], denominator: [1, 1.4, 4] },
  'a direct term': { numerator: [2, 1, 8], denominator: [1, 0.6, 4] },
  'a pole that cancels': { numerator: [1, 2], denominator: [1, 4, 5, 2] },
};
const delayed: Record<string, Plant> = {
  'a lag with dead time': { numerator: [1.64], denominator: [2.93, 1], deadTime: 0.454 },
  'a resonance with dead time': { numerator: [1], denominator: [1, 0.4, 1], deadTime: 0.3 },
};

/** A loop with dead time inside, closed around a plant. */
const closed = ({ numerator, denominator, deadTime }: ReturnType<typeof scaled>, larger: number): string => {
  const text = (p: readonly number[]) => `(${p.map((c, k) => `${c}*s^${p.length - 1 - k}`).join('+')})`;
  const loop = `${text(numerator)}/${text(denominator)}*exp(-${deadTime}*s)`;
  return `1e${larger}*(${loop})/(1+(${loop}))`;
};

interface Case {
  readonly ask: string;
  readonly plants: Record<string, Plant>;
  /** The fields of the answer by their names; others must stay. */
  readonly grows: Record<string, Dimension>;
  /** Whether the gain may change too: not where the loop is closed. */
  readonly anyGain?: boolean;
  readonly query?: (slower: number, larger: number) => Record<string, unknown>;
  /** What depends on the plant. */
  readonly own?: (plant: Plant) => Record<string, Dimension>;
  readonly name?: string;
  /** The query takes no plant. */
  readonly alone?: boolean;
  /** Where the query takes the plant; its system unless given. */
  readonly field?: string;
  readonly within?: number;
}

/** Measured steps of the plants, in any unit. */
const measured = (name: string, structure: string, grows: Case['grows'], order?: number): Case => ({
  ask: 'fit',
  alone: true,
  name: `fit of ${name}`,
  plants: { 'the data': { numerator: [2], denominator: [1, 1] } },
  anyGain: order === undefined,
  within: 1e-5,
  grows,
  query: (slower, larger) =>
    order === undefined
      ? {
          structure,
          data: {
            times: [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 7, 9, 12].map((t) => times10(t, slower)),
            values: [0.3, 0.88, 1.3, 1.63, 1.8, 1.9, 2.02, 2.01, 2, 1.99, 2].map((y) => times10(y, larger)),
          },
        }
      : {
          order,
          data: {
            omegas: [0.1, 0.3, 1, 3, 10, 30].map((w) => times10(w, -slower)),
            magnitudesDb: [6, 5.6, 3, -4, -14, -23.5],
            phasesDegrees: [-6, -17, -45, -71, -84, -88],
          },
        },
});

const places = { re: rate, im: rate, from: rate, to: rate };
const cases: Case[] = [
  {
    ask: 'poles',
    plants: typical,
    anyGain: true,
    grows: { ...places, naturalFrequency: rate, timeConstant: time, dcGain: level },
    own: ({ numerator, denominator }) => ({ gain: [numerator.length - denominator.length, 1] }),
  },
  {
    ask: 'measures',
    plants: { ...typical, ...delayed },
    anyGain: true,
    within: 1e-7,
    grows: {
      ...{ finalValue: level, peakValue: level, riseTime: time, riseTimeFull: time, delayTime: time, time63: time },
      ...{ settlingTime: time, settlingTime5: time, peakTime: time },
    },
  },
  {
    ask: 'response',
    plants: { ...typical, ...delayed },
    anyGain: true,
    grows: { values: level },
    query: (slower) => ({ times: [0, 0.3, 1, 2.5, 7, 20].map((t) => times10(t, slower)) }),
  },
  {
    ask: 'response',
    name: 'response to a late ramp',
    plants: { ...typical, ...delayed },
    anyGain: true,
    grows: { values: [1, 1] },
    query: (slower) => ({
      input: { kind: 'ramp', at: times10(0.7, slower) },
      times: [0, 0.3, 1, 2.5, 7, 20].map((t) => times10(t, slower)),
    }),
  },
  { ask: 'peak', plants: { ...typical, ...delayed }, anyGain: true, grows: { value: level, time } },
  {
    ask: 'frequency',
    plants: { ...typical, ...delayed },
    grows: {},
    query: (slower) => ({ omegas: [0.01, 0.3, 1, 5, 40].map((w) => times10(w, -slower)) }),
  },
  { ask: 'margins', plants: { ...typical, ...delayed }, grows: { omega: rate, delayMargin: time } },
  { ask: 'nyquist', plants: { ...typical, ...delayed }, grows: {} },
  { ask: 'robustness', plants: { ...typical, ...delayed }, within: 1e-7, grows: { omega: rate, bandwidth: rate } },
  {
    ask: 'steadyState',
    plants: { ...typical, ...delayed },
    grows: {
      ...{ velocityConstant: rate, accelerationConstant: [-2, 0], rampError: time, parabolaError: [2, 0] },
    },
  },
  {
    ask: 'errorIntegrals',
    plants: typical,
    within: 1e-7,
    grows: { absolute: time, squared: time, timeWeighted: [2, 0] },
  },
  {
    ask: 'locus',
    plants: typical,
    anyGain: true,
    grows: { ...places, gain: inverse, omega: rate, centroid: rate, closedLoopPoles: rate },
    query: (_slower, larger) => ({ gains: [0.1, 2, 70].map((gain) => times10(gain, -larger)) }),
  },
  {
    ask: 'dampingRay',
    plants: typical,
    anyGain: true,
    grows: { re: rate, im: rate, gain: inverse },
    query: () => ({ dampingRatio: 0.5 }),
  },
  {
    ask: 'nearestGain',
    plants: typical,
    anyGain: true,
    within: 1e-7,
    grows: { re: rate, im: rate, gain: inverse },
    query: (slower) => ({ point: [-1.1, 0.7].map((value) => times10(value, -slower)) }),
  },
  {
    ask: 'simulate',
    plants: { ...delayed, 'a lag': { numerator: [1.3], denominator: [1, 1] } },
    anyGain: true,
    within: 1e-6,
    field: 'plant',
    grows: { effort: inverse, demand: inverse },
    query: (slower, larger) => ({
      controller: {
        Kp: times10(1.7, -larger),
        Ki: times10(0.6, -larger - slower),
        Kd: times10(0.2, slower - larger),
        filterTime: times10(0.1, slower),
        limits: { low: times10(-0.8, -larger), high: times10(0.9, -larger) },
        trackingTime: times10(0.7, slower),
      },
      reference: { kind: 'step', at: times10(0.2, slower) },
      times: [0, 0.3, 1, 2.5, 7, 20].map((t) => times10(t, slower)),
    }),
  },
  {
    ask: 'tunedStart',
    plants: { ...delayed, 'an integrator with a lag': { numerator: [2], denominator: [1, 1, 0] } },
    anyGain: true,
    within: 1e-5,
    field: 'plant',
    grows: { Kp: inverse, Ki: [-1, -1], Kd: [1, -1], crossover: rate },
    query: () => ({ form: 'PID' }),
  },
  measured('one lag', 'firstOrder', { K: level, T: time, rms: level, largest: level }),
  measured('a resonance', 'secondOrder', { K: level, wn: rate, rms: level, largest: level }),
  measured('a lag and dead time', 'firstOrderDeadTime', {
    ...{ K: level, T: time, L: time, deadTime: time, rms: level, largest: level },
  }),
  measured('a fraction', '', {}, 1),
  {
    ask: 'roots',
    plants: { 'a polynomial': typical['three equal poles and a pair']! },
    alone: true,
    grows: places,
    query: (slower) => ({ polynomial: scaled(typical['three equal poles and a pair']!, slower).denominator }),
  },
  {
    ask: 'matchPolynomial',
    plants: { 'two lags': { numerator: [5], denominator: [1, 4, 2] } },
    anyGain: true,
    field: 'plant',
    grows: { Kp: inverse, Ki: [-1, -1], Kd: [1, -1] },
    query: (slower) => ({ form: 'PID', polynomial: [1, 7, 20, 24].map((c, k) => times10(c, slower * (3 - k))) }),
  },
  {
    ask: 'compensator',
    plants: { 'a lead': { numerator: [1], denominator: [1] } },
    alone: true,
    grows: { omega: rate },
    query: (slower) => ({ gain: 2, zero: times10(1, -slower), pole: times10(10, -slower) }),
  },
  { ask: 'stableGains', plants: { ...typical, ...delayed }, anyGain: true, grows: { intervals: inverse } },
];

/** Every number of an answer with what it should grow by, in order. */
function flat(value: unknown, grows: Record<string, Dimension>, dimension: Dimension = plain): [unknown, Dimension][] {
  if (Array.isArray(value)) return value.flatMap((item) => flat(item, grows, dimension));
  if (typeof value === 'object' && value !== null) {
    // Which of two branches that meet goes on as which is a matter of drawing; coefficients each have their own power.
    const entries = Object.entries(value).filter(([key]) => !['branch', 'numerator', 'denominator'].includes(key));
    return entries.flatMap(([key, item]) => flat(item, grows, grows[key] ?? dimension));
  }
  return [[value, dimension]];
}

interface ClosedCase {
  readonly ask: string;
  readonly grows: Record<string, Dimension>;
  readonly within: number;
  readonly query?: Case['query'];
}

const closedCases: ClosedCase[] = [
  { ask: 'measures', grows: cases.find(({ ask }) => ask === 'measures')!.grows, within: 2e-6 },
  { ask: 'peak', grows: { value: level, time }, within: 2e-6 },
  {
    ask: 'response',
    grows: { values: level },
    within: 1e-6,
    query: (slower) => ({ times: [0.3, 1, 2.5, 7, 20].map((t) => times10(t, slower)) }),
  },
  {
    ask: 'frequency',
    grows: {},
    within: 1e-8,
    query: (slower) => ({ omegas: [0.1, 1, 5].map((w) => times10(w, -slower)) }),
  },
];

const scales = [
  [-9, 0],
  [-3, 9],
  [3, -9],
  [9, 9],
  [9, -9],
  [6, 0],
] as const;

test.each(closedCases)('$ask of a loop with dead time changes with the scale by exactly that', (given) => {
  const { ask, grows, within, query } = given;
  const gain = ask === 'frequency' ? 0 : 1;
  const at = (slower: number, larger: number): number[] => {
    const system = closed(scaled(delayed['a lag with dead time']!, slower), larger * gain);
    const found = answer({ id: 1, ask, system, ...query?.(slower, larger) });
    if (found.error) throw new Error(`10^${slower} slower: ${found.error.message}`);
    return flat(found.result, grows).map(([value, [t, c]]) =>
      typeof value === 'number' ? value / 10 ** (t * slower) / 10 ** (c * larger) : NaN,
    );
  };
  const wanted = at(0, 0);
  expect(wanted.length).toBeGreaterThan(1);
  for (const [slower, larger] of scales) {
    at(slower, larger).forEach((value, k) => {
      if (!Number.isNaN(wanted[k]!))
        expect(Math.abs(value / (wanted[k]! || 1) - (wanted[k] ? 1 : 0))).toBeLessThan(within);
    });
  }
});

describe.each(cases.map((each) => [each.name ?? each.ask, each] as const))('%s', (_name, given) => {
  const { ask, plants, anyGain, query, field = 'system', alone = false, within = 1e-9 } = given;

  test.each(Object.entries(plants))('of %s changes with the scale of time and gain by exactly that', (_of, plant) => {
    const grows = { ...given.grows, ...given.own?.(plant) };
    const at = (slower: number, larger: number) => {
      const system = alone ? {} : { [field]: scaled(plant, slower, larger) };
      const found = answer({ id: 1, ask, ...system, ...query?.(slower, larger) });
      if (found.error) throw new Error(`10^${slower} slower: ${found.error.message}`);
      return flat(found.result, grows);
    };
    const wanted = at(0, 0);
    const numbers = wanted.filter(([value]) => typeof value === 'number').map(([value]) => Math.abs(value as number));
    const largest = Math.max(...numbers, 0);
    for (const [slower, larger] of scales) {
      if (larger !== 0 && !anyGain) continue;
      const found = at(slower, larger).map(([value, [t, c]]) =>
        typeof value === 'number' ? value / 10 ** (t * slower) / 10 ** (c * larger) : value,
      );
      expect([slower, larger, found.length]).toEqual([slower, larger, wanted.length]);
      found.forEach((value, k) => {
        const [want] = wanted[k]!;
        if (typeof want !== 'number' || typeof value !== 'number')
          expect([slower, larger, value]).toEqual([slower, larger, want]);
        else if (Math.abs(value - want) > within * Math.abs(want) && Math.abs(value - want) > 1e-12 * largest) {
          throw new Error(`10^${slower} slower, 10^${larger} larger, number ${k}: ${value}, not ${want}`);
        }
      });
    }
  });
});
