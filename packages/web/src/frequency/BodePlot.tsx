import { formatNumber, type FrequencyTable } from '@nailset/core';
import { memo, useMemo } from 'react';
import { AxesMenu } from '../plot/AxesMenu';
import { tenths } from '../plot/frame';
import { Pen } from '../plot/pen';
import { PlotFrame } from '../plot/PlotFrame';
import { isNear, markAt, type Place, sliderProps, useDrag } from '../plot/useDrag';
import { useSize } from '../plot/useSize';
import {
  type BodeCurve,
  bodeEnds,
  type BodeFrame,
  type BodeScale,
  bodeScale,
  type BodeUnits,
  bodeWith,
  levelAt,
  MarginMarks,
} from './BodeAxes';
import { BodePicture, type Half } from './BodePicture';
import type { MarginMark } from './frequencyData';
import { BodeReadings, readingAt } from './FrequencyReadings';
import type { FrequencyReadings, ReadSystem } from './readings';

/** A term whose corner frequency is dragged along the axis. */
export interface Corner {
  readonly name: string;
  readonly kind: 'zero' | 'pole';
  /** In rad/s. */
  readonly omega: number;
}

type Held = Corner | { readonly level: number; readonly from: number } | { readonly reading: number };

interface BodePlotProps {
  curve: BodeCurve;
  /** Straight lines from corner to corner. */
  asymptote: readonly { readonly omega: number; readonly db: number }[];
  /** Where the work began. */
  before?: BodeCurve | undefined;
  data?: FrequencyTable;
  marks?: readonly MarginMark[];
  /** Whether the closed loop is. */
  stable?: boolean;
  summary: string;
  frame: BodeFrame;
  units: BodeUnits;
  onUnits: (units: BodeUnits) => void;
  readings: FrequencyReadings;
  /** What is read. */
  system: ReadSystem;
  onFit: () => void;
  /** Looks closer at a part, and goes back. */
  onView: (frame: BodeFrame) => void;
  onBack: () => void;
  corners: readonly Corner[];
  onCorner: (name: string, omega: number) => void;
  /** Raises the whole curve by so many decibels. */
  onLevel?: (db: number) => void;
  /** Frequency that is pointed at in any of the linked plots. */
  at: number | undefined;
  onAt: (omega: number | undefined) => void;
  className: string;
}

/**
 * Magnitude above phase over one logarithmic frequency axis, with every margin and straight lines, or with measured
 * points. Terms that the student sets are dragged along the axis by their corner frequency, the level up and down.
 */
