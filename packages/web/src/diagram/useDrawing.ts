import type { BlockDiagram } from '@nailset/core/diagrams';
import { useEffect, useState } from 'react';
import { elk } from './elk';
import { type Drawing, layoutOf } from './layout';

/** A diagram with the places of its parts. */
export interface Drawn {
  readonly diagram: BlockDiagram;
  readonly drawing: Drawing;
}

/** The drawing of a diagram; while a new one is laid out, the one before stays. */
export function useDrawing(diagram: BlockDiagram | undefined, outputs: readonly string[]): Drawn | undefined {
  const [drawn, setDrawn] = useState<Drawn>();
  const asked = outputs.join(' ');
  useEffect(() => {
    if (!diagram) return undefined;
    let current = true;
    void layoutOf(elk(), diagram, asked.split(' ')).then((drawing) => current && setDrawn({ diagram, drawing }));
    return () => {
      current = false;
    };
  }, [diagram, asked]);
  return drawn;
}
