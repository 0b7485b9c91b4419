import type { BlockDiagram } from '@nailset/core/diagrams';
import { useEffect, useState } from 'react';
import { layOut } from './elk';
import { type Drawing, layoutOf } from './layout';

/** A diagram with the places of its parts. */
export interface Drawn {
  readonly diagram: BlockDiagram;
  readonly drawing: Drawing;
}

/** The drawing of a diagram, or why there is none; while a new one is laid out, the one before stays. */
export function useDrawing(
  diagram: BlockDiagram | undefined,
  outputs: readonly string[],
): { drawn?: Drawn; failed?: string } {
  const [found, setFound] = useState<{ drawn?: Drawn; failed?: string }>({});
  const asked = outputs.join(' ');
  useEffect(() => {
    if (!diagram) return undefined;
    let current = true;
    layoutOf(layOut, diagram, asked.split(' ')).then(
      (drawing) => current && setFound({ drawn: { diagram, drawing } }),
      (error: Error) => current && setFound({ failed: `No drawing: ${error.message} Reload the page to try again.` }),
    );
    return () => {
      current = false;
    };
  }, [diagram, asked]);
  return found;
}
