import { formatNumber } from '@nailset/core';
import { useMemo } from 'react';
import type { PlaneFrame } from '../plane/locus';
import { planeScale } from '../plane/LocusLayers';
import { planeAxes, planeWith } from '../plane/view';
import { ZoomButtons } from '../plane/ZoomButtons';
import { AxesMenu } from '../plot/AxesMenu';
import { PlotFrame } from '../plot/PlotFrame';
import { placeOn } from '../plot/pointer';
import { useSize } from '../plot/useSize';
import type { FrequencyResponse } from './frequencyData';
import { NyquistReadings } from './FrequencyReadings';
import { mirrored, nyquistFrame, nyquistPath, NyquistPicture, nyquistPoints } from './NyquistPicture';
import type { FrequencyReadings, ReadSystem } from './readings';

/** L(jω) and its mirror image in the plane, with the unit circle and −1; the frequency pointed at is marked. */
export function NyquistPlot({
  response,
  frame,
  onFrame,
  onBack,
  at,
  onAt,
  readings,
  system,
  className,
}: {
  response: FrequencyResponse;
  frame: PlaneFrame;
  onFrame: (frame: PlaneFrame) => void;
  onBack: () => void;
  at: number | undefined;
  onAt: (omega: number | undefined) => void;
  readings: FrequencyReadings;
  system: ReadSystem;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y } = scale;
  const points = useMemo(() => nyquistPoints(response), [response]);
  const path = useMemo(() => nyquistPath(points, scale), [points, scale]);
  const marked = at === undefined ? undefined : points[nearest(response.omegas, at)];
  const middle = points[Math.floor(points.length / 2)];
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
          <AxesMenu axes={planeAxes(scale)} onChange={(axis, ends) => onFrame(planeWith(scale, axis, ends))} />
          <ZoomButtons
            onZoom={(factor) => onFrame({ re: frame.re * factor, im: frame.im * factor, reach: frame.reach * factor })}
          />
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && (
          <NyquistPicture
            scale={scale}
            summary={`Nyquist plot. ${response.count}`}
            wheel="withCtrl"
            onView={onFrame}
            onBack={onBack}
            onPoint={(event) => {
              const { px, py } = placeOn(event.currentTarget, event);
              let [best, least] = [-1, 24];
              points.forEach(({ re, im }, k) => {
                const distance = Math.hypot(x(re) - px, y(im) - py);
                if (distance < least) [best, least] = [k, distance];
              });
              onAt(best < 0 ? undefined : response.omegas[best]);
            }}
            onLeave={() => onAt(undefined)}
          >
            <path
              d={path}
              transform={mirrored(scale)}
              className="fill-none stroke-petrol/40"
              strokeWidth="1.4"
              strokeDasharray="5 3"
            />
            <path data-curve="nyquist" d={path} className="fill-none stroke-petrol" strokeWidth="2" />
            {middle && Math.abs(x(middle.re)) < width && (
              <path d={`M${x(middle.re) - 4} ${y(middle.im)}l4 -4l4 4`} className="fill-none stroke-petrol" />
            )}
            <NyquistReadings {...{ readings, system, scale }} />
            {marked && (
              <g className="fill-copper">
                <circle cx={x(marked.re)} cy={y(marked.im)} r="4" />
                <text x={x(marked.re) + 7} y={y(marked.im) - 5}>
                  {formatNumber(at!)} rad/s
                </text>
              </g>
            )}
          </NyquistPicture>
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
