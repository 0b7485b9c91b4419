import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { toText } from '../expression/text.js';
import { childrenOf, namesIn, type Tree } from '../expression/tree.js';
import { type Diagram, readEquations, splitEquations, within } from './equations.js';

/** A signal times a factor. */
export interface BlockNode {
  readonly kind: 'block';
  /** The signal that leaves it: a name, or `#` and a number for one without a name. */
  readonly id: string;
  /** The factor as typed. */
  readonly gain: string;
  readonly of: string;
  /** The factor on the left of the equation that gives the signal, as s in `s*x = …`; the gain is one over it. */
  readonly left?: string;
}

export interface SumTerm {
  readonly sign: 1 | -1;
  readonly of: string;
}

/** Signals added and subtracted. With one added term it is another name for that signal. */
export interface SumNode {
  readonly kind: 'sum';
  readonly id: string;
  readonly terms: readonly SumTerm[];
}

export type DiagramNode = BlockNode | SumNode;

/** A block diagram as it is drawn. Every node gives one signal, and every signal but the inputs comes from one node. */
export interface BlockDiagram {
  readonly inputs: readonly string[];
  /** In the order of the equations, what an equation is made of before it. */
  readonly nodes: readonly DiagramNode[];
  /** What `where` binds, as typed. */
  readonly where: readonly (readonly [name: string, meaning: string])[];
}

/** Whether a signal has a name; the others are drawn without one and inlined in the text. */
export const isNamed = (id: string): boolean => !id.startsWith('#');

/** The signals that a node is made of. */
export const sourcesOf = (node: DiagramNode): readonly string[] =>
  node.kind === 'block' ? [node.of] : node.terms.map(({ of }) => of);

/**
 * The blocks and sums of signal equations, typed one a line, bindings after `where`. A product of bare names is a chain
 * of blocks, any other factor is one block.
 * @throws Problem as `readEquations`, and for equations that are not linear in the signals.
 */
export function readBlocks(text: string, inputs: readonly string[] = []): BlockDiagram {
  const { equations, where } = splitEquations(text);
  return blocksOf(readEquations(equations, where, inputs), where);
}

/** The blocks and sums of equations that were read. @throws Problem as `readBlocks`. */
export function blocksOf(diagram: Diagram, where: Readonly<Record<string, string>> = {}): BlockDiagram {
  const nodes: DiagramNode[] = [];
  const signals = new Set([...diagram.signals, ...diagram.inputs]);
  const carries = (tree: Tree): boolean => namesIn(tree).some((name) => signals.has(name));
  let unnamed = 0;
  const add = (node: DiagramNode): string => {
    nodes.push(node);
    return node.id;
  };

  /** The signal that a linear expression stands for; `id` names its outermost node. */
  function signalOf(tree: Tree, id?: string): string {
    const signal = (): string => id ?? `#${(unnamed += 1)}`;
    switch (tree.kind) {
      case 'name':
        if (!signals.has(tree.name)) throw alone(tree);
        return id === undefined ? tree.name : add({ kind: 'sum', id, terms: [{ sign: 1, of: tree.name }] });
      case 'sum':
      case 'difference': {
        const terms = termsOf(tree);
        return add({ kind: 'sum', id: signal(), terms });
      }
      case 'negative': {
        const terms = termsOf(tree);
        return add({ kind: 'sum', id: signal(), terms });
      }
      case 'product': {
        const [onLeft, onRight] = [carries(tree.left), carries(tree.right)];
        if (onLeft && onRight) {
          throw new Problem('equation', 'Two signals are multiplied; only linear equations are read.', tree.at);
        }
        if (!onLeft && !onRight) throw alone(tree);
        return block(onLeft ? tree.right : tree.left, onLeft ? tree.left : tree.right, signal);
      }
      case 'quotient': {
        if (carries(tree.right)) throw new Problem('equation', 'Nothing can be divided by a signal.', tree.at);
        if (!carries(tree.left)) throw alone(tree);
        const one: Tree = { kind: 'number', text: '1', at: tree.at };
        return block({ ...tree, left: one }, tree.left, signal);
      }
      default:
        if (carries(tree)) {
          throw new Problem('equation', 'A signal has no powers; only linear equations are read.', tree.at);
        }
        throw alone(tree);
    }
  }

  function block(factor: Tree, tree: Tree, signal: () => string): string {
    const chain = bareNames(factor) ?? [toText(factor)];
    let from = signalOf(tree);
    for (const gain of chain.slice(1).reverse())
      from = add({ kind: 'block', id: `#${(unnamed += 1)}`, gain, of: from });
    return add({ kind: 'block', id: signal(), gain: chain[0]!, of: from });
  }

  function termsOf(tree: Tree): SumTerm[] {
    if (tree.kind === 'sum') return [...termsOf(tree.left), ...withSign(1, tree.right)];
    if (tree.kind === 'difference') return [...termsOf(tree.left), ...withSign(-1, tree.right)];
    return withSign(1, tree);
  }

  function withSign(sign: 1 | -1, tree: Tree): SumTerm[] {
    const turned = signTakenOut(tree);
    return turned ? withSign(sign === 1 ? -1 : 1, turned) : [{ sign, of: signalOf(tree) }];
  }

  diagram.equations.forEach(({ signal, left, right }, k) =>
    within(`Equation ${k + 1}: `, () => {
      if (left.kind === 'name') return void signalOf(right, signal);
      const factor = leftFactor(left, signal);
      const from = signalOf(right);
      const one: Tree = { kind: 'number', text: '1', at: left.at };
      const gain: Tree = { kind: 'quotient', left: one, right: factor, at: left.at };
      add({ kind: 'block', id: signal, gain: toText(gain), of: from, left: toText(factor) });
    }),
  );
  return { inputs: diagram.inputs, nodes, where: Object.entries(where) };
}

