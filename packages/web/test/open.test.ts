import {
  type Curve,
  factsOf,
  matchedDesign,
  must,
  orProblem,
  Problem,
  readLines,
  type Sheet,
  sheetLimits,
  unitDrive,
} from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { conversions, converted } from '../src/open/sheet/convert';
import { drawnOf } from '../src/open/sheet/drawn';
import { examples } from '../src/open/sheet/examples';
import { exerciseOf, partOffers } from '../src/open/sheet/exercise';
import { levelsOf, readingOf, spanOf } from '../src/open/sheet/frequencies';
import { dataFrom, fitted } from '../src/open/sheet/measured';
import { nailItems, nailLimits } from '../src/open/sheet/nails';
import { freshId } from '../src/open/sheet/names';
import { responseOf, togetherOf } from '../src/open/sheet/responses';
import { hasRoom, isAboutSystem, linesOf, starts } from '../src/open/sheet/starts';

const around = { data: [], initial: [], numbers: new Map<string, number>() };
const problemsOf = (sheet: Pick<Sheet, 'lines'>) =>
  readLines(sheet.lines).flatMap((read) => (read.kind === 'problem' ? [read.problem.message] : []));

describe('what the open bench begins with', () => {
  test.each(examples.map((sheet) => [sheet.title, sheet] as const))('%s can be read and drawn', (_, sheet) => {
    expect(problemsOf(sheet)).toEqual([]);
    const drawn = drawnOf(sheet, readLines(sheet.lines));
    expect(drawn.length).toBeGreaterThan(1);
    for (const each of drawn) expect(levelsOf(each, spanOf(drawn))).not.toBeNull();
  });

  test.each(examples.map((sheet) => [sheet.title, sheet] as const))(
    '%s makes an exercise that can be published',
    (_, sheet) => {
      const read = readLines(sheet.lines);
      const last = must(drawnOf(sheet, read).at(-1));
      const document = exerciseOf(sheet, read, must(sheet.lines[last.line]).name);
      expect(examine(document).map(({ message }) => message)).toEqual([]);
    },
  );
});

describe('an exercise of a sheet', () => {
  test('asks about the chosen system itself, not about a loop round it', () => {
    const sheet = must(examples[1]);
    const { parts } = exerciseOf(sheet, readLines(sheet.lines), 'F1');
    expect(parts).toMatchObject([{ formula: 'overshootPercent(F1)', unit: '%' }]);
  });

  test.each([
    ['coefficients', '[4]/[1, 1.2, 4]'],
    ['no overshoot', '3/(s + 1)'],
    ['nothing that settles', '1/(s*(s + 1))'],
    ['a final value of zero', 's/(s + 1)^2'],
  ])('with %s can be published', (_, text) => {
    const sheet = { ...must(examples[0]), lines: [{ name: 'G', text, drawn: true, panes: 'all' as const }] };
    const document = exerciseOf(sheet, readLines(sheet.lines), 'G');
    expect(examine(document).map(({ message }) => message)).toEqual([]);
  });
});

