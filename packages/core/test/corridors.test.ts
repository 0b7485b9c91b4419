import fc from 'fast-check';
import { outsideBy } from '../src/checking/corridor';
import { checkAnswer } from '../src/checks';
import { type GainsPart, LoopModel, modelOf, numberFromText } from '../src/index';
import { tune } from './documents';

/** Loops with an input of their own, their responses looked at thousands of times. */
const loops: readonly { name: string; part: Partial<GainsPart>; Kp: string }[] = [
  { name: 'a step that rings', part: { plant: '9/(s^2 + 0.9*s)' }, Kp: '1' },
  { name: 'a slow step', part: { plant: '1/((s + 1)*(4*s + 1))' }, Kp: '2' },
  { name: 'a zero in the right half-plane', part: { plant: '(1 - s)/((s + 1)*(s + 2))' }, Kp: '1' },
  { name: 'a ramp', part: { plant: '4/(s*(s + 2))', input: { kind: 'ramp', amplitude: 0.5, at: 0 } }, Kp: '1' },
  {
    name: 'a late step',
    part: { plant: '4/(s*(s + 2))', input: { kind: 'levels', from: 0.5, to: 2, at: 1.3 } },
    Kp: '1',
  },
  { name: 'dead time in the loop', part: { plant: 'exp(-0.4*s)/(s + 1)' }, Kp: '1.5' },
  {
    name: 'a disturbance',
    part: { plant: '2/(s + 1)', disturbance: { kind: 'levels', from: 0, to: -1, at: 2 } },
    Kp: '3',
  },
  {
    name: 'limits of the effort',
    part: { plant: '1/(s*(s + 1.2))', limits: { low: '-0.4', high: '0.4' } },
    Kp: '2',
  },
];
const partOf = (change: Partial<GainsPart>, nails: GainsPart['nails'] = tune.nails): GainsPart => ({
  ...tune,
  horizon: 8,
  controller: { terms: 'P', form: 'parallel', gains: [{ name: 'Kp', start: 1, fine: 0.1, coarse: 1 }] },
  ...change,
  nails,
});
const outputOf = (part: GainsPart, Kp: string) => {
  const model = new LoopModel(part, { names: new Map() }, []);
  return model.output(model.loopWith({ Kp }))!;
};

const level = fc.double({ min: -1, max: 3, noNaN: true });
const corridors = fc
  .array(
    fc.record({
      gap: fc.double({ min: 0.1, max: 3, noNaN: true }),
      low: fc.option(level, { nil: null }),
      width: fc.option(fc.double({ min: 0.05, max: 2, noNaN: true }), { nil: null }),
    }),
    { minLength: 2, maxLength: 5 },
  )
  .map((corners) => {
    let time = -corners[0]!.gap;
    return corners.map(({ gap, low, width }) => {
      time += gap;
      return { time, low, high: width === null ? null : (low ?? 0) + width };
    });
  });

/** How far a response leaves a corridor at the worst of many moments. */
function worstSeen(at: (time: number) => number, corridor: ReturnType<typeof corridors.generate>['value']): number {
  let worst = -Infinity;
  for (let k = 0; k + 1 < corridor.length; k++) {
    const [start, end] = [corridor[k]!, corridor[k + 1]!];
    for (let step = 0; step <= 4000; step++) {
      const share = step / 4000;
      const y = at(start.time + share * (end.time - start.time));
      const bound = (from: number, to: number): number => from + share * (to - from);
      if (start.low !== null && end.low !== null) worst = Math.max(worst, bound(start.low, end.low) - y);
      if (start.high !== null && end.high !== null) worst = Math.max(worst, y - bound(start.high, end.high));
    }
  }
  return worst;
}

describe.each(loops)('a corridor about $name', ({ part: change, Kp }) => {
  const motion = outputOf(partOf(change), Kp);

  test('is left by what is seen at thousands of moments, and hardly more', () => {
    fc.assert(
      fc.property(corridors, (corridor) => {
        const seen = worstSeen((time) => motion.at(time), corridor);
        const found = outsideBy(motion, corridor).distance;
        if (seen === -Infinity) return found === -Infinity;
        return found >= seen - 1e-9 && found <= seen + 2e-3;
      }),
      { numRuns: 25, seed: 7 },
    );
  });

  test('holds when it is drawn around the response, and not when it is drawn a little inside', () => {
    const corners = Array.from({ length: 17 }, (_, k) => ({ time: k / 2, y: motion.at(k / 2) }));
    const around = (by: number) => corners.map(({ time, y }) => ({ time, low: y - by, high: y + by }));
    const least = worstSeen((time) => motion.at(time), around(0));
    const judged = (by: number) =>
      checkAnswer(
        partOf(change, [{ id: 'corridor', corridor: around(by), points: 2 }]),
        modelOf({ systems: [], series: [] }, {}),
        { kind: 'gains', gains: { Kp } },
      );
    expect(judged(least + 0.01)).toMatchObject({ met: true, points: 2 });
    const missed = judged(least - 0.01);
    expect(missed).toMatchObject({ met: false, points: 0 });
    expect(missed.items[0]!.measured).toBeCloseTo(0.01, 2);
    const [, told] = /Corridor: ([\d.]+) (?:above|below) it at/.exec(missed.items[0]!.words)!;
    expect(numberFromText(told!, '')).toBeCloseTo(missed.items[0]!.measured!, 3);
  });
});