const alone = (tree: Tree): Problem =>
  new Problem('equation', 'Every term on the right needs a signal; a constant is an input of its own.', tree.at);

/** The names of a product of nothing else. */
function bareNames(tree: Tree): string[] | null {
  if (tree.kind === 'name') return tree.name === 's' ? null : [tree.name];
  if (tree.kind !== 'product') return null;
  const [left, right] = [bareNames(tree.left), bareNames(tree.right)];
  return left && right && [...left, ...right];
}

/** Without the minus sign in front, when there is one. */
function signTakenOut(tree: Tree): Tree | null {
  if (tree.kind === 'negative') return tree.of;
  if (tree.kind !== 'product' && tree.kind !== 'quotient') return null;
  const left = signTakenOut(tree.left);
  return left && { ...tree, left };
}

/** What multiplies the signal on the left of its equation. */
function leftFactor(tree: Tree, signal: string): Tree {
  const refused = new Problem('equation', `On the left stands one signal with its factor, here ${signal}.`, tree.at);
  if (tree.kind === 'quotient' || tree.kind === 'product') {
    const isSignal = (side: Tree): boolean => side.kind === 'name' && side.name === signal;
    if (tree.kind === 'product' && isSignal(tree.right) && !namesIn(tree.left).includes(signal)) return tree.left;
    if (tree.kind === 'product' && isSignal(tree.left) && !namesIn(tree.right).includes(signal)) return tree.right;
    if (namesIn(tree.right).includes(signal)) {
      if (tree.kind === 'quotient') throw refused;
      return { ...tree, right: leftFactor(tree.right, signal) };
    }
    if (isSignal(tree.left)) return { ...tree, left: { kind: 'number', text: '1', at: tree.at } };
    return { ...tree, left: leftFactor(tree.left, signal) };
  }
  throw refused;
}

/**
 * The equations of a diagram, one a line, that `readBlocks` reads as the same diagram; signals without a name are
 * written where they are used. Signals that are used twice need a name (`withNames`).
 */
export function textOfBlocks({ nodes, where }: BlockDiagram): string {
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const lines = nodes.filter(({ id }) => isNamed(id)).map((node) => lineOf(node));
  const bindings = where.map(([name, meaning]) => `${name} = ${meaning}`).join(', ');
  return [...lines, ...(bindings ? [`where ${bindings}`] : [])].join('\n');

  function lineOf(node: DiagramNode): string {
    if (node.kind === 'block' && node.left !== undefined) {
      return `${bracketed(node.left)}*${node.id} = ${written(node.of)}`;
    }
    return `${node.id} = ${expression(node)}`;
  }

  function written(id: string): string {
    return isNamed(id) ? id : expression(byId.get(id)!);
  }

  function expression(node: DiagramNode): string {
    if (node.kind === 'block') return `${bracketed(node.gain)}*${inner(node)}`;
    return node.terms
      .map(({ sign, of }, k) => {
        const source = byId.get(of);
        const text = !isNamed(of) && source?.kind === 'sum' && (k > 0 || sign < 0) ? `(${written(of)})` : written(of);
        if (k === 0) return sign > 0 ? text : `-${text}`;
        return `${sign > 0 ? '+' : '-'} ${text}`;
      })
      .join(' ');
  }

  function inner(node: DiagramNode & { kind: 'block' }): string {
    const text = written(node.of);
    const source = isNamed(node.of) ? undefined : byId.get(node.of);
    if (!source) return text;
    const isChain =
      source.kind === 'block' && [node.gain, source.gain].every((gain) => /^[\p{L}][\p{L}\p{Nd}_]*$/u.test(gain));
    return isChain ? text : `(${text})`;
  }
}

