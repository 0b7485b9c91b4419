import { formatNumber } from '@nailset/core';
import { type PointerEvent, type ReactNode, useRef } from 'react';
import type { PlaneFrame } from '../plane/locus';
import { type PlaneScale, stepFor } from '../plane/LocusLayers';
import { planeView } from '../plane/view';
import { Pen } from '../plot/pen';
import { useZoom, type Wheel } from '../plot/useZoom';
import { ZoomBox } from '../plot/ZoomBox';
import type { BodeCurve } from './BodeAxes';
import { pointOf } from './readings';

/** A frame with −1 and the unit circle in it. */
export const nyquistFrame: PlaneFrame = { re: -0.6, im: 0, reach: 2 };

/** The picture of a Nyquist plot, whatever is drawn in it: axes, the unit circle, −1, and looking closer at a part. */
export function NyquistPicture({
  scale,
  summary,
  wheel,
  onView,
  onBack,
  onPoint,
  onLeave,
  children,
}: {
  scale: PlaneScale;
  summary: string;
  wheel: Wheel;
  onView: (frame: PlaneFrame) => void;
  onBack: () => void;
  onPoint?: (event: PointerEvent<SVGSVGElement>) => void;
  onLeave?: () => void;
  children: ReactNode;
}) {
  const { x, y, unit, width, height, frame } = scale;
  const mark = stepFor(2 * frame.reach, 5);
  const picture = useRef<SVGSVGElement>(null);
  const zoom = useZoom(
    picture,
    { left: 0, right: width, top: 0, bottom: height },
    { onView: (part) => onView(planeView(scale, part)), onBack },
    { isOn: width > 0, wheel },
  );
  return (
    <svg
      width={width}
      height={height}
      ref={picture}
      role="group"
      aria-label={summary}
      className="block touch-pan-y overflow-hidden text-[11px]"
      {...zoom.handlers}
      onPointerMove={(event) => {
        zoom.handlers.onPointerMove(event);
        onPoint?.(event);
      }}
      onPointerLeave={onLeave}
    >
      <path d={`M0 ${y(0)}H${width}M${x(0)} 0V${height}`} className="stroke-ink" />
      {[-2, -1, 1, 2]
        .filter((k) => k * mark !== -1)
        .map((k) => (
          <text key={k} x={x(k * mark)} y={y(0) + 14} textAnchor="middle" className="fill-slate">
            {formatNumber(k * mark)}
          </text>
        ))}
      <circle cx={x(0)} cy={y(0)} r={unit} className="fill-none stroke-slate" strokeDasharray="3 3" />
      {children}
      <path d={`M${x(-1) - 5} ${y(0)}h10m-5 -5v10`} className="stroke-brick" strokeWidth="2.2" />
      <text x={x(-1)} y={y(0) - 9} textAnchor="middle" className="fill-brick">
        −1
      </text>
      <ZoomBox box={zoom.box} />
    </svg>
  );
}

/** The points of a frequency response in the plane. */
export const nyquistPoints = ({ magnitudesDb, phasesDegrees }: BodeCurve): { re: number; im: number }[] =>
  Array.from(magnitudesDb, (db, k) => pointOf({ db, degrees: phasesDegrees[k] ?? 0 }));

/** A line through the points that can be seen. */
export function nyquistPath(points: Iterable<{ re: number; im: number }>, { x, y }: PlaneScale): string {
  const pen = new Pen();
  for (const { re, im } of points) {
    const [px, py] = [x(re), y(im)];
    if (Math.abs(px) < 4e3 && Math.abs(py) < 4e3) pen.to(px, py);
    else pen.lift();
  }
  return pen.written;
}

/** The mirror image of a path about the real axis. */
export const mirrored = ({ y }: PlaneScale): string => `matrix(1 0 0 -1 0 ${2 * y(0)})`;
