import { readBlocks } from '../src/diagram/blocks';
import { type DiagramGroup, equationOf, groupsIn, nodesOf } from '../src/diagram/groups';

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

  test('are drawn open or closed, where they have parts in the diagram', () => {
    const { open, closed } = groupsIn(drive, [
      group('motor', ['i', 'm']),
      group('load', ['w'], true),
      group('none', ['gone']),
    ]);
    expect(open).toEqual([{ name: 'motor', ids: nodesOf(drive, ['i', 'm']) }]);
    expect(closed).toEqual([{ name: 'load', ids: nodesOf(drive, ['w']) }]);
  });

  test('an equation that two groups name is in the first', () => {
    const { open, closed } = groupsIn(drive, [group('first', ['w', 'p'], true), group('second', ['p', 'm'])]);
    expect(closed.flatMap(({ ids }) => ids)).toContain('p');
    expect(open).toEqual([{ name: 'second', ids: nodesOf(drive, ['m']) }]);
  });
});