describe('parts that are made of a sheet', () => {
  const designed = [
    ...[
      ['G', '4/(s*(s + 2))'],
      ['Kp', '3'],
      ['Kd', '0.6'],
      ['C', 'Kp + Kd*s'],
      ['L', 'C*G'],
      ['T', 'closed(L)'],
      ['U', 'C/(1 + L)'],
    ],
  ].map(([name, text]) => ({ name: must(name), text: must(text), drawn: true, panes: 'all' as const }));
  const offersOf = (sheet: Sheet, chosen: string) => partOffers(sheet, readLines(sheet.lines), chosen);
  const withLines = (lines: Sheet['lines'], more: Partial<Sheet> = {}): Sheet => ({
    ...must(examples[0]),
    lines,
    ...more,
  });

  test.each([withLines(designed), ...examples].map((sheet) => [sheet.title, sheet] as const))(
    'each alone can be published: %s',
    (_, sheet) => {
      const chosen = must(sheet.lines.at(-1)).name;
      const offers = offersOf(sheet, chosen);
      expect(offers.length).toBeGreaterThan(1);
      for (const offer of offers) {
        const document = exerciseOf(sheet, readLines(sheet.lines), chosen, [offer]);
        expect([offer.words, examine(document).map(({ message }) => message)]).toEqual([offer.words, []]);
      }
    },
  );

  test('a design becomes gains to be set from the present ones, and nothing on the sheet gives them away', () => {
    const sheet = withLines(designed);
    const offer = must(offersOf(sheet, 'T').find(({ words }) => words.includes('gains')));
    expect(offer.part).toMatchObject({ plant: 'G', controller: { terms: 'PD' } });
    const { systems, parameters } = exerciseOf(sheet, readLines(sheet.lines), 'T', [offer]);
    expect([...systems, ...parameters.map(({ symbol }) => ({ name: symbol }))].map(({ name }) => name)).toEqual(['G']);
  });

  test('its nails are those of the sheet, or else what the loop does now with a margin', () => {
    const nailsOf = (sheet: Sheet) => {
      const found = offersOf(sheet, 'T').find(({ words }) => words.includes('gains'))?.part;
      return found?.kind === 'gains' ? found.nails : [];
    };
    const nails = [{ quantity: 'riseTime', relation: 'atMost', limit: 0.8 }] as const;
    expect(nailsOf(withLines(designed, { nails }))).toMatchObject(nails);
    const now = must(
      factsOf(must(drawnOf(withLines(designed), readLines(designed)).find(({ label }) => label === 'T')).transfer)
        .measures,
    );
    const [overshoot] = nailsOf(withLines(designed));
    expect(overshoot).toMatchObject({ quantity: 'overshootPercent' });
    const limit = overshoot && 'limit' in overshoot ? overshoot.limit : NaN;
    expect(limit).toBeGreaterThan(must(now.overshootPercent));
    expect(limit).toBeLessThan(1.3 * must(now.overshootPercent));
  });

  test('which plot is whose has one right option, and not always in one place', () => {
    const places = [
      ['1/(s + 1)', '2/(s^2 + s + 2)'],
      ['2/(s^2 + s + 2)', '1/(s + 1)'],
    ].map(([a, b]) => {
      const lines = [a, b].map((text, k) => ({ name: `P${k}`, text: must(text), drawn: true, panes: 'all' as const }));
      const found = offersOf(withLines(lines), 'P0').find(({ words }) => words.includes('which step'))?.part;
      return found?.kind === 'choice' ? found.options.map(({ right }) => right) : [];
    });
    expect(places).toEqual([
      [true, false],
      [false, true],
    ]);
  });
});

describe('lines that are added at once', () => {
  test.each(starts.map((start) => [start.words, start] as const))('%s', (_, start) => {
    const before = isAboutSystem(start) ? [{ name: 'P', text: '2/(s + 1)', drawn: true, panes: 'all' as const }] : [];
    const once = [...before, ...linesOf(start, ['P'], 'P')];
    expect(problemsOf({ lines: once })).toEqual([]);
    // Again, beside the first: every name is free and still means its own.
    const twice = [
      ...once,
      ...linesOf(
        start,
        once.map(({ name }) => name),
        'P',
      ),
    ];
    expect(problemsOf({ lines: twice })).toEqual([]);
    const [first, second] = [once, twice].map((lines) => must(readLines(lines).at(-1)));
    const polesOf = (read: typeof first) =>
      read?.kind === 'system' ? factsOf(must(read.members[0]).transfer).system?.poles : undefined;
    expect(polesOf(second)).toEqual(polesOf(first));
  });

  test('are offered while there is room', () => {
    expect(starts.filter((start) => hasRoom(start, 18)).every(({ lines }) => lines.length <= 2)).toBe(true);
  });
});

