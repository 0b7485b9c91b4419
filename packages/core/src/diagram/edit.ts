import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { namesIn } from '../expression/tree.js';
import {
  type BlockDiagram,
  type DiagramNode,
  freeId,
  isNamed,
  outputsOf,
  readBlocks,
  sourcesOf,
  type SumTerm,
  takenNames,
  textOfBlocks,
  withNames,
  withSources,
} from './blocks.js';
import { replaced } from './moves.js';
import { reducedGain, reduction } from './reduction.js';

/** A place on a line: where a node uses a signal, or, without a node, right behind where the signal comes from. */
export interface Place {
  readonly signal: string;
  readonly node?: string;
  readonly term?: number;
}

/** Changes that people make on the picture. Each gives a diagram whose text says the same. */

/** A block in a line. @throws Problem for a factor that cannot be read or names a signal. */
export function insertBlock(diagram: BlockDiagram, place: Place, gain: string): BlockDiagram {
  checkGain(diagram, gain);
  return inserted(diagram, place, (id, signal) => ({ kind: 'block', id, gain, of: signal }));
}

/** A signal brought to a place: one more term of a sum, or a new sum in a line. */
export function feed(
  diagram: BlockDiagram,
  signal: string,
  to: Place | { readonly sum: string },
  sign: 1 | -1,
): BlockDiagram {
  const term: SumTerm = { sign, of: signal };
  if (!('sum' in to)) {
    return inserted(diagram, to, (id, signal) => ({ kind: 'sum', id, terms: [{ sign: 1, of: signal }, term] }));
  }
  const sum = nodeOf(diagram, to.sum);
  if (sum.kind !== 'sum') throw new Problem('equation', 'This is no sum.');
  return settled(replaced(diagram, { ...sum, terms: [...sum.terms, term] }, []));
}

/** A new input that is added at a place. @throws Problem for a name that is taken. */
export function addInput(
  diagram: BlockDiagram,
  name: string,
  to: Place | { readonly sum: string },
  sign: 1 | -1,
): BlockDiagram {
  checkName(diagram, name);
  return feed({ ...diagram, inputs: [...diagram.inputs, name] }, name, to, sign);
}

/** A signal led out under a name of its own. @throws Problem for a name that is taken. */
export function addOutput(diagram: BlockDiagram, signal: string, name: string): BlockDiagram {
  checkName(diagram, name);
  const nodes: DiagramNode[] = [...diagram.nodes, { kind: 'sum', id: name, terms: [{ sign: 1, of: signal }] }];
  return settled({ ...diagram, nodes });
}

/** The other sign for one term of a sum. */
export function changeSign(diagram: BlockDiagram, sum: string, term: number): BlockDiagram {
  const node = nodeOf(diagram, sum);
  if (node.kind !== 'sum') throw new Problem('equation', 'Only the lines into a sum have a sign.');
  const terms = node.terms.map((old, k) => (k === term ? { ...old, sign: -old.sign as 1 | -1 } : old));
  return settled(replaced(diagram, { ...node, terms }, []));
}

/** Another name for a signal, or a first one. @throws Problem for a name that is taken. */
export function rename(diagram: BlockDiagram, signal: string, name: string): BlockDiagram {
  if (name === signal) return diagram;
  checkName(diagram, name);
  const named = (id: string): string => (id === signal ? name : id);
  const nodes = diagram.nodes.map((node) => withSources({ ...node, id: named(node.id) }, named));
  return settled({ ...diagram, inputs: diagram.inputs.map(named), nodes });
}

/** Another factor for a block. @throws Problem for one that cannot be read or names a signal. */
export function setGain(diagram: BlockDiagram, block: string, gain: string): BlockDiagram {
  const node = nodeOf(diagram, block);
  if (node.kind !== 'block') throw new Problem('equation', 'Only a block has a factor.');
  checkGain(diagram, gain);
  return settled(replaced(diagram, { kind: 'block', id: block, gain, of: node.of }, []));
}

/** What `where` binds a name to; an empty meaning leaves it a letter. @throws Problem for one that cannot be read. */
export function bind(diagram: BlockDiagram, name: string, meaning: string): BlockDiagram {
  if (meaning.trim()) checkGain(diagram, meaning);
  const others = diagram.where.filter(([bound]) => bound !== name);
  return settled({ ...diagram, where: meaning.trim() ? [...others, [name, meaning]] : others });
}

/** Without a block, a sum, or an input; what came in goes on. @throws Problem when nothing would be left. */
export function removed(diagram: BlockDiagram, id: string): BlockDiagram {
  const node = diagram.nodes.find((candidate) => candidate.id === id);
  if (!node) {
    const used = diagram.nodes.filter((candidate) => sourcesOf(candidate).includes(id));
    if (used.some((user) => user.kind === 'block' || user.terms.every(({ of }) => of === id))) {
      throw new Problem('signal', `${id} is all that comes in there; remove what it leads to first.`);
    }
    const nodes = diagram.nodes.map((user) =>
      user.kind === 'sum' ? { ...user, terms: user.terms.filter(({ of }) => of !== id) } : user,
    );
    return settled({ ...diagram, inputs: diagram.inputs.filter((input) => input !== id), nodes });
  }
  const [first] = sourcesOf(node);
  if (diagram.nodes.length === 1 || first === id) throw new Problem('equation', 'This is all that the diagram has.');
  const isOutput = outputsOf(diagram).includes(id);
  if (isNamed(id) && isOutput && node.kind === 'block') {
    return settled(replaced(diagram, { kind: 'sum', id, terms: [{ sign: 1, of: first! }] }, []));
  }
  const nodes = diagram.nodes
    .filter((other) => other.id !== id)
    .map((other) => withSources(other, (signal) => (signal === id ? first! : signal)));
  return settled({ ...diagram, nodes });
}

