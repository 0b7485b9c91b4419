import { type BlockDiagram, type Drawing, drawingKey, type DrawnGroup, layoutOf } from '@nailset/core/diagrams';
import { use, useEffect, useMemo, useState } from 'react';
import { layOut } from './elk';
import { KnownDrawings } from './knownDrawings';

const none: readonly DrawnGroup[] = [];

/** A diagram with the places of its parts. */
export interface Drawn {
  readonly diagram: BlockDiagram;
  readonly drawing: Drawing;
}

/** The drawing of a diagram, or why there is none; while a new one is laid out, the one before stays. */
export function useDrawing(
  diagram: BlockDiagram | undefined,
  outputs: readonly string[],
  closed: readonly DrawnGroup[] = none,
): { drawn?: Drawn; failed?: string } {
  const drawings = use(KnownDrawings);
  const [result, setResult] = useState<{ drawn?: Drawn; failed?: string }>({});
  const asked = outputs.join(' ');
  const known = useMemo(() => {
    const drawing =
      diagram && drawings.size > 0 && closed.length === 0
        ? drawings.get(drawingKey(diagram, asked.split(' ')))
        : undefined;
    return diagram && drawing ? { drawn: { diagram, drawing } } : undefined;
  }, [diagram, asked, drawings, closed]);
  useEffect(() => {
    if (!diagram || known) return undefined;
    let current = true;
    layoutOf(layOut, diagram, asked.split(' '), closed).then(
      (drawing) => current && setResult({ drawn: { diagram, drawing } }),
      (error: Error) => current && setResult({ failed: `No drawing: ${error.message} Reload the page to try again.` }),
    );
    return () => {
      current = false;
    };
  }, [diagram, asked, closed, known]);
  return known ?? result;
}
