import type { Curve, TimeUnit } from '@nailset/core';
import { scaleLinear } from 'd3-scale';
import { type ReactNode, useId, useRef } from 'react';
import { type PlotCurve, type Reading, strokes } from './curves';
import { clamp, type Frame, spread, valueAt } from './frame';
import { Hatch } from './Hatch';
import type { Limit } from './limits';
import { Axes, Band, CurvePath, EdgeArrow, Ground, InputLine, Mark, Pin, type Scale } from './marks';
import type { MeasureBand, MeasureMark } from './measureMarks';
import { PlotFrame, type PlotTable } from './PlotFrame';
import { placeOn } from './pointer';
import { type Probe, type ProbeActions, Probes } from './Probes';
import { useTimeUnit } from './timeUnit';
import { useSize } from './useSize';
import { useZoom, type Wheel } from './useZoom';
import { ZoomBox } from './ZoomBox';

/**
 * Responses over time on axes that hold still. Limits are hatched with their nails on them; a curve that leaves the
 * frame is told by an arrow at the edge; everything is also there as a table and as a sentence.
 */
export function ResponsePlot({
  title,
  short,
  frame,
  curves,
  limits = [],
  readings = [],
  reference,
  referenceName = 'reference',
  marks = [],
  band,
  probing,
  onFit,
  onPick,
  onView,
  onBack,
  wheel = 'withCtrl',
  dots = [],
  summary,
  tools,
  className = 'h-[330px]',
}: {
  title: string;
  short?: string;
  frame: Frame;
  curves: readonly PlotCurve[];
  limits?: readonly Limit[];
  /** What drives the system, drawn beside its response. */
  reference?: Curve;
  referenceName?: string;
  /** Where measures are read. */
  marks?: readonly MeasureMark[];
  band?: MeasureBand | undefined;
  /** Readings that a person sets on the present curve. */
  probing?: Probing;
  /** Readings on the curves, with their words. */
  readings?: readonly Reading[];
  onFit?: () => void;
  onPick?: (id: string) => void;
  /** Looks closer at a part, and goes back; without it the axes are only fitted. */
  onView?: ((frame: Frame) => void) | undefined;
  onBack?: () => void;
  wheel?: Wheel;
  /** Measured points. */
  dots?: readonly Dots[];
  summary: string;
  /** Switches, before Fit and Table. */
  tools?: ReactNode;
  className?: string;
}) {
  const unit = useTimeUnit();
  return (
    <PlotFrame
      title={title}
      short={short}
      tools={tools}
      {...(onFit ? { onFit } : {})}
      table={() => tableOf(curves, frame, unit)}
      className={className}
    >
      <Drawing
        {...{
          frame,
          curves,
          limits,
          readings,
          reference,
          referenceName,
          marks,
          band,
          probing,
          onPick,
          onView,
          onBack,
          wheel,
          dots,
          summary,
          className,
        }}
      />
    </PlotFrame>
  );
}

const tableRows = 21;

/** The curves that have a label or a name in numbers, at times over the frame. */
function tableOf(curves: readonly PlotCurve[], { tMin = 0, tMax }: Frame, unit: TimeUnit): PlotTable {
  const shown = curves.filter(({ label, name }) => label ?? name);
  const times = Array.from({ length: tableRows }, (_, k) => tMin + (k * (tMax - tMin)) / (tableRows - 1));
  return {
    heads: [`time, ${unit}`, ...shown.map(({ label, name }) => (name ?? label)!)],
    rows: times.map((time) => [time, ...shown.map(({ curve }) => valueAt(curve, time))]),
  };
}

/** Readings with what a person does to them; a click on the plot sets a new one. */
export interface Probing extends ProbeActions {
  readonly probes: readonly Probe[];
  readonly onAdd: (time: number) => void;
}

