import type { Rect } from './useZoom';

/** The part of a plot that is being chosen. */
export function ZoomBox({ box }: { box: Rect | undefined }) {
  if (!box) return null;
  return (
    <rect
      x={box.left}
      y={box.top}
      width={box.right - box.left}
      height={box.bottom - box.top}
      className="fill-petrol/8 stroke-petrol"
      strokeDasharray="4 3"
      pointerEvents="none"
    />
  );
}
