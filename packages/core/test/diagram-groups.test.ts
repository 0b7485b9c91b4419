import { readBlocks, textOfBlocks } from '../src/diagram/blocks';
import { exactQuestion, exactTransfer, readWith } from '../src/diagram/exact';
import { type DiagramGroup, equationOf, nodesOf, withGroups } from '../src/diagram/groups';

/** A drive: the motor gives a torque, the load a speed that acts back on it. */
const equations = 'e = r - w; i = (C*e - k*w)/(L*s + R); m = k*i; w = (m - M)/(J*s + b); p = w/s';
const drive = readBlocks(equations, ['r', 'M']);
const group = (name: string, signals: readonly string[], closed = false): DiagramGroup => ({ name, signals, closed });

describe('groups of equations', () => {
  test('hold all parts that their equations are drawn with', () => {
    const ids = nodesOf(drive, ['i', 'm']);
    // The motor: two factors, the sum of them, the coil, and the factor of its torque.
    expect(ids.filter((id) => id.startsWith('#'))).toHaveLength(3);
    expect(ids).toEqual(expect.arrayContaining(['i', 'm']));
    expect(ids.map((id) => equationOf(drive, id)).every((signal) => ['i', 'm'].includes(signal))).toBe(true);
    expect(nodesOf(drive, ['r', 'gone'])).toEqual([]);
  });

  test('every part belongs to one equation', () => {
    const all = ['e', 'i', 'm', 'w', 'p'].flatMap((signal) => nodesOf(drive, [signal]));
    expect([...all].sort()).toEqual(drive.nodes.map(({ id }) => id).sort());
  });

  test('that are open leave the diagram as it is', () => {
    const { diagram, open, troubles } = withGroups(drive, [group('motor', ['i', 'm']), group('none', ['gone'])]);
    expect(diagram).toBe(drive);
    expect(open.map(({ name }) => name)).toEqual(['motor']);
    expect(troubles).toEqual([]);
  });

  test('that are closed are one block, which does the same', () => {
    const loop = readBlocks('e = r - y; u = C*e; v = G*(u - H*v); y = v/s');
    const closed = withGroups(loop, [group('inner', ['v'], true), group('front', ['e', 'u'])]);
    expect(closed.diagram.nodes.find(({ id }) => id === 'v')).toMatchObject({ kind: 'block', gain: 'inner', of: 'u' });
    expect(closed.open).toEqual([{ name: 'front', ids: ['e', 'u'] }]);
    const values = { C: '2', G: '3/(s + 1)', H: '4' };
    const ends = { from: 'r', to: 'y' };
    const transferOf = (text: string) => {
      const { numerator, denominator } = exactTransfer(exactQuestion(readWith(text, values)), ends);
      return [numerator.terms, denominator.terms];
    };
    const text = textOfBlocks(closed.diagram);
    expect(text).toContain('where inner');
    expect(transferOf(text)).toEqual(transferOf('e = r - y; u = C*e; v = G*(u - H*v); y = v/s'));
  });

  test('that are closed one in the other’s neighbourhood are both blocks', () => {
    const chain = readBlocks('a = F*r; b = G*a; c = H*b; y = K*c');
    const { diagram } = withGroups(chain, [group('first', ['a', 'b'], true), group('second', ['c', 'y'], true)]);
    expect(diagram.nodes.map((node) => (node.kind === 'block' ? node.gain : ''))).toEqual(['first', 'second']);
  });

  test.each([
    ['two signals leave it', [group('motor', ['e', 'w'], true)], /motor: .*one signal coming in and one going out/],
    ['its name is a factor', [group('L', ['m'], true)], /L: L is there already/],
    ['its parts are gone', [group('motor', ['gone'], true)], /here 0 and 0/],
  ])('one that cannot be closed as %s stays open and says so', (_, groups, words) => {
    const { diagram, open, troubles } = withGroups(drive, groups);
    expect(diagram).toBe(drive);
    expect(open).toHaveLength(groups[0]!.signals.includes('gone') ? 0 : 1);
    expect(troubles.map(({ message }) => message).join()).toMatch(words);
  });
});
