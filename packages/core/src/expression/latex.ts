import { must } from './must.js';
import type { Tree } from './tree.js';

const greek = new Set(
  'alpha beta gamma delta epsilon zeta eta theta kappa lambda mu nu xi rho sigma tau phi chi psi omega'.split(' '),
);

/** A parameter's symbol as LaTeX: `wn` → ω with index n, `zeta` → ζ, `Kp` → K with index p, `G12` → G with index 12. */
export function nameToLatex(name: string): string {
  const [head, ...rest] = name.split('_');
  if (rest.length > 0) return `${nameToLatex(must(head))}_{${rest.join(',')}}`;
  if (greek.has(name)) return `\\${name}`;
  const word = /^([a-z]+?)([0-9]*|n|d)$/i.exec(name);
  if (word && greek.has(must(word[1]))) return `\\${word[1]}${word[2] ? `_{${word[2]}}` : ''}`;
  if (name === 'wn') return '\\omega_{n}';
  if (name === 'wd') return '\\omega_{d}';
  if (/^\p{L}$/u.test(name)) return name;
  const indexed = /^(\p{L})([\p{L}\p{Nd}]{1,3})$/u.exec(name);
  if (indexed) return `${indexed[1]}_{${indexed[2]}}`;
  return `\\mathit{${name}}`;
}

/** The number as typed, a power of ten set as one. */
export function numberToLatex(text: string): string {
  const [mantissa, exponent] = text.split(/[eE]/);
  if (exponent === undefined) return must(mantissa);
  return `${mantissa}\\cdot 10^{${Number(exponent)}}`;
}

const strength = {
  sum: 1,
  difference: 1,
  negative: 2,
  product: 3,
  quotient: 4,
  power: 5,
  exponential: 5,
  call: 6,
  number: 6,
  name: 6,
} as const;

/** What was understood, typeset: the same structure as the text, quotients as fractions. */
export function toLatex(tree: Tree): string {
  const inside = (node: Tree, atLeast: number): string =>
    strength[node.kind] < atLeast ? `\\left(${toLatex(node)}\\right)` : toLatex(node);
  switch (tree.kind) {
    case 'number':
      return numberToLatex(tree.text);
    case 'name':
      return nameToLatex(tree.name);
    case 'negative':
      return `-${inside(tree.of, 3)}`;
    case 'sum':
      return `${toLatex(tree.left)}+${inside(tree.right, 3)}`;
    case 'difference':
      return `${toLatex(tree.left)}-${inside(tree.right, 3)}`;
    case 'product': {
      const left = inside(tree.left, 3);
      const right = inside(tree.right, 3);
      const needsDot = startsWithDigit(tree.right) || tree.left.kind === 'quotient' || tree.right.kind === 'quotient';
      return needsDot ? `${left}\\cdot ${right}` : `${left}\\,${right}`;
    }
    case 'quotient':
      return `\\frac{${alone(tree.left)}}{${alone(tree.right)}}`;
    case 'power':
      return `${inside(tree.base, 6)}^{${alone(tree.exponent)}}`;
    case 'exponential':
      return `e^{${alone(tree.exponent)}}`;
    case 'call':
      if (tree.name === 'sqrt' && tree.of[0]) return `\\sqrt{${alone(tree.of[0])}}`;
      return `\\operatorname{${tree.name}}\\left(${tree.of.map(toLatex).join(',\\,')}\\right)`;
  }
}

/** A product that stands alone keeps its minus sign in front without brackets. */
function alone(tree: Tree): string {
  if (tree.kind !== 'product' || tree.left.kind !== 'negative') return toLatex(tree);
  return `-${toLatex({ ...tree, left: tree.left.of })}`;
}

function startsWithDigit(tree: Tree): boolean {
  switch (tree.kind) {
    case 'number':
      return true;
    case 'product':
      return startsWithDigit(tree.left);
    case 'power':
      return startsWithDigit(tree.base);
    default:
      return false;
  }
}