describe('what is drawn', () => {
  const drawn = (...texts: [string, string][]) => {
    const sheet = {
      ...must(examples[0]),
      lines: texts.map(([name, text]) => ({ name, text, drawn: true, panes: 'all' as const })),
    };
    return drawnOf(sheet, readLines(sheet.lines));
  };

  test('each line has a stroke of its own, the same in every pane and on every reading', () => {
    const strokes = drawn(['A', '1/(s + 1)'], ['B', '1/(s + 2)'], ['C', '1/(s + 3)']).map(({ stroke }) => stroke);
    expect(new Set(strokes.map(({ className, dash }) => `${className} ${dash}`)).size).toBe(3);
    expect(drawn(['A', '5/(s + 1)'], ['B', '1/(s + 2)'])[1]?.stroke).toBe(strokes[1]);
  });

  test('systems at several values share their colour and differ in their dash', () => {
    const members = drawn(['K', '1; 2; 3'], ['G', 'K/(s + 1)']);
    expect(members.map(({ label }) => label)).toEqual(['G, K = 1', 'G, K = 2', 'G, K = 3']);
    expect(new Set(members.map(({ stroke }) => stroke.className)).size).toBe(1);
    expect(new Set(members.map(({ stroke }) => stroke.dash)).size).toBe(3);
  });

  test('signals of one drawing have a colour each, and no other line has it', () => {
    const lines = [
      { name: 'T', text: 'e = r - y; y = 3*e', drawn: true, panes: 'all' as const, probes: ['e', 'y'] },
      { name: 'G', text: '1/(s + 1)', drawn: true, panes: 'all' as const },
    ];
    const all = drawnOf({ ...must(examples[0]), lines }, readLines(lines));
    expect(all.map(({ label }) => label)).toEqual(['T, e', 'T, y', 'G']);
    expect(new Set(all.map(({ stroke }) => stroke.className)).size).toBe(3);
  });

  test.each([1e-9, 1, 1e9])('responses keep their shape at a scale of %s', (scale) => {
    const [G] = drawn(['G', `1/(s/${scale} + 1)`]);
    const curve = responseOf(must(G), unitDrive, around, 5 / scale);
    expect(curve).not.toBeInstanceOf(Problem);
    expect(curve instanceof Problem ? NaN : curve.values.at(-1)).toBeCloseTo(1 - Math.exp(-5), 3);
  });

  test('a system without a response to a step says why', () => {
    const [G] = drawn(['G', 's']);
    expect(responseOf(must(G), unitDrive, around, 1)).toBeInstanceOf(Problem);
  });

  test('inputs together give the sum of what each gives', () => {
    const line = { name: 'D', text: 'w = (u - M)/(s + 1)', drawn: true, panes: 'all' as const, from: '' };
    const [D] = drawnOf({ ...must(examples[0]), lines: [line] }, readLines([line]));
    const drives = [unitDrive, { kind: 'ramp', size: 1, at: 2 }] as const;
    const { sum, alone } = togetherOf(must(D), drives, around, 6);
    expect(alone.map(({ input }) => input)).toEqual(['u', 'M']);
    const last = (curve: Curve | Problem) => (curve instanceof Problem ? NaN : curve.values.at(-1)!);
    expect(last(sum)).toBeCloseTo(
      alone.reduce((total, { curve }) => total + last(curve), 0),
      9,
    );
    expect(last(sum)).toBeCloseTo(1 - Math.exp(-6) - (4 - 1 + Math.exp(-4)), 4);
  });
});

