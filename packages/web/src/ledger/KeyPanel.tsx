import { must, orProblem, Problem } from '@nailset/core';
import { type BlockDiagram, reduction, restricted, type SignalPair } from '@nailset/core/diagrams';
import { useMemo, useState } from 'react';
import { DiagramView } from '../diagram/DiagramView';
import { Button } from '../shared/Button';
import { LedgerList } from './LedgerList';
import type { LedgerLine } from './useLedger';

/** A whole reduction, worked out step by step, for the key. */
export function KeyPanel({ diagram, pair }: { diagram: BlockDiagram; pair: SignalPair }) {
  const { from, to } = pair;
  const key = useMemo((): { start: BlockDiagram; lines: LedgerLine[] } | Problem => {
    return orProblem(() => {
      const start = restricted(diagram, { from, to });
      const moves = reduction(diagram, { from, to });
      const lines = moves.map((move, k): LedgerLine => {
        const step = { kind: move.kind, of: [...move.of] };
        return { step, move, before: k === 0 ? start : must(moves[k - 1]).after, shown: move.after };
      });
      return { start, lines };
    });
  }, [diagram, from, to]);
  const [step, setStep] = useState(0);
  if (key instanceof Problem) return <p className="text-note text-brick">{key.message}</p>;
  const { start, lines } = key;
  const at = Math.min(step, lines.length);
  return (
    <section aria-label="Reduction, step by step" className="grid gap-3">
      <DiagramView
        title={`Reduction from ${from} to ${to}, step ${at}`}
        diagram={at === 0 ? start : must(lines[at - 1]).shown}
        outputs={[to]}
        picked={lines[at]?.move.of ?? []}
        className="h-[clamp(180px,36vh,380px)]"
      />
      <p className="flex items-center gap-2">
        <Button disabled={at === 0} className="px-2.5 py-1 text-[13px]" onClick={() => setStep(at - 1)}>
          Step back
        </Button>
        <Button disabled={at === lines.length} className="px-2.5 py-1 text-[13px]" onClick={() => setStep(at + 1)}>
          Next step
        </Button>
        <span className="text-note text-slate">
          {at} of {lines.length}
        </span>
      </p>
      <LedgerList lines={lines} at={at} onGo={setStep} />
    </section>
  );
}
