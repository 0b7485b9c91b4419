import { examine, studentPart } from '../src/checks';
import { systemFrom } from '../src/formula/evaluate';
import type { ChoicePart, ShownPlot } from '../src/index';
import { shownPlots } from '../src/kinds/choice/plot';
import { exercise } from './documents';

const noNames = { names: new Map() };
type Kind = ShownPlot['kind'];
const plotOf = (kind: Kind, system: string): ShownPlot => shownPlots([{ kind, system }], noNames)[0]!;

describe('plots that options show', () => {
  test('step responses share one time, long enough for the slowest', () => {
    const [fast, none, slow] = shownPlots(
      [{ kind: 'step', system: '1/(0.5 s + 1)' }, undefined, { kind: 'step', system: '2/(s + 1)' }],
      noNames,
    );
    expect(none).toBeUndefined();
    expect(fast!.lines[0]!.x.at(-1)).toBe(6);
    expect(slow!.lines[0]!.x.at(-1)).toBe(6);
    expect(slow!.lines[0]!.y.at(-1)).toBeCloseTo(2 * (1 - Math.exp(-6)), 3);
  });

  test('one that grows is cut off before it hides the others', () => {
    const [calm, wild] = shownPlots(
      [
        { kind: 'step', system: '1/(s + 1)' },
        { kind: 'step', system: '1/(s - 10)' },
      ],
      noNames,
    );
    expect(wild!.lines[0]!.x.at(-1)).toBeLessThanOrEqual(1.8);
    expect(calm!.lines[0]!.x.at(-1)).toBeCloseTo(1.8, 6);
  });

  test('a map of poles has marks and no lines', () => {
    const { lines, marks } = plotOf('poles', '(s + 3)/(s^2 + 2 s + 5)');
    expect(lines).toEqual([]);
    expect(marks).toEqual(
      expect.arrayContaining([
        { what: 'zero', x: -3, y: 0 },
        { what: 'pole', x: -1, y: 2 },
        { what: 'pole', x: -1, y: -2 },
      ]),
    );
  });

  test('every point of a locus fulfils the angle condition', () => {
    const { lines, marks } = plotOf('locus', '1/(s*(s + 2)*(s + 4))');
    expect(lines).toHaveLength(3);
    expect(marks).toHaveLength(3);
    for (const { x, y } of lines) {
      for (const k of [Math.floor(x.length / 3), Math.floor(x.length / 2)]) {
        const angle = [0, 2, 4].reduce((sum, pole) => sum + Math.atan2(y[k]!, x[k]! + pole), 0);
        expect(Math.cos(angle)).toBeCloseTo(-1, 2);
      }
    }
  });

  test('Bode and Nyquist plots are the same response', () => {
    const [bode, nyquist] = [plotOf('bode', '5*exp(-0.1*s)/(s + 1)'), plotOf('nyquist', '5*exp(-0.1*s)/(s + 1)')];
    const [level, phase] = bode.lines;
    const k = level!.x.findIndex((omega) => omega > 1);
    const size = 10 ** (level!.y[k]! / 20);
    expect(size).toBeCloseTo(5 / Math.hypot(1, level!.x[k]!), 2);
    expect(nyquist.lines[0]!.x[k]).toBeCloseTo(size * Math.cos((phase!.y[k]! * Math.PI) / 180), 2);
    expect(nyquist.lines[0]!.y[k]).toBeCloseTo(size * Math.sin((phase!.y[k]! * Math.PI) / 180), 2);
  });
});

describe('a choice between plots', () => {
  const part: ChoicePart = {
    ...{ id: 'which', kind: 'choice', title: 'Which', prompt: '', points: 1, several: false },
    options: [
      { id: 'a', text: 'A', right: true, plot: { kind: 'step', system: '1/(s + 1)' } },
      { id: 'b', text: 'B', right: false, plot: { kind: 'step', system: '1/(s + 2)' } },
    ],
  };

  test('shows the student the plots, not the systems', () => {
    const shown = studentPart(exercise, part, {}, noNames);
    expect(JSON.stringify(shown)).not.toContain('s + 1');
    expect(shown.kind === 'choice' && shown.options.map(({ plot }) => plot?.kind)).toEqual(['step', 'step']);
  });

  test('is not published with a plot that cannot be drawn', () => {
    const options = [part.options[0]!, { ...part.options[1]!, plot: { kind: 'step' as const, system: '1/(s + q)' } }];
    const [finding] = examine({ ...exercise, parts: [{ ...part, options }] });
    expect(finding).toMatchObject({ path: 'parts/0/options/1' });
    expect(() => systemFrom('1/(s + q)', noNames)).toThrow('q');
  });
});
