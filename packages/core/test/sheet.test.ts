import { Problem } from '../src/expression/problem';
import { systemFrom } from '../src/formula/evaluate';
import { withCoefficients } from '../src/sheet/coefficients';
import { type Facts, factsOf, timeFor, writtenForms } from '../src/sheet/facts';
import { linesReader, type Member, type ReadLine, readLines } from '../src/sheet/read';
import { emptySheet, sheetFrom } from '../src/sheet/sheet';

const lines = (...texts: string[]) =>
  texts.map((each) => {
    const [name, ...text] = each.split('=');
    return { name: name!.trim(), text: text.join('=').trim(), drawn: true, panes: 'all' as const };
  });
const readLast = (...texts: string[]): ReadLine => readLines(lines(...texts)).at(-1)!;
const membersOf = (read: ReadLine): readonly Member[] => (read.kind === 'system' ? read.members : []);
const said = (read: ReadLine): string => (read.kind === 'problem' ? read.problem.message : read.kind);
const of = (text: string): Facts => factsOf(systemFrom(text, { names: new Map() }));
const poles = ({ transfer }: Member) => factsOf(transfer).system!.poles.map(({ re }) => re);

describe('lines of a sheet', () => {
  test('use what stands above them', () => {
    const last = readLast('K = 3', 'G = 2/(s + 1)', 'L = K*G', 'T = closed(L)');
    expect(membersOf(last).map(poles)).toEqual([[-7]]);
  });

  test('several values give a system each, also where they are used in what is used', () => {
    const last = readLast('K = 1; 0; -3', 'G = 1/(s + 2)', 'L = K*G', 'T = closed(L, 1)');
    expect(membersOf(last).map(({ words }) => words)).toEqual(['K = 1', 'K = 0', 'K = −3']);
    expect(membersOf(last).map(poles)).toEqual([[-3], [], [1]]);
  });

  test('a line without the name with several values is drawn once', () => {
    expect(membersOf(readLast('K = 1; 2', 'G = 1/(s + 2)'))).toHaveLength(1);
  });

  test.each([
    ['two names with several values', ['a = 1; 2', 'b = 3; 4', 'G = a/(s + b)'], /not a and b/],
    ['a name that comes later', ['G = K/(s + 1)', 'K = 2'], undefined],
    ['a name twice', ['G = 1/s', 'G = 2/s'], /above/],
    ['a name with a meaning', ['s = 2'], /meaning of its own/],
    ['a function’s name', ['closed = 2'], /meaning of its own/],
    ['a name that is none', ['2G = 1/s'], /letter/],
    ['systems as values', ['K = 1/s; 2'], /numbers/],
    ['too many values', ['K = 1;2;3;4;5;6;7;8;9'], /8 values/],
  ])('%s is refused in words', (_, texts, words) => {
    const read = readLines(lines(...texts));
    const bad = read.filter(({ kind }) => kind === 'problem');
    expect(bad).toHaveLength(1);
    if (words) expect(said(bad[0]!)).toMatch(words);
  });

  test('a line that cannot be read leaves the others alone, and what uses it says so', () => {
    const read = readLines(lines('G = 1/(s+', 'H = 2/(s + 1)', 'L = G*H'));
    expect(read.map(({ kind }) => kind)).toEqual(['problem', 'system', 'problem']);
    expect(said(read[2]!)).toContain('G');
  });

  const stages: readonly (readonly string[])[] = [
    ['K = 2', 'G = 4/(s + 1)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['K = 3', 'G = 4/(s + 1)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['K = 3; 4', 'G = 4/(s + 1)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['K = ', 'G = 4/(s + 1)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['K = 1/(', 'G = 4/(s + K)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['K = 5', 'G = 4/(s + K)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['C = 5', 'G = 4/(s + K)', 'L = K*G', 'T = closed(L)', 'H = 1/(s + 9)'],
    ['G = 5', 'G = 7/(s + 1)', 'L = 2*G', 'T = closed(L)'],
    ['G = ', 'G = 7/(s + 1)', 'L = 2*G', 'T = closed(L)'],
    ['G = 5', "G2 = m*x'' + b*x = F", 'm = 2'],
    ['m = 4', "G2 = m*x'' + b*x = F", 'b = 2'],
    ['m = 4', 'b = ', "P = m*x'' + b*x = F", 'Q = P'],
    ['m = 4', 'b = 3', "P = m*x'' + b*x = F", 'Q = P'],
    ['m = 4', 'b = 3', "P = 2*x'' + b*x = F", 'Q = 5*P', 'R = Q*b'],
    ['m = 1', 'b = 3', "P = 2*x'' + b*x = F", 'Q = 5*P', 'R = Q*b'],
    ['2( = 1', 'b = 3', "P = 2*x'' + b*x = F", 'Q = 5*P', 'R = Q*b'],
  ];
  const shownOf = (read: readonly ReadLine[]) =>
    read.map((line) => (line.kind === 'system' ? line.members.map(({ words, transfer }) => [words, transfer]) : line));

  test('read one after another, and backwards, are as each read alone', () => {
    const read = linesReader();
    for (const texts of [...stages, ...stages.toReversed()]) {
      const now = lines(...texts);
      expect(shownOf(read(now))).toEqual(shownOf(readLines(now)));
    }
  });

  test('what neither changed nor uses what did is what was read before', () => {
    const read = linesReader();
    const [first, second] = [0, 1].map((stage) => read(lines(...stages[stage]!)));
    const isKept = first!.map((line, k) => line === second![k]);
    expect(isKept).toEqual([false, true, false, false, true]);
  });

  test.each([
    ...['[4]/[1, 1.2, 4]', '[4]/[1 1.2 4]', '[0, 4]/[1, 1.2, 2+2]', 'k/[1, 1.2, k]', 'k/[1 1.2 k]', '[k]/[1 1.2 k]'],
    ...[
      '4/[1; 1,2; 4]',
      '4/[1\n1.2\n4]',
      '4\n1 1.2 4',
      '[4]\n[1, 1.2, 4]',
      'k\n1 1.2 k',
      '0, 4\n1, 1.2, k',
      '4/[1 1.2 (k - 0)]',
    ],
    ...['4/[1 +1.2 4]', '-4\n-1 −1.2 -k', '4/[1 6/5 2*2]'],
  ])('coefficients are highest power first: %s', (text) => {
    const [member] = membersOf(readLast('k = 4', `G = ${text}`));
    expect(factsOf(member!.transfer).system).toEqual(of('4/(s^2 + 1.2*s + 4)').system);
  });

  test.each([
    ['[1, -1.2, 4]', '(s^2-1.2*s+4)'],
    ['[k 1 0]/[-1 2]', '((k)*s^2+s+0)/(-s+2)'],
    ['3\n1 −1', '[3]/(s-1)'],
  ])('%j is written %s', (text, written) => expect(withCoefficients(text)).toBe(written));

  test('brackets that hold no list stay brackets, and a list with a gap says so', () => {
    expect(membersOf(readLast('G = 1/[s + 2]')).map(poles)).toEqual([[-2]]);
    expect(membersOf(readLast('G = 1/[(s + 2)*(s + 3)]')).map(poles)).toEqual([[-3, -2]]);
    expect(membersOf(readLast('G = 1/[(s + 2) (s + 3)]')).map(poles)).toEqual([[-3, -2]]);
    expect(said(readLast('G = 1/[1 - 1.2 4]'))).toContain('Two numbers stand side by side');
    expect(readLast('k = 1; 2; 3')).toEqual({ kind: 'numbers', values: [1, 2, 3] });
    expect(said(readLast('G = 1/[1,,2]'))).toContain('missing in [1,,2]');
  });

  test('numbers are worked out from systems', () => {
    const read = readLast('G = 9/(s^2 + 6*s + 9)', 'k = gainAtRest(G) + 1');
    expect(read).toEqual({ kind: 'numbers', values: [2] });
  });
});

describe('facts', () => {
  test('order, type and relative degree count what is left after cancelling', () => {
    const facts = of('(s + 1)*(s + 3)/(s^2*(s + 1)*(s + 4)^2)');
    expect([facts.order, facts.type, facts.relativeDegree]).toEqual([4, 2, 3]);
    expect(facts.hidden.map(({ re }) => re)).toEqual([-1]);
  });

  test('a mode that cancels in the right half-plane is not stable', () => {
    expect(of('(s - 1)/((s - 1)*(s + 2))').stable).toBe(false);
    expect(of('(s + 1)/((s + 1)*(s + 2))').stable).toBe(true);
  });

  test('dead time inside of sums leaves stability, and no poles', () => {
    const facts = of('1/(s + 1 + exp(-s))');
    expect(facts.system).toBeNull();
    expect(facts.stable).toBe(true);
  });

  test('the time is enough for the slowest to settle, and short enough to see it', () => {
    const slow = of('1/(5*s + 1)');
    expect(timeFor([slow, of('1/(s + 1)')])).toBeGreaterThan(slow.measures!.settlingTime!);
    expect(timeFor([slow])).toBeLessThan(3 * slow.measures!.settlingTime!);
    expect(timeFor([of('1/s')])).toBeGreaterThan(0);
    expect(timeFor([of('1e9/(s + 1e9)')])).toBeLessThan(1e-7);
  });

  test('it is written in four ways', () => {
    const system = of('9/((s^2 + 1.2*s + 9)*(s + 1))').system!;
    expect(writtenForms.expanded(system)).toContain('s^{3}');
    expect(writtenForms.factored(system)).toContain('\\left(s+1\\right)');
    expect(writtenForms['time constants'](system)).toContain('\\left(1+s\\right)');
    expect(writtenForms['gain, zeros, poles'](system)).toContain('{9}');
  });
});

describe('a sheet from a file or a link', () => {
  const good = { ...emptySheet, title: 'Winch', lines: lines('G = 1/s') };

  test('comes back as it was', () => {
    expect(sheetFrom(JSON.parse(JSON.stringify(good)))).toEqual(good);
  });

  test.each([
    ['nothing', undefined],
    ['another format', { ...good, format: 2 }],
    ['no lines', { ...good, lines: [] }],
    ['too many lines', { ...good, lines: Array.from({ length: 21 }, () => good.lines[0]) }],
    ['a line without text', { ...good, lines: [{ name: 'G' }] }],
    ['a long text', { ...good, lines: [{ name: 'G', text: '1'.repeat(2001) }] }],
    ['an unknown input', { ...good, drives: [{ kind: 'noise' }] }],
    ['a time that is none', { ...good, time: -1 }],
    ['a size that is none', { ...good, drives: [{ kind: 'ramp', size: '1' }] }],
    ['a beginning before zero', { ...good, drives: [{ kind: 'ramp', at: -2 }] }],
    ['a title that is none', { ...good, title: 3 }],
  ])('%s is refused', (_, value) => {
    expect(() => sheetFrom(value)).toThrow(Problem);
  });

  test('what it does not know is left out', () => {
    expect(sheetFrom({ ...good, panes: ['bode', 'film'], more: 1 })).toEqual({ ...good, panes: ['bode'] });
  });
});
