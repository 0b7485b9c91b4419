import { checkAnswer, gainMapAt, type Search, searchOf, searchSettings } from '../src/checks';
import { type GainsPart, modelOf } from '../src/index';
import { tune } from './documents';
import { randomNumbers } from './random';

const plain = modelOf({ systems: [], series: [] }, {});
const finish = (part: GainsPart, models = [plain]): Search => {
  const work = searchSettings(searchOf(part)!, models);
  let next = work.next();
  while (!next.done) next = work.next();
  return next.value;
};
const proportional: GainsPart = {
  ...tune,
  plant: '4/(s*(s + 2))',
  controller: {
    terms: 'P',
    form: 'parallel',
    gains: [{ name: 'Kp', start: 1, fine: 0.05, coarse: 1, low: 0.05, high: 10 }],
  },
  nails: [{ id: 'over', quantity: 'overshootPercent', relation: 'atMost', limit: 20, points: 1 }],
};
const both: GainsPart = {
  ...proportional,
  controller: {
    terms: 'PD',
    form: 'parallel',
    gains: [
      { name: 'Kp', start: 1, fine: 0.25, coarse: 2, low: 1, high: 11 },
      { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 3 },
    ],
  },
};
const limit = (
  id: string,
  quantity: 'riseTime' | 'overshootPercent' | 'settlingTime',
  relation: 'atMost' | 'atLeast',
  value: number,
) => ({ id, quantity, relation, limit: value, points: 1 });

describe('the search', () => {
  test('finds settings that stand on the ladder, away from the edge of what holds', () => {
    const { draws, map, conflicts } = finish(proportional);
    const Kp = Number(draws[0]!.settings!['Kp']);
    expect(Math.abs(Kp / 0.05 - Math.round(Kp / 0.05))).toBeLessThan(1e-9);
    // ζ = 1/√(4 Kp) holds 20 % up to Kp = 1.2; the middle of that is easiest to find.
    expect(Kp).toBeGreaterThan(0.4);
    expect(Kp).toBeLessThan(0.9);
    expect(conflicts).toEqual([]);
    expect(map.axes.map(({ name }) => name)).toEqual(['Kp']);
    expect(map.share).toBeCloseTo(1.2 / 10, 1);
  });

  test('counts where every nail holds, and says so of the whole plane', () => {
    const { map } = finish(both);
    const holding = map.held.filter((count) => count === both.nails.length).length;
    expect(map.share).toBe(holding / map.held.length);
    expect(map.held).toHaveLength(map.columns.length * map.rows.length);
    map.rows.forEach((Kd, row) =>
      map.columns.forEach((Kp, column) => {
        if ((row * 7 + column) % 23 !== 0) return;
        const gains = { Kp: String(Kp), Kd: String(Kd) };
        const { met } = checkAnswer(both, plain, { kind: 'gains', gains });
        expect([gains, map.held[row * map.columns.length + column] === 1]).toEqual([gains, met]);
      }),
    );
  });

  test('shows the surroundings where all nails hold only on a speck, and the share of the whole', () => {
    const ladder = (high: number) => [{ ...proportional.controller.gains[0]!, high }];
    const wide = { ...proportional, controller: { ...proportional.controller, gains: ladder(2000) } } as GainsPart;
    const { draws, map } = finish(wide);
    const { low, high } = map.axes[0]!;
    const found = Number(draws[0]!.settings!['Kp']);
    expect([low <= found, found <= high, high < 60]).toEqual([true, true, true]);
    expect(map.held.filter((count) => count === 1).length).toBeGreaterThan(3);
    expect(map.share / (1.2 / 2000)).toBeCloseTo(1, 0.7);
  });

  test('marks unstable gains', () => {
    const third = { ...proportional, plant: '4/(s*(s + 1.3)*(s + 2.4))' };
    const { map } = finish(third);
    // Stable up to Kp = 1.3·2.4·3.7/4.
    map.columns.forEach((Kp, column) => {
      if (Math.abs(Kp - 2.886) > 0.06) expect([Kp, map.held[column]! >= 0]).toEqual([Kp, Kp < 2.886]);
    });
  });

  test('holds for every student by settings of that student', () => {
    const part = { ...both, plant: 'b/(s*(s + 2))', nails: [limit('rise', 'riseTime', 'atMost', 0.25), ...both.nails] };
    const models = ['1', '4', '30'].map((b) => modelOf({ systems: [], series: [] }, { b }));
    const { draws } = finish(part, models);
    draws.forEach(({ settings, best }, k) => {
      if (!settings) return expect(best).toBeLessThan(2);
      expect(checkAnswer(part, models[k]!, { kind: 'gains', gains: settings }).met).toBe(true);
    });
    expect(draws.map(({ settings }) => settings !== null)).toContain(true);
  });

  test.each([
    ['one that never holds', [limit('never', 'riseTime', 'atMost', 0.001)], [['never']]],
    [
      'two that exclude each other',
      [limit('fast', 'riseTime', 'atMost', 0.3), limit('calm', 'overshootPercent', 'atMost', 5)],
      [['fast', 'calm']],
    ],
    [
      'two of three, the third left out of it',
      [
        limit('fast', 'riseTime', 'atMost', 0.3),
        limit('calm', 'overshootPercent', 'atMost', 5),
        limit('rests', 'settlingTime', 'atMost', 20),
      ],
      [['fast', 'calm']],
    ],
  ])('names conflicts: %s', (_, nails, conflicts) => {
    const found = finish({ ...proportional, nails });
    expect(found.draws[0]!.settings).toBeNull();
    expect(found.conflicts).toEqual(conflicts);
    expect(found.draws[0]!.best).toBe(nails.length - 1);
  });

  test('tells where the second-order rule promises what a zero spoils', () => {
    // The derivative term brings a zero, on which the rule knows nothing.
    const zero: GainsPart = {
      ...both,
      plant: '3/(s^2 + 1.2*s + 0.8)',
      controller: {
        terms: 'PD',
        form: 'parallel',
        gains: [
          { name: 'Kp', start: 1, fine: 0.5, coarse: 5, low: 0, high: 60 },
          { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 12 },
        ],
      },
      nails: [limit('rise', 'riseTime', 'atMost', 0.3), limit('over', 'overshootPercent', 'atMost', 10)],
    };
    const { deceiving } = finish(zero);
    if (!deceiving) throw new Error('Nothing was found to deceive.');
    const verdict = checkAnswer(zero, plain, { kind: 'gains', gains: deceiving });
    expect(verdict.met).toBe(false);
    expect(verdict.slip?.id).toBe('onlyByRule');
  });
});

