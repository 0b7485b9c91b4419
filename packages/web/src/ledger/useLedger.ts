import type { ReductionStep } from '@nailset/core';
import { type BlockDiagram, isNamed, type Move, moveOfStep, readBlocks, restricted } from '@nailset/core/diagrams';
import { useMemo } from 'react';

/** One line of the ledger: the step, what it made, and the diagram after it. */
export interface LedgerLine {
  readonly step: ReductionStep;
  readonly before: BlockDiagram;
  readonly move: Move;
  /** As it is drawn: with what the student typed in the block that it made. */
  readonly shown: BlockDiagram;
}

export interface ReductionQuestion {
  readonly equations: string;
  readonly from: string;
  readonly to: string;
}

/** The diagram that a reduction starts from. @throws Problem for equations that cannot be read. */
export const startOf = ({ equations, from, to }: ReductionQuestion): BlockDiagram =>
  restricted(readBlocks(equations, [from]), { from, to });

/** The steps made again on the diagram; steps that are no longer legal end the list. */
export function ledgerOf(question: ReductionQuestion, steps: readonly ReductionStep[]): LedgerLine[] {
  const lines: LedgerLine[] = [];
  let before = startOf(question);
  let typed = new Map<string, string>();
  for (const step of steps) {
    const move = moveOfStep(before, question.to, step);
    if (!move) break;
    typed = new Map([...typed].filter(([id]) => id !== move.makes && move.after.nodes.some((node) => node.id === id)));
    if (step.gain !== undefined && isNamed(move.makes)) typed.set(move.makes, step.gain);
    lines.push({ step, before, move, shown: withTyped(move.after, typed) });
    before = move.after;
  }
  return lines;
}

function withTyped(diagram: BlockDiagram, typed: ReadonlyMap<string, string>): BlockDiagram {
  if (typed.size === 0) return diagram;
  const nodes = diagram.nodes.map((node) => {
    const gain = typed.get(node.id);
    return node.kind === 'block' && gain !== undefined ? { ...node, gain } : node;
  });
  return { ...diagram, nodes };
}

export function useLedger(question: ReductionQuestion, steps: readonly ReductionStep[]) {
  const { equations, from, to } = question;
  return useMemo(() => {
    const of = { equations, from, to };
    return { start: startOf(of), lines: ledgerOf(of, steps) };
  }, [equations, from, to, steps]);
}
