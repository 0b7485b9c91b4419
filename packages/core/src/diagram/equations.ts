import { limits } from '../expression/limits.js';
import { must } from '../expression/must.js';
import { parse } from '../expression/parse.js';
import { Problem } from '../expression/problem.js';
import { namesIn, type Tree } from '../expression/tree.js';

/** One equation: left-hand factor times signal = right-hand side. */
export interface Equation {
  readonly signal: string;
  readonly left: Tree;
  readonly right: Tree;
}

/** A block diagram as signal equations, read but not yet worked out. */
export interface Diagram {
  readonly equations: readonly Equation[];
  /** What `where` binds. */
  readonly definitions: ReadonlyMap<string, Tree>;
  /** Names of the signals, in the order of their equations. */
  readonly signals: readonly string[];
  /** Signals that no equation gives, in order of appearance. */
  readonly inputs: readonly string[];
}

/**
 * Reads signal equations such as `y = G*(u + d)` or, for states, `s*x = -a*x + b*u` and `x'' = -x + u`. The signal is
 * the last name on the left; of a sum on the left, as in `m*x'' + b*x' + k*x = F`, that of its highest derivative. A name that is only ever added, or multiplied last, is an input; any other name that has
 * no equation and no binding stays a symbol.
 * @param inputs names that are inputs whatever the equations suggest
 * @throws Problem with the position within its equation; the message names the equation.
 */
export function readEquations(
  texts: readonly string[],
  where: Readonly<Record<string, string | number>> = {},
  inputs: readonly string[] = [],
): Diagram {
  const bound = Object.entries(where);
  if (texts.length + bound.length > limits.equations) {
    throw new Problem('tooLong', `At most ${limits.equations} equations and bindings are read.`);
  }
  if (texts.length === 0) throw new Problem('empty', 'There are no equations yet.');
  const definitions = new Map<string, Tree>();
  for (const [name, meaning] of bound) {
    if (name === 's') throw new Problem('equation', 's is the variable; it cannot be bound.');
    if (!/^\p{L}[\p{L}\p{Nd}_]*$/u.test(name)) throw new Problem('equation', `“${name}” is not a name.`);
    definitions.set(
      name,
      within(`In ${name}: `, () => parse(String(meaning))),
    );
  }
  const equations = texts.map((text, k) => within(`Equation ${k + 1}: `, () => readEquation(text)));
  const signals = equations.map(({ signal }) => signal);
  signals.forEach((signal, k) => {
    if (signals.indexOf(signal) !== k) throw new Problem('equation', `Two equations give ${signal}.`);
    if (definitions.has(signal)) {
      throw new Problem('equation', `${signal} is a signal here and a parameter or binding as well; rename one.`);
    }
    if (inputs.includes(signal)) throw new Problem('signal', `${signal} is given by an equation, so it is no input.`);
  });
  return { equations, definitions, signals, inputs: inputsOf(equations, new Set(signals), definitions, inputs) };
}

/** Splits a text into its equations and what follows `where`: one equation a line, bindings separated by commas. */
export function splitEquations(text: string): { equations: string[]; where: Record<string, string> } {
  const [above, below] = text.split(/^[ \t]*where\b/m);
  const bindings: Record<string, string> = {};
  for (const binding of (below ?? '').split(/[,;\n]/)) {
    const [name, meaning] = binding.split('=');
    if (!binding.trim()) continue;
    if (meaning === undefined) throw new Problem('equation', `“${binding.trim()}” binds nothing; write name = value.`);
    bindings[name!.trim()] = meaning.trim();
  }
  const lines = above!.split(/[;\n]/).filter((line) => line.trim());
  return { equations: lines, where: bindings };
}

/** Runs a reader; what it refuses is told with the place in front. */
export function within<Result>(place: string, read: () => Result): Result {
  try {
    return read();
  } catch (error) {
    if (error instanceof Problem) throw new Problem(error.code, `${place}${error.message}`, error.at);
    throw error;
  }
}

function readEquation(text: string): Equation {
  const [left, right, ...more] = text.split('=');
  if (right === undefined) throw new Problem('equation', 'An equals sign is missing.', text.length);
  if (more.length > 0) {
    throw new Problem('equation', 'There is more than one equals sign.', left!.length + right.length + 1);
  }
  const whole = parse(left!, { derivatives: true });
  // Blanks instead of the left side, so that positions count from the start of the equation.
  const rightTree = parse(' '.repeat(left!.length + 1) + right, { derivatives: true });
  const { leading, others } = ledByHighest(whole);
  const signal = lastName(leading);
  if (!signal) throw new Problem('equation', 'On the left stands a signal, as in y = … or s*x = ….', whole.at);
  return {
    signal,
    left: leading,
    right: others.reduce<Tree>(
      (sum, { sign, tree }) => ({ kind: sign > 0 ? 'difference' : 'sum', left: sum, right: tree, at: tree.at }),
      rightTree,
    ),
  };
}

