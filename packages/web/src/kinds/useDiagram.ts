import { readBlocks } from '@nailset/core/diagrams';
import { useMemo } from 'react';

/** The drawing of a part, read once. */
export function useDiagram({ equations, from }: { equations: string; from: string }) {
  return useMemo(() => readBlocks(equations, [from]), [equations, from]);
}
