import { factsOf, must, readLines, type Sheet } from '@nailset/core';
import { examine } from '@nailset/core/checks';
import { drawnOf } from '../src/open/drawn';
import { examples } from '../src/open/examples';
import { exerciseOf } from '../src/open/exercise';
import { levelsOf, spanOf } from '../src/open/frequencies';
import { responseOf } from '../src/open/ResponsePane';
import { hasRoom, isAboutSystem, linesOf, starts } from '../src/open/starts';

const problemsOf = (sheet: Pick<Sheet, 'lines'>) =>
  readLines(sheet.lines).flatMap((read) => (read.kind === 'problem' ? [read.problem.message] : []));

describe('what the open bench begins with', () => {
  test.each(examples.map((sheet) => [sheet.title, sheet] as const))('%s can be read and drawn', (_, sheet) => {
    expect(problemsOf(sheet)).toEqual([]);
    const drawn = drawnOf(sheet, readLines(sheet.lines));
    expect(drawn.length).toBeGreaterThan(1);
    for (const { transfer } of drawn) expect(levelsOf(transfer, spanOf(drawn))).not.toBeNull();
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
    const many = Array.from({ length: 18 }, (_, k) => ({
      name: `G${k}`,
      text: '1',
      drawn: true,
      panes: 'all' as const,
    }));
    expect(starts.filter((start) => hasRoom(start, many)).every(({ lines }) => lines.length <= 2)).toBe(true);
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

  test.each([1e-9, 1, 1e9])('responses keep their shape at a scale of %s', (scale) => {
    const [G] = drawn(['G', `1/(s/${scale} + 1)`]);
    const curve = must(responseOf(must(G).transfer, { input: 'step', size: 1, at: 0 }, 5 / scale));
    expect(curve.values.at(-1)).toBeCloseTo(1 - Math.exp(-5), 3);
  });

  test('a system without a response to a step has none, and its impulse is not asked for', () => {
    const [G] = drawn(['G', 's']);
    expect(responseOf(must(G).transfer, { input: 'impulse', size: 1, at: 0 }, 1)).toBeNull();
  });
});
