import type { BlockDiagram } from '../diagram/blocks.js';
import { isNamed } from '../diagram/blocks.js';
import { type Path, pathsOf, type PathView } from '../diagram/paths.js';
import type { SignalPair } from '../diagram/reduction.js';
import { nameToLatex, toLatex } from '../expression/latex.js';
import { parse } from '../expression/parse.js';
import { orElse } from '../expression/problem.js';
import { line, type WorkingStep } from './step.js';

const gainLatex = (gain: string): string => toLatex(parse(gain));

/** The signals that have a name, in order: `r → e → y`. */
const through = ({ signals }: Path): string => signals.filter(isNamed).join(' → ');

const subscripts = '₀₁₂₃₄₅₆₇₈₉';
const subscript = (k: number): string => [...String(k)].map((digit) => subscripts[Number(digit)]).join('');

/** Most paths and loops that are written on the board. */
const most = 12;

/** Forward paths and loops of a diagram; null where there are too many to write. */
export function pathsView(diagram: BlockDiagram, pair: SignalPair): PathView | null {
  const view = orElse(null, () => pathsOf(diagram, pair));
  return view && view.loops.length <= most && view.forward.length <= most ? view : null;
}

/** Each path with its way and its gain. */
export function listSteps(view: PathView, list: 'loops' | 'forward'): WorkingStep[] {
  const paths = view[list];
  const [name, letter] = list === 'loops' ? ['Loop', 'L'] : ['Forward path', 'P'];
  if (paths.length === 0)
    return [line(list === 'loops' ? 'No signal comes back to itself:' : 'No way leads there:', '\\text{none}')];
  return paths.map((path, k) => {
    const way = through(path);
    const words = `${name}${paths.length > 1 ? ` ${k + 1}` : ''}${way ? ` through ${way}` : ''}:`;
    return line(words, `${letter}_{${k + 1}}=${gainLatex(path.gain)}`);
  });
}

/**
 * The determinant rule on a diagram: paths, loops, determinant, cofactors. The last line is the quotient before it is
 * simplified. Loops that stand there already are not listed again. Source: S. J. Mason, Feedback theory: further properties of signal flow graphs, 1956.
 */
export function determinantSteps(diagram: BlockDiagram, pair: SignalPair, knowsLoops = false): WorkingStep[] {
  const view = pathsView(diagram, pair);
  if (!view) return [];
  const apart = view.apart.map((set) => set.map((k) => `L${subscript(k + 1)}`).join(', ')).join('; ');
  const isPlain = (cofactor: string) => cofactor === '1';
  const cofactors = view.forward.flatMap(({ cofactor }, k) =>
    isPlain(cofactor)
      ? []
      : [line(`Path ${k + 1} leaves loops untouched:`, `\\Delta_{${k + 1}}=${gainLatex(cofactor)}`)],
  );
  const sum = view.forward
    .map(({ cofactor }, k) => `P_{${k + 1}}${isPlain(cofactor) ? '' : `\\,\\Delta_{${k + 1}}`}`)
    .join('+');
  return [
    ...listSteps(view, 'forward'),
    ...(view.loops.length > 0 && !knowsLoops ? listSteps(view, 'loops') : []),
    ...(view.loops.length > 0 && !knowsLoops
      ? [
          line(
            apart ? `1 less the loops, plus products of those apart (${apart}):` : '1 less the loops, which all touch:',
            `\\Delta=${gainLatex(view.determinant)}`,
          ),
        ]
      : []),
    ...cofactors,
    line(
      'Then',
      `\\frac{${nameToLatex(pair.to)}}{${nameToLatex(pair.from)}}=${view.loops.length > 0 ? `\\frac{${sum || '0'}}{\\Delta}` : sum || '0'}`,
    ),
  ];
}