function Drawing({
  frame,
  curves,
  limits,
  readings,
  reference,
  referenceName,
  marks,
  band,
  probing,
  onPick,
  onView,
  onBack,
  wheel,
  dots,
  summary,
  className,
}: {
  frame: Frame;
  curves: readonly PlotCurve[];
  limits: readonly Limit[];
  readings: readonly Reading[];
  reference: Curve | undefined;
  referenceName: string;
  marks: readonly MeasureMark[];
  band: MeasureBand | undefined;
  probing: Probing | undefined;
  onPick: ((id: string) => void) | undefined;
  onView: ((frame: Frame) => void) | undefined;
  onBack: (() => void) | undefined;
  wheel: Wheel;
  dots: readonly Dots[];
  summary: string;
  className: string;
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const [clip, hatch] = [useId(), useId()];
  const labelled = curves.filter((curve) => curve.label);
  const { margin, right, bottom, x, y } = areaOf(frame, width, height, labelled.length > 0 || reference !== undefined);
  const present = curves.find(({ look }) => look === 'now');
  const picture = useRef<SVGSVGElement>(null);
  const zoom = useZoom(
    picture,
    { left: margin.left, right, top: margin.top, bottom },
    {
      onView: (part) => {
        const tMin = Math.max(0, x.invert(part.left));
        onView?.({ tMin, tMax: x.invert(part.right), yMin: y.invert(part.bottom), yMax: y.invert(part.top) });
      },
      onBack: () => onBack?.(),
      onEnter: ({ px }) => probing?.onAdd(x.invert(px)),
    },
    { isOn: onView !== undefined && width > 0, wheel },
  );

  return (
    <div ref={place} className={`relative [contain:strict] ${className}`}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role={probing ? 'group' : 'img'}
          ref={picture}
          aria-label={summary}
          className={`block text-[11px] ${probing ? 'cursor-crosshair' : ''} ${onView ? 'touch-pan-y' : ''}`}
          {...(onView ? zoom.handlers : {})}
          onClick={
            probing &&
            ((event) => {
              const time = x.invert(placeOn(event.currentTarget, event).px);
              if (time >= (frame.tMin ?? 0) && time <= frame.tMax) probing.onAdd(time);
            })
          }
        >
          <defs>
            <clipPath id={clip}>
              <rect x={margin.left} y={margin.top} width={right - margin.left} height={bottom - margin.top} />
            </clipPath>
            <Hatch id={hatch} className="stroke-copper/25" />
          </defs>
          <rect
            x={margin.left}
            y={margin.top}
            width={right - margin.left}
            height={bottom - margin.top}
            className="fill-sheet"
          />
          <Axes frame={frame} x={x} y={y} right={right} bottom={bottom} margin={margin} />
          <g clipPath={`url(#${clip})`}>
            {limits.map((limit) => (
              <Ground key={limit.id} limit={limit} x={x} y={y} fill={`url(#${hatch})`} frame={frame} />
            ))}
            {band && <Band band={band} x={x} y={y} frame={frame} />}
            {reference && <InputLine curve={reference} {...{ frame, x, y, right, bottom }} />}
            {curves.map((each) => (
              <CurvePath key={each.id} {...each} {...{ frame, x, y, right, bottom, onPick }} />
            ))}
            <MeasuredDots {...{ dots, x, y }} />
            <ZoomBox box={zoom.box} />
          </g>
          {marks.map((mark) => (
            <Mark key={mark.id} mark={mark} x={x} y={y} frame={frame} />
          ))}
          {limits.map((limit) => (
            <Pin key={limit.id} limit={limit} x={x} y={y} right={right} frame={frame} />
          ))}
          <Readings {...{ readings, x, y, bottom }} top={margin.top} />
          <EndLabels {...{ curves: labelled, reference, referenceName, frame, y, right, bottom }} top={margin.top} />
          {curves
            .filter(({ look }) => look === 'now' || look === 'second')
            .map(({ id, curve, look, stroke = strokes[look] }) => (
              <EdgeArrow key={id} curve={curve} frame={frame} x={x} top={margin.top} bottom={bottom} stroke={stroke} />
            ))}
          {probing && present && (
            <Probes {...probing} curve={present.curve} {...{ frame, x, y, right, bottom }} top={margin.top} />
          )}
        </svg>
      )}
    </div>
  );
}

/** Measured points; the class gives their colour. */
export interface Dots {
  readonly name: string;
  readonly times: readonly number[];
  readonly values: readonly number[];
  readonly className: string;
}

/** Where the curves are drawn in a picture of this size, and from times and values to its pixels. */
function areaOf(frame: Frame, width: number, height: number, isLabelled: boolean) {
  const margin = { left: 38, right: isLabelled ? (width < 480 ? 74 : 96) : 12, top: 8, bottom: 22 };
  const right = Math.max(width - margin.right, margin.left + 10);
  const bottom = Math.max(height - margin.bottom, margin.top + 10);
  const x = scaleLinear()
    .domain([frame.tMin ?? 0, frame.tMax])
    .range([margin.left, right]);
  const y = scaleLinear().domain([frame.yMin, frame.yMax]).range([bottom, margin.top]);
  return { margin, right, bottom, x, y };
}

function MeasuredDots({ dots, x, y }: { dots: readonly Dots[]; x: Scale; y: Scale }) {
  return dots.map(({ name, times, values, className }) => (
    <g key={name} data-dots={name} className={className}>
      {times.map((time, k) => (
        <circle key={k} cx={x(time)} cy={clamp(y(values[k]!), -1e4, 1e4)} r="2.2" />
      ))}
    </g>
  ));
}

/** The names of the curves at their right ends, moved apart where they would overlap. */
function EndLabels({
  curves,
  reference,
  referenceName,
  frame,
  y,
  top,
  bottom,
  right,
}: {
  curves: readonly PlotCurve[];
  reference: Curve | undefined;
  referenceName: string;
  frame: Frame;
  y: Scale;
  top: number;
  bottom: number;
  right: number;
}) {
  const endOf = (curve: Curve) => clamp(y(valueAt(curve, frame.tMax)), top, bottom);
  const last = reference && reference.times.length > 0 ? [endOf(reference)] : [];
  const at = spread([...curves.map(({ curve }) => endOf(curve)), ...last], 15, top + 4, bottom);
  return (
    <>
      {curves.map(({ id, look, stroke, label }, k) => (
        <text key={id} x={right + 8} y={at[k]! + 4} className={(stroke ?? strokes[look]).text}>
          {label}
        </text>
      ))}
      {last.length > 0 && (
        <text x={right + 8} y={at[curves.length]! + 4} className="fill-slate">
          {referenceName}
        </text>
      )}
    </>
  );
}

/** Values on the curves, with their words. */
function Readings({
  readings,
  x,
  y,
  top,
  bottom,
}: {
  readings: readonly Reading[];
  x: Scale;
  y: Scale;
  top: number;
  bottom: number;
}) {
  return readings.map(({ time, value, words }, k) => (
    <g key={k} className="fill-petrol">
      <circle cx={x(time)} cy={clamp(y(value), top, bottom)} r="3.2" />
      <text
        x={x(time) + 8}
        y={clamp(y(value) - 8, top + 12, bottom)}
        strokeWidth="4"
        className="stroke-sheet [paint-order:stroke]"
      >
        {words}
      </text>
    </g>
  ));
}