describe('a line is written otherwise', () => {
  const systemOf = (text: string) => {
    const lines = [{ name: 'G', text, drawn: true, panes: 'all' as const }];
    return must(drawnOf({ ...must(examples[0]), lines }, readLines(lines))[0]);
  };
  const before = [{ name: 'K', text: '2', drawn: true, panes: 'all' as const }];
  const systems = ['6*(s + 2)/(s*(s^2 + 2*s + 10))', '5*exp(-0.3*s)/(2*s + 1)', '8/(s^2 + 1.2*s + 4)', '3/(s + 1)^2'];
  const every = systems.flatMap((text) => Object.keys(conversions).map((form) => [text, form] as const));
  test.each(every)('%s as %s is the same system, or says why it has no such form', (text, form) => {
    const first = systemOf(text);
    const { facts } = first;
    const written = orProblem(() => must(conversions[form])(facts));
    if (written instanceof Problem) {
      expect(written.message).toMatch(/this has|dead time/i);
      return;
    }
    const lines = converted([...before, { name: 'G', text, drawn: true, panes: 'all' }], 1, written);
    expect(problemsOf({ lines })).toEqual([]);
    const again = must(drawnOf({ ...must(examples[0]), lines }, readLines(lines)).find(({ label }) => label === 'G'));
    for (const omega of [0.1, 0.7, 2, 3.1, 10]) {
      const [was, is] = [must(readingOf(first).at(omega)), must(readingOf(again).at(omega))];
      expect(is.db).toBeCloseTo(was.db, 6);
      expect(is.degrees).toBeCloseTo(was.degrees, 6);
    }
    expect(again.facts.deadTime).toBeCloseTo(facts.deadTime, 9);
    expect(new Set(lines.map(({ name }) => name)).size).toBe(lines.length);
  });

  test('the forms of a second-order system and of one lag are found where they are', () => {
    const formsOf = (text: string) =>
      Object.keys(conversions).filter(
        (form) => !(orProblem(() => must(conversions[form])(systemOf(text).facts)) instanceof Problem),
      );
    expect(formsOf('8/(s^2 + 1.2*s + 4)')).toContain('K, ζ, ωn');
    expect(formsOf('5*exp(-0.3*s)/(2*s + 1)')).toEqual(expect.arrayContaining(['K and τ']));
    expect(formsOf('5*exp(-0.3*s)/(2*s + 1)')).not.toContain('state matrices');
    expect(formsOf('(s + 1)/(s^2 + 1.2*s + 4)')).not.toContain('K, ζ, ωn');
  });
});

describe('a frequency response', () => {
  const drawnAs = (text: string) => {
    const lines = [{ name: 'G', text, drawn: true, panes: 'all' as const }];
    return must(drawnOf({ ...must(examples[0]), lines }, readLines(lines))[0]);
  };

  test.each([0.0005, 0.01, 0.1])('with ζ = %p is drawn up to its peak, however wide the span', (zeta) => {
    const each = drawnAs(`25/(s^2 + ${10 * zeta}*s + 25)`);
    const peak = 20 * Math.log10(1 / (2 * zeta * Math.sqrt(1 - zeta ** 2)));
    for (const span of [
      [1e-3, 1e4],
      [0.1, 100],
      [4.9, 5.2],
    ] as const) {
      const { omegas, magnitudesDb } = must(levelsOf(each, span));
      expect(Math.max(...Array.from(magnitudesDb))).toBeGreaterThan(peak - 0.1);
      expect([omegas[0], omegas[omegas.length - 1]].map((omega) => Number(omega?.toPrecision(12)))).toEqual(span);
    }
  });

  test('is read exactly, not between the points of its curve', () => {
    const read = readingOf(drawnAs('25*exp(-0.2*s)/(s^2 + 0.05*s + 25)')).at(5);
    expect(read?.db).toBeCloseTo(20 * Math.log10(100), 9);
    expect(read?.degrees).toBeCloseTo(-90 - 180 / Math.PI, 9);
  });
});