/** The left side of a differential equation, as in `m*x'' + b*x' + k*x`: its highest derivative, and what goes to the right. */
function ledByHighest(left: Tree): { leading: Tree; others: { sign: 1 | -1; tree: Tree }[] } {
  const terms = termsOf(left, 1);
  const orders = terms.map(({ tree }) => derivativesIn(tree));
  const first = orders.indexOf(Math.max(...orders));
  const { sign, tree } = must(terms[first]);
  return {
    leading: sign > 0 ? tree : { kind: 'negative', of: tree, at: tree.at },
    others: terms.toSpliced(first, 1),
  };
}

function termsOf(tree: Tree, sign: 1 | -1): { sign: 1 | -1; tree: Tree }[] {
  if (tree.kind !== 'sum' && tree.kind !== 'difference') return [{ sign, tree }];
  const second = tree.kind === 'sum' ? sign : (-sign as 1 | -1);
  return [...termsOf(tree.left, sign), ...termsOf(tree.right, second)];
}

/** How often s multiplies a term, written as primes or as powers. */
function derivativesIn(tree: Tree): number {
  switch (tree.kind) {
    case 'name':
      return tree.name === 's' ? 1 : 0;
    case 'power':
      return derivativesIn(tree.base) * (tree.exponent.kind === 'number' ? Number(tree.exponent.text) : 1);
    case 'product':
      return derivativesIn(tree.left) + derivativesIn(tree.right);
    case 'quotient':
      return derivativesIn(tree.left) - derivativesIn(tree.right);
    case 'negative':
      return derivativesIn(tree.of);
    default:
      return 0;
  }
}

function lastName(tree: Tree): string | null {
  switch (tree.kind) {
    case 'name':
      return tree.name === 's' ? null : tree.name;
    case 'product':
      return lastName(tree.right) ?? lastName(tree.left);
    case 'quotient':
      return lastName(tree.left);
    case 'negative':
      return lastName(tree.of);
    default:
      return null;
  }
}

function inputsOf(
  equations: readonly Equation[],
  signals: ReadonlySet<string>,
  definitions: ReadonlyMap<string, Tree>,
  asked: readonly string[],
): string[] {
  const factors = new Set<string>();
  const added: string[] = [];
  const products: string[][] = [];
  const isFree = (name: string): boolean => name !== 's' && !signals.has(name) && !definitions.has(name);
  const hasSignal = (tree: Tree): boolean => namesIn(tree).some((name) => signals.has(name) || asked.includes(name));
  const visit = (tree: Tree): void => {
    switch (tree.kind) {
      case 'sum':
      case 'difference':
        visit(tree.left);
        return visit(tree.right);
      case 'negative':
        return visit(tree.of);
      case 'quotient':
        namesIn(tree.right).forEach((name) => factors.add(name));
        return visit(tree.left);
      case 'product':
        if (hasSignal(tree.left)) {
          namesIn(tree.right).forEach((name) => factors.add(name));
          return visit(tree.left);
        }
        if (hasSignal(tree.right)) {
          namesIn(tree.left).forEach((name) => factors.add(name));
          return visit(tree.right);
        }
        // Neither side has a signal yet: what stands last is one, and of a sum in brackets every term.
        if (tree.right.kind === 'sum' || tree.right.kind === 'difference') {
          namesIn(tree.left).forEach((name) => factors.add(name));
          return visit(tree.right);
        }
        products.push(namesIn(tree).filter(isFree));
        return;
      case 'name':
        if (isFree(tree.name)) added.push(tree.name);
        return;
      default:
        namesIn(tree).forEach((name) => factors.add(name));
    }
  };
  for (const { left, right, signal } of equations) {
    namesIn(left).forEach((name) => name !== signal && factors.add(name));
    visit(right);
  }
  const inputs = new Set([...asked, ...added.filter((name) => !factors.has(name))]);
  for (const names of products) {
    const open = names.filter((name) => !factors.has(name));
    if (open.length > 0 && !open.some((name) => inputs.has(name))) inputs.add(open[open.length - 1]!);
  }
  return [...inputs];
}