export function BodePlot(props: BodePlotProps) {
  const { curve, frame, units, onUnits, className } = props;
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const scale = useMemo(() => bodeScale(frame, units, width, height), [frame, units, width, height]);
  return (
    <PlotFrame
      title="Bode"
      onFit={props.onFit}
      className={className}
      table={() => ({
        heads: ['ω, rad/s', 'magnitude, dB', 'phase, °'],
        rows: Array.from(curve.omegas)
          .map((omega, k) => [omega, curve.magnitudesDb[k]!, curve.phasesDegrees[k]!])
          .filter((_, k) => k % 10 === 0),
      })}
      tools={
        <>
          <AxesMenu
            axes={bodeEnds(frame, units, 's')}
            reads
            onChange={(axis, ends) => props.onView(bodeWith(frame, units, axis, ends))}
          />
          <button type="button" className="link" onClick={() => onUnits({ ...units, ratio: !units.ratio })}>
            {units.ratio ? 'ratio' : 'dB'}
          </button>
          <button type="button" className="link" onClick={() => onUnits({ ...units, hertz: !units.hertz })}>
            {units.hertz ? 'Hz' : 'rad/s'}
          </button>
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] ${className}`}>
        {width > 0 && <Drawing {...props} scale={scale} />}
      </div>
    </PlotFrame>
  );
}

type DrawingProps = BodePlotProps & { scale: BodeScale };

function Drawing(props: DrawingProps) {
  const { curve, frame, units, scale, summary, marks = [], stable = true, at, onLevel, onCorner } = props;
  const { readings, system } = props;
  const { onAt, onView, onBack } = props;
  const { left, x, db } = scale;
  const level = { x: left + 10, value: levelAt(curve, x.invert(left + 10)) };
  return (
    <BodePicture
      {...{ scale, frame, units, summary, at, onAt, onView, onBack }}
      drag={useBodeDrag(props, { px: level.x, py: db(level.value) })}
      wheel="withCtrl"
      onRead={readings.add}
      curvesIn={(half) => <Curves {...props} of={half} />}
    >
      <MarginMarks {...{ marks, curve, scale, stable }} />
      <BodeReadings {...{ readings, system, scale, frame }} ratio={units.ratio} />
      {onLevel && (
        <Grip
          label="Level K"
          name="K"
          value={level.value}
          words={`${formatNumber(level.value)} dB`}
          x={level.x}
          y={db(level.value)}
          className="cursor-ns-resize"
          onStep={(steps) => onLevel(steps / 10)}
        />
      )}
      {props.corners
        .filter(({ omega }) => omega >= frame.from && omega <= frame.to)
        .map(({ name, kind, omega }) => (
          <Grip
            key={name}
            label={`Corner of ${kind} ${name}`}
            name={name.replace(/r$/, '').replace('w', 'ω')}
            corner={name}
            value={omega}
            words={`${formatNumber(omega)} rad/s`}
            x={x(omega)}
            y={db(levelAt(curve, omega))}
            isBelow={kind === 'pole'}
            className="cursor-ew-resize"
            onStep={(steps) => onCorner(name, omega * 1.02 ** steps)}
          />
        ))}
    </BodePicture>
  );
}

/** Dragging corners and readings along the axis and the level up and down; otherwise the frequency that is pointed at is told. */
function useBodeDrag(
  { curve, frame, scale, corners, readings, onCorner, onLevel, onAt }: DrawingProps,
  levelGrip: Place,
) {
  const { x, db } = scale;
  return useDrag<Held>({
    take: (at) => {
      const corner = markAt(at, corners, ({ omega }) => ({ px: x(omega), py: db(levelAt(curve, omega)) }));
      if (corner) return corner;
      if (onLevel && isNear(at, levelGrip)) return { level: 0, from: db.invert(at.py) };
      const reading = readingAt(readings, at, scale);
      return reading === undefined ? undefined : { reading };
    },
    drag: (held, { px, py }) => {
      if ('name' in held) return onCorner(held.name, x.invert(px));
      if ('reading' in held) {
        const to = Math.min(frame.to, Math.max(frame.from, x.invert(px)));
        readings.move(held.reading, to);
        return { reading: to };
      }
      const level = db.invert(py) - held.from;
      onLevel?.(level - held.level);
      return { ...held, level };
    },
    hover: ({ px }) => {
      const omega = x.invert(px);
      onAt(omega >= frame.from && omega <= frame.to ? omega : undefined);
    },
  });
}

/** Straight lines, the curve where the work began, the present one and what was measured. */
function Curves({ curve, asymptote, before, data, scale, of }: DrawingProps & { of: Half }) {
  const { x, db } = scale;
  const isMagnitude = of === 'magnitude';
  return (
    <>
      {isMagnitude && (
        <path
          d={asymptote
            .map(({ omega, db: level }, k) => `${k ? 'L' : 'M'}${tenths(x(omega))} ${tenths(db(level))}`)
            .join('')}
          data-mark="asymptote"
          className="stroke-slate"
          strokeDasharray="5 4"
        />
      )}
      {before && <CurvePath curve={before} of={of} scale={scale} className="stroke-ghost" strokeWidth={1.4} />}
      <CurvePath curve={curve} of={of} scale={scale} className="stroke-petrol" strokeWidth={2} name={of} />
      {data && <Measured of={of} data={data} scale={scale} />}
    </>
  );
}

/** What was measured, of magnitude or phase. */
export function Measured({ of, data, scale: { x, db, phase } }: { of: Half; data: FrequencyTable; scale: BodeScale }) {
  const isMagnitude = of === 'magnitude';
  const measured = isMagnitude ? data.magnitudesDb : data.phasesDegrees;
  return (
    measured && (
      <g className="fill-ink" data-mark={isMagnitude ? 'magnitudes' : 'phases'}>
        {data.omegas.map((omega, k) => (
          <circle key={omega} cx={x(omega)} cy={(isMagnitude ? db : phase)(measured[k]!)} r="2" />
        ))}
      </g>
    )
  );
}

/** Magnitude or phase of one response; it stays as it is while another is dragged. */
export const CurvePath = memo(function CurvePath({
  curve,
  of,
  scale: { x, db, phase },
  className,
  strokeWidth,
  dash,
  name,
}: {
  curve: BodeCurve;
  of: 'magnitude' | 'phase';
  scale: BodeScale;
  className: string;
  strokeWidth: number;
  dash?: string | undefined;
  /** Given to the response that is worked on. */
  name?: string;
}) {
  const [values, y] = of === 'magnitude' ? [curve.magnitudesDb, db] : [curve.phasesDegrees, phase];
  const pen = new Pen();
  for (let k = 0; k < curve.omegas.length; k++) {
    const py = y(values[k]!);
    if (Number.isFinite(curve.magnitudesDb[k]!) && Math.abs(py) < 5e3) pen.to(x(curve.omegas[k]!), py);
    else pen.lift();
  }
  return (
    <path data-curve={name} d={pen.written} className={className} strokeWidth={strokeWidth} strokeDasharray={dash} />
  );
});

/** A ring on the curve that is dragged, and a slider for the keyboard. */
function Grip({
  label,
  name,
  corner,
  value,
  words,
  x,
  y,
  isBelow = false,
  className,
  onStep,
}: {
  label: string;
  name: string;
  corner?: string;
  value: number;
  words: string;
  x: number;
  y: number;
  /** Whether its name stands below, so that the names of a zero and a pole side by side keep apart. */
  isBelow?: boolean;
  className: string;
  onStep: (steps: number) => void;
}) {
  return (
    <g
      data-corner={corner}
      {...sliderProps({ label, value, words, onStep: ({ right, up }) => onStep(right + up) })}
      className={`outline-none [&:focus-visible>circle]:stroke-[3] ${className}`}
    >
      <circle cx={x} cy={y} r="8" className="fill-copper/15 stroke-copper" strokeWidth="1.4" />
      <text
        x={x}
        y={isBelow ? y + 20 : y - 12}
        textAnchor="middle"
        strokeWidth="3"
        className="fill-copper stroke-sheet/85 [paint-order:stroke]"
      >
        {name}
      </text>
    </g>
  );
}