const needBrackets: ReadonlySet<Tree['kind']> = new Set(['sum', 'difference', 'negative']);
const bracketed = (gain: string): string => (needBrackets.has(parse(gain).kind) ? `(${gain})` : gain);

/** The same diagram with a name for every signal that is not used just once on the way to a named one. */
export function withNames(diagram: BlockDiagram): BlockDiagram {
  const byId = new Map(diagram.nodes.map((node) => [node.id, node]));
  const uses = new Map<string, number>();
  for (const signal of diagram.nodes.flatMap(sourcesOf)) uses.set(signal, (uses.get(signal) ?? 0) + 1);
  const needsName = ({ id }: DiagramNode): boolean => isNamed(id) || uses.get(id) !== 1;
  const inlined = new Set<string>();
  const inline = (node: DiagramNode): void => {
    for (const signal of sourcesOf(node)) {
      const source = byId.get(signal);
      if (!source || needsName(source)) continue;
      inlined.add(signal);
      inline(source);
    }
  };
  diagram.nodes.filter(needsName).forEach(inline);
  const renamed = new Map<string, string>();
  for (const { id } of diagram.nodes) {
    if (!isNamed(id) && !inlined.has(id)) renamed.set(id, freeName(diagram, 'v', new Set(renamed.values())));
  }
  const named = (id: string): string => renamed.get(id) ?? id;
  return { ...diagram, nodes: diagram.nodes.map((node) => withSources({ ...node, id: named(node.id) }, named)) };
}

/** A node with other signals in the place of its own. */
export function withSources<Node extends DiagramNode>(node: Node, source: (id: string, term: number) => string): Node {
  return node.kind === 'block'
    ? { ...node, of: source(node.of, 0) }
    : { ...node, terms: node.terms.map((term, k) => ({ ...term, of: source(term.of, k) })) };
}

/** A name that nothing in the diagram has yet: the letter and a number. */
export function freeName(diagram: BlockDiagram, letter: string, more: ReadonlySet<string> = new Set()): string {
  const taken = takenNames(diagram);
  for (let k = 1; ; k++) {
    const name = `${letter}${k}`;
    if (!more.has(name) && !taken.has(name)) return name;
  }
}

/** Every name that a diagram uses, for signals or in factors. */
export function takenNames({ inputs, nodes, where }: BlockDiagram): Set<string> {
  const factors = nodes.flatMap((node) => (node.kind === 'block' ? [node.gain] : []));
  const written = [...factors, ...where.flat()].flatMap((text) => namesIn(parse(text)));
  return new Set([...inputs, ...nodes.map(({ id }) => id), ...written]);
}

/** A number for a signal without a name that no other has. */
export function freeId({ nodes }: BlockDiagram): string {
  return `#${1 + Math.max(0, ...nodes.map(({ id }) => (isNamed(id) ? 0 : Number(id.slice(1)))))}`;
}

/** Signals that leave the diagram: those asked for and those that nothing uses; without any, y or what is given last. */
export function outputsOf(diagram: BlockDiagram, asked: readonly string[] = []): string[] {
  const used = new Set(diagram.nodes.flatMap(sourcesOf));
  const ids = diagram.nodes.map(({ id }) => id);
  const outputs = ids.filter((id) => asked.includes(id) || !used.has(id));
  if (outputs.length > 0) return outputs;
  return ids.includes('y') ? ['y'] : ids.slice(-1);
}

/** Symbols of the factors that nothing binds, s left out, in order of appearance. */
export function symbolsOf(diagram: Diagram): string[] {
  const signals = new Set([...diagram.signals, ...diagram.inputs, 's']);
  const symbols = new Set<string>();
  const visit = (tree: Tree): void => {
    if (tree.kind === 'name') {
      const meaning = diagram.definitions.get(tree.name);
      if (meaning) visit(meaning);
      else if (!signals.has(tree.name)) symbols.add(tree.name);
    } else childrenOf(tree).forEach(visit);
  };
  for (const { left, right } of diagram.equations) [left, right].forEach(visit);
  return [...symbols];
}
