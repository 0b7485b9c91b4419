import {
  addInput,
  addOutput,
  bind,
  type BlockDiagram,
  changeSign,
  feed,
  grouped,
  insertBlock,
  readBlocks,
  removed,
  rename,
  setGain,
  textOfBlocks,
  withoutTerm,
} from '../src/diagrams';

const loop = readBlocks('e = r - H*y\nu = C*e\ny = G*u');
const text = (diagram: BlockDiagram) => textOfBlocks(diagram).split('\n');
const idOf = (diagram: BlockDiagram, gain: string) =>
  diagram.nodes.find((node) => node.kind === 'block' && node.gain === gain)!.id;

describe('changes on the picture', () => {
  test('a block is inserted in one line, or behind a signal for all its users', () => {
    expect(text(insertBlock(loop, { signal: 'u', node: 'y', term: 0 }, 'A'))).toEqual([
      'e = r - H*y',
      'u = C*e',
      'y = G*A*u',
    ]);
    expect(text(insertBlock(loop, { signal: 'y' }, '2/(s + 1)'))).toEqual([
      'e = r - H*y',
      'u = C*e',
      'y = 2/(s + 1)*(G*u)',
    ]);
    expect(text(insertBlock(loop, { signal: 'r' }, 'F'))[0]).toBe('e = F*r - H*y');
  });

  test('a signal is fed to a sum, or to a new sum in a line', () => {
    expect(text(feed(loop, 'u', { sum: 'e' }, -1))[0]).toBe('e = r - H*y - u');
    expect(text(feed(loop, 'r', { signal: 'u', node: 'y', term: 0 }, 1))[2]).toBe('y = G*(u + r)');
    // A signal without a name gets one when it is used a second time.
    const hidden = feed(loop, idOf(loop, 'H'), { signal: 'u' }, 1);
    expect(text(hidden)).toEqual(['v1 = H*y', 'e = r - v1', 'u = C*e + v1', 'y = G*u']);
  });

  test('inputs and outputs come with names of their own', () => {
    const disturbed = addInput(loop, 'd', { signal: 'u', node: 'y', term: 0 }, 1);
    expect(disturbed.inputs).toEqual(['r', 'd']);
    expect(text(disturbed)[2]).toBe('y = G*(u + d)');
    expect(text(addOutput(loop, 'e', 'z'))[3]).toBe('z = e');
    expect(() => addOutput(loop, 'e', 'u')).toThrow('u is there already.');
    expect(() => addInput(loop, '2d', { sum: 'e' }, 1)).toThrow(/not a name/);
  });

  test('signs, names, factors and bindings are changed', () => {
    expect(text(changeSign(loop, 'e', 1))[0]).toBe('e = r + H*y');
    expect(text(rename(loop, 'y', 'speed'))).toEqual(['e = r - H*speed', 'u = C*e', 'speed = G*u']);
    expect(text(setGain(loop, 'y', '7/(s^2 + 3*s)'))[2]).toBe('y = 7/(s^2 + 3*s)*u');
    expect(text(bind(loop, 'G', '2/(s + 1)'))[3]).toBe('where G = 2/(s + 1)');
    expect(text(bind(bind(loop, 'G', '2'), 'G', ' '))).toEqual(text(loop));
    expect(() => setGain(loop, 'y', '2*u')).toThrow('u is a signal');
    expect(() => setGain(loop, 'y', '(s')).toThrow(/never closed/);
  });

  test('what is removed leaves the rest connected', () => {
    expect(text(removed(loop, idOf(loop, 'H')))[0]).toBe('e = r - y');
    expect(text(removed(loop, 'u'))).toEqual(['e = r - H*y', 'y = G*e']);
    expect(text(withoutTerm(loop, 'e', 1))).toEqual(['e = r', 'u = C*e', 'y = G*u']);
    expect(text(removed(addInput(loop, 'd', { sum: 'e' }, 1), 'd'))).toEqual(text(loop));
    expect(() => removed(loop, 'r')).not.toThrow();
    expect(() => removed(readBlocks('y = G*r'), 'r')).toThrow(/all that comes in/);
  });

  test('a group with one way in and one way out is one block', () => {
    const one = grouped(loop, ['e', 'u', 'y', idOf(loop, 'H')], 'T');
    expect(text(one)).toEqual(['y = T*r', 'where T = C*G/(1+C*G*H)']);
    expect(() => grouped(loop, ['e', 'u'], 'T')).toThrow(/here 2 and 1/);
  });
});
