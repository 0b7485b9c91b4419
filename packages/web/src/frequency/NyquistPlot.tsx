import { formatNumber } from '@nailset/core';
import { useMemo } from 'react';
import type { PlaneFrame } from '../plane/locus';
import { planeScale, stepFor } from '../plane/LocusLayers';
import { tenths } from '../plot/frame';
import { PlotFrame } from '../plot/PlotFrame';
import { placeOn } from '../plot/pointer';
import { useSize } from '../plot/useSize';
import { type FrequencyResponse, nyquistPoints } from './frequencyData';

/** A frame with −1 and the unit circle in it. */
export const nyquistFrame: PlaneFrame = { re: -0.6, im: 0, reach: 2 };

/** L(jω) and its mirror image in the plane, with the unit circle and −1; the frequency pointed at is marked. */
export function NyquistPlot({
  response,
  frame,
  onFrame,
  at,
  onAt,
  className,
}: {
  response: FrequencyResponse;
  frame: PlaneFrame;
  onFrame: (frame: PlaneFrame) => void;
  at: number | undefined;
  onAt: (omega: number | undefined) => void;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const scale = planeScale(frame, width, height);
  const { x, y, unit } = scale;
  const points = useMemo(() => nyquistPoints(response), [response]);
  let path = '';
  let isDrawing = false;
  for (const { re, im } of points) {
    const [px, py] = [x(re), y(im)];
    const seen = Math.abs(px) < 4e3 && Math.abs(py) < 4e3;
    if (seen) path += `${isDrawing ? 'L' : 'M'}${tenths(px)} ${tenths(py)}`;
    isDrawing = seen;
  }
  const marked = at === undefined ? undefined : points[nearest(response.omegas, at)];
  const middle = points[Math.floor(points.length / 2)];
  const zoom = (factor: number) => onFrame({ re: frame.re * factor, im: 0, reach: frame.reach * factor });
  const marks = stepFor(2 * frame.reach, 5);
  return (
    <PlotFrame
      title="Nyquist"
      onFit={() => onFrame(nyquistFrame)}
      className={className}
      table={() => ({
        heads: ['ω, rad/s', 'real part', 'imaginary part'],
        rows: points.flatMap(({ re, im }, k) => (k % 10 === 0 ? [[response.omegas[k]!, re, im]] : [])),
      })}
      tools={
        <>
          <button type="button" className="link" aria-label="Zoom out" onClick={() => zoom(1.5)}>
            −
          </button>
          <button type="button" className="link" aria-label="Zoom in" onClick={() => zoom(1 / 1.5)}>
            +
          </button>
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label={`Nyquist plot. ${response.count}`}
            className="block overflow-hidden text-[11px]"
            onPointerMove={(event) => {
              const { px, py } = placeOn(event.currentTarget, event);
              let [best, least] = [-1, 24];
              points.forEach(({ re, im }, k) => {
                const distance = Math.hypot(x(re) - px, y(im) - py);
                if (distance < least) [best, least] = [k, distance];
              });
              onAt(best < 0 ? undefined : response.omegas[best]);
            }}
            onPointerLeave={() => onAt(undefined)}
          >
            <line x1={0} x2={width} y1={y(0)} y2={y(0)} className="stroke-ink" />
            <line x1={x(0)} x2={x(0)} y1={0} y2={height} className="stroke-ink" />
            {[-2, -1, 1, 2]
              .filter((k) => k * marks !== -1)
              .map((k) => (
                <text key={k} x={x(k * marks)} y={y(0) + 14} textAnchor="middle" className="fill-slate">
                  {formatNumber(k * marks)}
                </text>
              ))}
            <circle cx={x(0)} cy={y(0)} r={unit} className="fill-none stroke-slate" strokeDasharray="3 3" />
            <path
              d={path}
              transform={`matrix(1 0 0 -1 0 ${2 * y(0)})`}
              className="fill-none stroke-petrol/40"
              strokeWidth="1.4"
              strokeDasharray="5 3"
            />
            <path data-curve="nyquist" d={path} className="fill-none stroke-petrol" strokeWidth="2" />
            {middle && Math.abs(x(middle.re)) < width && (
              <path d={`M${x(middle.re) - 4} ${y(middle.im)}l4 -4l4 4`} className="fill-none stroke-petrol" />
            )}
            <path d={`M${x(-1) - 5} ${y(0)}h10m-5 -5v10`} className="stroke-brick" strokeWidth="2.2" />
            <text x={x(-1)} y={y(0) - 9} textAnchor="middle" className="fill-brick">
              −1
            </text>
            {marked && (
              <g className="fill-copper">
                <circle cx={x(marked.re)} cy={y(marked.im)} r="4" />
                <text x={x(marked.re) + 7} y={y(marked.im) - 5}>
                  {formatNumber(at!)} rad/s
                </text>
              </g>
            )}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}

function nearest(omegas: Float64Array, omega: number): number {
  let best = 0;
  for (let k = 1; k < omegas.length; k++) {
    if (Math.abs(omegas[k]! - omega) < Math.abs(omegas[best]! - omega)) best = k;
  }
  return best;
}
