import { childrenOf, type Tree, withChildren } from './tree.js';

/** Greek letters as they are printed and as they are spelled. */
const spelled: Readonly<Record<string, string>> = {
  ...{ α: 'alpha', β: 'beta', γ: 'gamma', δ: 'delta', ε: 'epsilon', ζ: 'zeta', η: 'eta', θ: 'theta', κ: 'kappa' },
  ...{ λ: 'lambda', μ: 'mu', ν: 'nu', ξ: 'xi', ρ: 'rho', σ: 'sigma', τ: 'tau', φ: 'phi', χ: 'chi', ψ: 'psi' },
  // As in wn: on a keyboard ω is a w.
  ...{ ω: 'w', Δ: 'Delta', Ω: 'Omega', Φ: 'Phi', Ψ: 'Psi', Σ: 'Sigma', Λ: 'Lambda', Γ: 'Gamma', Θ: 'Theta' },
};

/** A letter in one spelling, whichever it was typed in: ωₙ, ω_n, omega_n and wn are the same, and so are G₁, G_1 and G1. */
export const plainLetter = (name: string): string =>
  name
    // Indices below the line become ordinary letters and digits, and so do signs such as µ and ϕ.
    .normalize('NFKC')
    .replaceAll('_', '')
    .replace(/\p{Script=Greek}/gu, (letter) => spelled[letter] ?? letter)
    .replace(/^omega/, 'w');

/** The known letter that a typed one is another spelling of; the typed one itself when there is none, or more than one. */
export function knownLetter(name: string, known: Iterable<string>): string {
  const plain = plainLetter(name);
  let match: string | undefined;
  for (const letter of known) {
    if (letter === name) return name;
    if (plainLetter(letter) !== plain) continue;
    if (match !== undefined) return name;
    match = letter;
  }
  return match ?? name;
}

/** The same expression with the known letters in their own spelling. */
export function withKnownLetters(tree: Tree, known: readonly string[]): Tree {
  if (tree.kind === 'name') {
    const name = knownLetter(tree.name, known);
    if (name !== tree.name || known.includes(name) || tree.ofS) return name === tree.name ? tree : { ...tree, name };
    return asProduct(tree.name, known, tree.at) ?? tree;
  }
  const [base, ...rest] = childrenOf(tree).map((child) => withKnownLetters(child, known));
  if (tree.kind === 'power' && tree.base.kind === 'name' && base?.kind === 'product') {
    // As in ms², which is m·s².
    return { ...base, right: withChildren(tree, [base.right, ...rest]) };
  }
  return withChildren(tree, base ? [base, ...rest] : []);
}

/** Longest run of letters that is looked at for names without a sign between them. */
const longestRun = 24;

/**
 * Names that were written without a sign between them, as in `CGH` or `Ts`: their product where there is one way only
 * to cut the run into known letters and s.
 */
function asProduct(run: string, known: readonly string[], at: number): Tree | undefined {
  if (run.length > longestRun) return undefined;
  const letters = [...known, ...(known.includes('s') ? [] : ['s'])];
  // How many ways lead to each place of the run, and the last piece of one of them.
  const ways = [1, ...Array.from({ length: run.length }, () => 0)];
  const last: (string | undefined)[] = [];
  for (let end = 1; end <= run.length; end++) {
    for (let start = Math.max(0, end - 12); start < end; start++) {
      const piece = run.slice(start, end);
      const before = ways[start] ?? 0;
      if (before === 0 || /^[\p{Nd}_₀-₉]/u.test(piece)) continue;
      const letter = knownLetter(piece, letters);
      if (!letters.includes(letter)) continue;
      ways[end] = (ways[end] ?? 0) + before;
      last[end] = piece;
    }
  }
  if (ways[run.length] !== 1) return undefined;
  const pieces: Tree[] = [];
  for (let end = run.length; end > 0; end -= last[end]?.length ?? end) {
    const piece = last[end] ?? '';
    pieces.unshift({ kind: 'name', name: knownLetter(piece, letters), at: at + end - piece.length });
  }
  return pieces.length < 2
    ? undefined
    : pieces.reduce((left, right) => ({ kind: 'product', left, right, at: right.at }));
}

/** What the field says of readings that are not the only ones: `G(s)` is the block, not a product with s. */
export function readingNotes(tree: Tree): string[] {
  const names = new Set<string>();
  const visit = (node: Tree): void => {
    if (node.kind === 'name' && node.ofS) names.add(node.name);
    childrenOf(node).forEach(visit);
  };
  visit(tree);
  if (names.size === 0) return [];
  const list = [...names].map((name) => `${name}(s)`);
  const [first] = names;
  return [
    `${list.join(', ')}: read as the ${list.length === 1 ? 'block' : 'blocks'}; for ${first} times s write ${first}*s.`,
  ];
}
