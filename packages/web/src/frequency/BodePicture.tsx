import { type ReactNode, useId, useRef } from 'react';
import { placeOn } from '../plot/pointer';
import { bothOf, type Pointing, type Rect, useZoom, type Wheel } from '../plot/useZoom';
import { ZoomBox } from '../plot/ZoomBox';
import { BodeAxes, type BodeFrame, type BodeScale, type BodeUnits } from './BodeAxes';

export const halves = ['magnitude', 'phase'] as const;
export type Half = (typeof halves)[number];

/**
 * The picture of a Bode plot, whatever is drawn in it: axes, the halves cut off at their edges, the frequency that is
 * pointed at, and looking closer at a part.
 */
export function BodePicture({
  scale,
  frame,
  units,
  summary,
  at,
  drag,
  wheel,
  curvesIn,
  onView,
  onBack,
  onRead,
  onAt,
  children,
}: {
  scale: BodeScale;
  frame: BodeFrame;
  units: BodeUnits;
  summary: string;
  at: number | undefined;
  drag: Pointing;
  wheel: Wheel;
  /** What is cut off at the edges of a half. */
  curvesIn: (half: Half) => ReactNode;
  onView: (frame: BodeFrame) => void;
  onBack: () => void;
  /** A click, or Enter for the middle, at a frequency. */
  onRead?: ((omega: number) => void) | undefined;
  onAt: (omega: number | undefined) => void;
  /** What stands over the curves. */
  children: ReactNode;
}) {
  const clip = useId();
  const picture = useRef<SVGSVGElement>(null);
  const { width, height, left, right, top, half, lower, bottom, x } = scale;
  const readAt = (px: number) => {
    const omega = x.invert(px);
    if (omega >= frame.from && omega <= frame.to) onRead?.(omega);
  };
  const zoom = useZoom(
    picture,
    { left, right: width - right, top, bottom },
    {
      onView: (part) => onView(seen(part, frame, scale)),
      onBack,
      onEnter: ({ px }) => readAt(px),
    },
    { isOn: width > 0, wheel },
  );
  return (
    <svg
      width={width}
      height={height}
      ref={picture}
      role="group"
      aria-label={summary}
      className={`block touch-pan-y text-[11px] select-none [&_[role=slider]]:touch-none ${onRead ? 'cursor-crosshair' : ''}`}
      {...bothOf(zoom.handlers, drag)}
      onClick={(event) => readAt(placeOn(event.currentTarget, event).px)}
      onPointerLeave={() => onAt(undefined)}
    >
      <defs>
        {halves.map((of) => (
          <clipPath key={of} id={`${clip}-${of}`}>
            <rect
              x={left}
              y={of === 'magnitude' ? top : lower}
              width={Math.max(0, width - left - right)}
              height={half}
            />
          </clipPath>
        ))}
      </defs>
      <BodeAxes {...{ scale, frame, units }} />
      {halves.map((of) => (
        <g key={of} clipPath={`url(#${clip}-${of})`} className="fill-none" strokeLinejoin="round">
          {curvesIn(of)}
        </g>
      ))}
      <ZoomBox box={zoom.box} />
      {children}
      {at !== undefined && at >= frame.from && at <= frame.to && (
        <line x1={x(at)} x2={x(at)} y1={top} y2={bottom} className="pointer-events-none stroke-copper/60" />
      )}
    </svg>
  );
}

/** A part of the picture as axes; a box in one half leaves the axis of the other. */
function seen(part: Rect, frame: BodeFrame, { x, db, phase, top, half, lower }: BodeScale): BodeFrame {
  const [from, to] = [x.invert(part.left), x.invert(part.right)];
  const [low, high] = [Math.min(part.bottom, top + half), Math.max(part.top, lower)];
  return {
    ...{ ...frame, from: Math.max(1e-12, from), to: Math.min(1e12, to) },
    ...(part.top < top + half ? { dbLow: db.invert(low), dbHigh: db.invert(part.top) } : {}),
    ...(part.bottom > lower ? { phaseLow: phase.invert(part.bottom), phaseHigh: phase.invert(high) } : {}),
  };
}
