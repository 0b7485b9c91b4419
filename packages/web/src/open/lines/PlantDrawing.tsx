import { orProblem, Problem } from '@nailset/core';
import { readBlocks } from '@nailset/core/diagrams';
import { useMemo } from 'react';
import { DiagramView } from '../../diagram/DiagramView';

/** The drawing of a line in equations. */
export default function PlantDrawing({
  label,
  equations,
  from,
  to,
}: {
  label: string;
  equations: string;
  from: string;
  to: readonly string[];
}) {
  const read = useMemo(() => orProblem(() => readBlocks(equations, [from])), [equations, from]);
  if (read instanceof Problem) return null;
  return (
    <div className="mt-2 border-t border-rule pt-2">
      <DiagramView title={`Block diagram of ${label}`} diagram={read} outputs={to} className="h-[150px]" />
    </div>
  );
}