/** Without one line into a sum. @throws Problem when it is the only one. */
export function withoutTerm(diagram: BlockDiagram, sum: string, term: number): BlockDiagram {
  const node = nodeOf(diagram, sum);
  if (node.kind !== 'sum' || node.terms.length < 2) {
    throw new Problem('equation', 'This line is all that comes in there.');
  }
  const kept: DiagramNode = { ...node, terms: node.terms.filter((_, k) => k !== term) };
  return settled(withoutUnused(replaced(diagram, kept, []), node.terms[term]!.of));
}

/**
 * Several nodes as one block whose factor is a name that `where` binds.
 * @throws Problem unless exactly one signal enters and one leaves, and as `reduction` does.
 */
export function grouped(diagram: BlockDiagram, ids: readonly string[], name: string): BlockDiagram {
  checkName(diagram, name);
  const inside = diagram.nodes.filter(({ id }) => ids.includes(id));
  const entering = [...new Set(inside.flatMap(sourcesOf))].filter((id) => !ids.includes(id));
  const outputs = outputsOf(diagram);
  const leaving = inside.filter(
    ({ id }) =>
      outputs.includes(id) || diagram.nodes.some((node) => !ids.includes(node.id) && sourcesOf(node).includes(id)),
  );
  if (entering.length !== 1 || leaving.length !== 1) {
    throw new Problem(
      'signal',
      `To be one block, a group has one signal coming in and one going out; here ${entering.length} and ${leaving.length}.`,
    );
  }
  const [from, to] = [entering[0]!, leaving[0]!.id];
  const part: BlockDiagram = { inputs: [from], nodes: inside, where: [] };
  const last = reduction(part, { from, to }).at(-1)?.after ?? part;
  const gain = reducedGain(last, { from, to })!;
  const one: DiagramNode = { kind: 'block', id: to, gain: name, of: from };
  const rest = replaced(
    { ...diagram, where: [...diagram.where, [name, gain]] },
    one,
    ids.filter((id) => id !== to),
  );
  return settled(rest);
}

/** As its text reads: chains in one form, every signal that is used twice with a name. */
function settled(diagram: BlockDiagram): BlockDiagram {
  return readBlocks(
    textOfBlocks(withNames(diagram)),
    diagram.inputs.filter((input) => isUsed(diagram, input)),
  );
}

const isUsed = (diagram: BlockDiagram, id: string): boolean =>
  diagram.nodes.some((node) => sourcesOf(node).includes(id));

function inserted(
  diagram: BlockDiagram,
  place: Place,
  make: (id: string, signal: string) => DiagramNode,
): BlockDiagram {
  const { signal, node: user, term = 0 } = place;
  if (user !== undefined) {
    const node = nodeOf(diagram, user);
    const added = make(freeId(diagram), signal);
    return settled(
      replaced(
        diagram,
        withSources(node, (of, k) => (k === term && of === signal ? added.id : of)),
        [],
        [added],
      ),
    );
  }
  const hidden = freeId(diagram);
  const source = diagram.nodes.find(({ id }) => id === signal);
  if (!source) {
    // Behind an input, before all that uses it.
    const added = make(hidden, signal);
    const nodes = diagram.nodes.map((node) => withSources(node, (of) => (of === signal ? hidden : of)));
    return settled({ ...diagram, nodes: [added, ...nodes] });
  }
  // The signal keeps its name for those who use it; what gave it before has none.
  return settled(replaced(diagram, make(signal, hidden), [], [{ ...source, id: hidden }]));
}

/** Without what only led to a signal that nobody uses any more. */
function withoutUnused(diagram: BlockDiagram, signal: string): BlockDiagram {
  const node = diagram.nodes.find(({ id }) => id === signal);
  if (!node || isNamed(signal) || isUsed(diagram, signal)) return diagram;
  const rest = { ...diagram, nodes: diagram.nodes.filter(({ id }) => id !== signal) };
  return sourcesOf(node).reduce(withoutUnused, rest);
}

function nodeOf({ nodes }: BlockDiagram, id: string): DiagramNode {
  const node = nodes.find((candidate) => candidate.id === id);
  if (!node) throw new Problem('signal', `There is no ${id} in the diagram.`);
  return node;
}

function checkName(diagram: BlockDiagram, name: string): void {
  if (!/^\p{L}[\p{L}\p{Nd}_]{0,15}$/u.test(name) || name === 's' || name === 'exp' || name === 'where') {
    throw new Problem('equation', `“${name}” is not a name: a letter, then letters and digits.`);
  }
  if (takenNames(diagram).has(name)) throw new Problem('signal', `${name} is there already.`);
}

function checkGain(diagram: BlockDiagram, gain: string): void {
  const signals = new Set([...diagram.inputs, ...diagram.nodes.map(({ id }) => id)]);
  const taken = namesIn(parse(gain)).find((name) => signals.has(name));
  if (taken) throw new Problem('signal', `${taken} is a signal; a factor is a number, a letter or a fraction in s.`);
}