test('a map around an answer keeps its third gain', () => {
  const three: GainsPart = {
    ...both,
    controller: {
      terms: 'PID',
      form: 'parallel',
      gains: [
        { name: 'Kp', start: 1, fine: 0.25, coarse: 2, low: 1, high: 11 },
        { name: 'Ki', start: 0, fine: 0.25, coarse: 2, low: 0, high: 4 },
        { name: 'Kd', start: 0, fine: 0.1, coarse: 1, low: 0, high: 3 },
      ],
    },
  };
  const shares = ['0', '1', '3'].map((Kd) => gainMapAt(three, plain, { Kp: '4', Ki: '1', Kd }).share);
  expect(shares[0]).toBeLessThan(shares[1]!);
  expect(shares[1]).toBeLessThan(shares[2]!);
});

describe('random exercises', () => {
  const random = randomNumbers(14);
  const between = (from: number, to: number) => Number((from + random() * (to - from)).toPrecision(3));
  const quantities = ['overshootPercent', 'riseTime', 'settlingTime', 'phaseMargin'] as const;

  /** A PD or PI exercise around a point of the range, each nail with so much slack. */
  function exerciseAround(slack: () => number): GainsPart {
    for (;;) {
      const plant = `${between(0.5, 5)}/((s+${between(0.3, 2)})*(s+${between(1, 5)}))`;
      const names = random() < 0.5 ? (['Kp', 'Kd'] as const) : (['Kp', 'Ki'] as const);
      const gains = names.map((name) => ({ name, start: 0, fine: 0.05, coarse: 0.5, low: 0, high: between(4, 20) }));
      const part: GainsPart = {
        ...both,
        plant,
        controller: { terms: names[1] === 'Kd' ? 'PD' : 'PI', form: 'parallel', gains },
        nails: quantities.map((quantity) => ({
          id: quantity.toLowerCase(),
          quantity,
          relation: 'atMost',
          limit: 1e6,
          points: 1,
        })),
      };
      // A gain at the end of its range now and then.
      const at = Object.fromEntries(
        gains.map(({ name, high }) => [name, String(random() < 0.2 ? 0 : between(0.05, 0.95) * high)]),
      );
      const verdict = checkAnswer(part, plain, { kind: 'gains', gains: at });
      const nails = verdict.items.flatMap(({ id, measured }, k): GainsPart['nails'] => {
        if (measured === null || Math.abs(measured) < 1e-6) return [];
        const quantity = quantities[k]!;
        const relation = quantity === 'phaseMargin' ? 'atLeast' : 'atMost';
        const limit = Number((measured * (relation === 'atMost' ? 1 + slack() : 1 - slack())).toPrecision(6));
        return [{ id, quantity, relation, limit, points: 1 }];
      });
      if (nails.length >= 2) return { ...part, nails };
    }
  }

  test('that hold on a speck only, one per cent wide, are solved', () => {
    for (let k = 0; k < 6; k++) {
      const part = exerciseAround(() => 0.01);
      const { settings, conflicts } = finish(part).draws[0]!;
      expect([part.plant, settings !== null, conflicts]).toEqual([part.plant, true, []]);
      expect(checkAnswer(part, plain, { kind: 'gains', gains: settings! }).met).toBe(true);
    }
  });

  test('that cannot be solved name a conflict that nothing else holds either', () => {
    let unsolved = 0;
    for (let k = 0; k < 6; k++) {
      const part = exerciseAround(() => -0.3 * random());
      const { settings, conflicts } = finish(part).draws[0]!;
      if (settings) continue;
      unsolved += 1;
      expect(conflicts.length).toBeGreaterThan(0);
      for (let tries = 0; tries < 400; tries++) {
        const gains = Object.fromEntries(
          part.controller.gains.map((gain) => [gain.name, String('high' in gain ? random() * gain.high : 0)]),
        );
        const { items } = checkAnswer(part, plain, { kind: 'gains', gains });
        for (const set of conflicts) {
          expect(set.every((id) => items.find((item) => item.id === id)!.met)).toBe(false);
        }
      }
    }
    expect(unsolved).toBeGreaterThan(1);
  });
});