describe('nails on a sheet', () => {
  const lines = [{ name: 'G', text: '9/(s^2 + 1.8*s + 9)', drawn: true, panes: 'all' as const }];
  const sheet: Sheet = {
    ...must(examples[0]),
    lines,
    nails: [
      { quantity: 'overshootPercent', relation: 'atMost', limit: 40 },
      { quantity: 'settlingTime', relation: 'atMost', limit: 2 },
    ],
  };
  const G = must(drawnOf(sheet, readLines(lines))[0]);
  test('hold or not as in an exercise, and stand on the plot of a step from rest', () => {
    expect(nailItems(G, sheet.nails).map(({ met }) => met)).toEqual([true, false]);
    expect(nailLimits(sheet, G, 10).map(({ words }) => words)).toEqual(['overshoot ≤ 40 %', 'within 2 % from 2 s']);
    expect(nailLimits({ ...sheet, unit: 'min' }, G, 10)[1]?.words).toBe('within 2 % from 2 min');
  });

  test.each<[string, Partial<Sheet>]>([
    ['a ramp', { drives: [{ kind: 'ramp', size: 1, at: 0 }] }],
    ['a later step', { drives: [{ kind: 'step', from: 0, to: 1, at: 2 }] }],
    ['a step from another level', { drives: [{ kind: 'step', from: 1, to: 2, at: 0 }] }],
    ['two inputs', { drives: [unitDrive, unitDrive] }],
  ])('do not stand on the plot of %s, which they do not speak of', (_, more) => {
    expect(nailLimits({ ...sheet, ...more }, G, 10)).toEqual([]);
  });
});

test('a design says times in the unit of its sheet', () => {
  const [plant] = readLines([{ name: 'G', text: '1/(s*(s + 1))', drawn: true, panes: 'all' }]);
  const { transfer } = must(plant?.kind === 'system' ? plant.members[0] : undefined);
  const wanted = { overshootPercent: 10, time: 3, which: 'settlingTime' } as const;
  expect(matchedDesign(transfer, 'PD', wanted).outcome[0]).toMatch(/settling time [\d.]+ s, wanted 3 s\./);
  const { outcome, steps } = matchedDesign(transfer, 'PD', { ...wanted, unit: 'min' });
  expect(outcome[0]).toMatch(/settling time [\d.]+ min, wanted 3 min\./);
  expect(steps.map(({ latex }) => latex).join()).toContain('rad/min');
});

describe('measured tables', () => {
  test('are over time or over frequency as their heading says, and a model is fitted', () => {
    const rows = Array.from({ length: 40 }, (_, k) =>
      `${0.25 * k};${2 * (1 - Math.exp(-0.25 * k))}`.replaceAll('.', ','),
    );
    const overTime = dataFrom('crane tip.csv', `time;height\n${rows.join('\n')}`, 1000);
    expect(overTime.name).toBe('crane tip');
    const { text, words } = fitted(overTime, 'firstOrder', 1);
    const [read] = readLines([{ name: 'M', text, drawn: true, panes: 'all' }]);
    const model = read?.kind === 'system' ? must(factsOf(must(read.members[0]).transfer).system) : undefined;
    expect(model?.dcGain).toBeCloseTo(2, 3);
    expect(model?.poles[0]?.re).toBeCloseTo(-1, 2);
    expect(words).toMatch(/misfit/);
    const bode = Array.from({ length: 12 }, (_, k) => `${0.1 * 2 ** k},${-3 * k},${-8 * k}`);
    expect(dataFrom('a.csv', `frequency in rad/s,dB,degrees\n${bode.join('\n')}`, 1000)).toHaveProperty(
      'omegas.length',
      12,
    );
  });

  test('are thinned to what a sheet holds', () => {
    const rows = Array.from({ length: 1900 }, (_, k) => `${k},${k}`);
    const data = dataFrom('long.csv', `t,y\n${rows.join('\n')}`, sheetLimits.rows);
    expect('times' in data && data.times.length).toBeLessThanOrEqual(sheetLimits.rows);
  });
});

test('names of sheets are random names that the server takes', () => {
  const names = Array.from({ length: 50 }, freshId);
  expect(new Set(names).size).toBe(50);
  for (const name of names)
    expect(name).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
});
