import { nameToLatex, orProblem, parse, Problem, toLatex } from '@nailset/core';
import { type BlockDiagram, pathsOf, type PathView, type SignalPair } from '@nailset/core/diagrams';
import { useMemo, useState } from 'react';
import { Formula } from '../shared/Formula';
import { DiagramView } from './DiagramView';

const latexOf = (gain: string): string => toLatex(parse(gain));

/** Forward paths, loops, sets of loops apart, determinant and cofactors; each traced on the picture when pointed at. */
export function PathPanel({ diagram, pair }: { diagram: BlockDiagram; pair: SignalPair }) {
  const { from, to } = pair;
  const view = useMemo((): PathView | Problem => {
    return orProblem(() => pathsOf(diagram, { from, to }));
  }, [diagram, from, to]);
  const [traced, setTraced] = useState<readonly string[]>([]);
  if (view instanceof Problem) return <p className="text-note text-brick">{view.message}</p>;

  const entry = (key: string, label: string, latex: string, signals: readonly string[]) => (
    <li
      key={key}
      className="flex flex-wrap items-baseline gap-x-3 px-1 py-1 hover:bg-wash"
      onPointerEnter={() => setTraced(signals)}
    >
      <button
        type="button"
        className="link w-14 text-left text-note"
        aria-pressed={signals.length > 0 && signals.join() === traced.join()}
        onFocus={() => setTraced(signals)}
        onClick={() => setTraced(signals)}
      >
        {label}
      </button>
      <Formula latex={latex} />
    </li>
  );
  const sets = view.apart.map((set) => ({ set, signals: set.flatMap((k) => view.loops[k]!.signals) }));
  return (
    <section aria-label="Paths and loops" className="grid gap-4">
      <DiagramView
        title={`Paths from ${from} to ${to}`}
        diagram={diagram}
        outputs={[to]}
        traced={traced}
        className="h-[clamp(180px,30vh,300px)]"
      />
      <div className="grid gap-x-6 gap-y-3 @min-[700px]:grid-cols-2">
        <div>
          <h2 className="caption mb-1">Forward paths and cofactors</h2>
          <ul>
            {view.forward.map(({ gain, cofactor, signals }, k) =>
              entry(
                `path ${k}`,
                `path ${k + 1}`,
                `P_{${k + 1}}=${latexOf(gain)},\\quad \\Delta_{${k + 1}}=${latexOf(cofactor)}`,
                signals,
              ),
            )}
          </ul>
          {view.forward.length === 0 && (
            <p className="text-slate">
              None leads from {from} to {to}.
            </p>
          )}
        </div>
        <div>
          <h2 className="caption mb-1">Loops</h2>
          <ul>
            {view.loops.map(({ gain, signals }, k) =>
              entry(`loop ${k}`, `loop ${k + 1}`, `L_{${k + 1}}=${latexOf(gain)}`, signals),
            )}
            {sets.map(({ set, signals }) =>
              entry(`set ${set.join()}`, 'apart', set.map((k) => `L_{${k + 1}}`).join('\\,'), signals),
            )}
          </ul>
          {view.loops.length === 0 && <p className="text-slate">There are none.</p>}
        </div>
      </div>
      <p className="overflow-x-auto overflow-y-hidden py-1">
        <Formula
          latex={`\\displaystyle \\Delta=${latexOf(view.determinant)},\\qquad \\frac{${nameToLatex(to)}}{${nameToLatex(from)}}=\\frac{\\sum_k P_k\\,\\Delta_k}{\\Delta}`}
        />
      </p>
    </section>
  );
}
