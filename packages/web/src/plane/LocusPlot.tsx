import { formatPoint, formatPoints, hiddenWords, nearestOnBranches, nearestOnLocus, type Pole } from '@nailset/core';
import { useMemo, useRef } from 'react';
import { AxesMenu } from '../plot/AxesMenu';
import { PlotFrame } from '../plot/PlotFrame';
import { placeOn } from '../plot/pointer';
import { HiddenMode } from '../plot/PolePlane';
import { isNear, markAt, type Place, sliderProps, useDrag } from '../plot/useDrag';
import { useSize } from '../plot/useSize';
import { bothOf, useZoom } from '../plot/useZoom';
import { ZoomBox } from '../plot/ZoomBox';
import type { Handle } from './handles';
import { LayerMenu } from './LayerMenu';
import { type Locus, type PlaneFrame, type PoleRegion } from './locus';
import {
  BranchPaths,
  Cross,
  DampingGrid,
  Label,
  type Layers,
  OpenLoopMarks,
  PlaneAxes,
  type PlaneScale,
  planeScale,
  RegionMark,
  SpecialMarks,
  SweptPaths,
} from './LocusLayers';
import type { PlaneReading } from './readings';
import type { Sweep } from './sweep';
import { planeAxes, planeView, planeWith } from './view';
import { ZoomButtons } from './ZoomButtons';

interface Point {
  readonly re: number;
  readonly im: number;
}

/** What is held while the pointer is down. */
type Held = { what: 'gain' } | { what: 'handle'; handle: Handle } | { what: 'reading'; id: number };

interface LocusPlotProps {
  locus: Locus;
  frame: PlaneFrame;
  layers: Layers;
  onLayers: (layers: Layers) => void;
  onFrame: (frame: PlaneFrame) => void;
  /** To what was looked at before. */
  onBack: () => void;
  /** Of the closed loop, now and where the work began. */
  poles: readonly Pole[];
  /** Modes that cancel and stay where they are. */
  hidden: readonly Pole[];
  before: readonly Pole[];
  /** On the locus now; null when it is not the student's to set. */
  gain: number | null;
  handles: readonly Handle[];
  region: PoleRegion;
  readings: readonly PlaneReading[];
  /** What readings are set on: the locus, or poles over something else, drawn over it. */
  sweep: Sweep;
  onGain: (gain: number) => void;
  onHandle: (handle: Handle, to: Point) => void;
  onReading: (id: number, gain: number, branch: number) => void;
  onAddReading: (gain: number, branch: number) => void;
  onRemoveReading: (id: number) => void;
  onFit: () => void;
  className: string;
}

/**
 * The root locus on a plane that holds still: present poles are dragged along it, the compensator's zeros and poles
 * freely, readings along their branch. Everything that is dragged is a slider for the keyboard.
 */
export function LocusPlot(props: LocusPlotProps) {
  const { locus, frame, layers, poles, hidden, region, sweep, onFrame, className } = props;
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y } = scale;
  const outside = poles.filter((pole) => x(pole.re) < 0 || x(pole.re) > width || y(pole.im) < 0 || y(pole.im) > height);
  const hasRegion = Object.values(region).some((value) => value !== null);
  const zoom = (factor: number) => onFrame({ re: frame.re * factor, im: frame.im, reach: frame.reach * factor });
  const summary = `Root locus with ${locus.poles.length} branches. Closed-loop poles at ${formatPoints(poles)}${
    hidden.length > 0 ? `; ${hiddenWords(hidden)}` : ''
  }.`;
  return (
    <PlotFrame
      title="s-plane"
      onFit={props.onFit}
      table={() => tableOf(sweep)}
      className={className}
      tools={
        <>
          {outside.length > 0 && <span title="Fit brings them in">{outside.length} outside</span>}
          <LayerMenu layers={layers} hasRegion={hasRegion} onChange={props.onLayers} />
          <AxesMenu axes={planeAxes(scale)} reads onChange={(axis, ends) => onFrame(planeWith(scale, axis, ends))} />
          <ZoomButtons onZoom={zoom} />
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && <Drawing {...props} {...{ scale, hasRegion, summary }} />}
      </div>
    </PlotFrame>
  );
}

function tableOf({ name, branches }: Sweep) {
  return {
    heads: ['branch', name === 'K' ? 'gain' : name, 'real part', 'imaginary part'],
    rows: branches.flatMap(({ gains, re, im }, branch) => {
      const every = Math.max(1, Math.floor(gains.length / 40));
      return Array.from(gains.keys())
        .filter((k) => k % every === 0)
        .map((k) => [branch + 1, gains[k]!, re[k]!, im[k]!]);
    }),
  };
}

type DrawingProps = LocusPlotProps & {
  scale: PlaneScale;
  hasRegion: boolean;
  summary: string;
};

function Drawing(props: DrawingProps) {
  const { locus, layers, scale, poles, hidden, before, gain, region, sweep } = props;
  const { width, height, x, y } = scale;
  const picture = useRef<SVGSVGElement>(null);
  const { drag, read } = useLocusDrag(props);
  const zoom = useZoom(
    picture,
    { left: 0, right: width, top: 0, bottom: height },
    { onView: (part) => props.onFrame(planeView(scale, part)), onBack: props.onBack, onEnter: read },
    { isOn: width > 0, wheel: 'withCtrl' },
  );
  return (
    <svg
      ref={picture}
      width={width}
      height={height}
      role="group"
      aria-label={props.summary}
      className="block touch-pan-y [&_[role=slider]]:touch-none overflow-hidden text-[11px] select-none"
      {...bothOf(zoom.handlers, drag)}
      onClick={(event) => read(placeOn(event.currentTarget, event), 'near')}
    >
      <PlaneAxes scale={scale} />
      {layers.region && props.hasRegion && <RegionMark region={region} scale={scale} />}
      {layers.grid && <DampingGrid scale={scale} />}
      <SpecialMarks locus={locus} layers={layers} scale={scale} />
      <BranchPaths branches={locus.branches} scale={scale} />
      {sweep.branches !== locus.branches && <SweptPaths sweep={sweep} scale={scale} />}
      <OpenLoopMarks locus={locus} scale={scale} />
      {before.map(({ re, im }, k) => (
        <circle key={k} cx={x(re)} cy={y(im)} r="5" className="fill-none stroke-ghost" strokeWidth="1.4" />
      ))}
      {props.handles.map((handle) => (
        <HandleMark key={handle.name} handle={handle} scale={scale} onHandle={props.onHandle} />
      ))}
      {props.readings.map((reading) => (
        <ReadingMark key={reading.id} {...props} reading={reading} />
      ))}
      {hidden.map((mode, k) => (
        <HiddenMode key={k} x={x(mode.re)} y={y(mode.im)} unstable={mode.re >= 0} />
      ))}
      {poles.map((pole, k) => (
        <circle
          key={k}
          data-pole={k}
          cx={x(pole.re)}
          cy={y(pole.im)}
          r="6"
          strokeWidth="2"
          className={`stroke-sheet ${pole.re < 0 ? 'fill-petrol' : 'fill-brick'} ${gain === null ? '' : 'cursor-grab'}`}
        />
      ))}
      {gain !== null && <GainMark poles={poles} gain={gain} scale={scale} onGain={props.onGain} />}
      <ZoomBox box={zoom.box} />
    </svg>
  );
}

/** Dragging poles along the locus, handles freely and readings along their branch; a click on a branch reads there. */
function useLocusDrag(props: DrawingProps) {
  const { locus, frame, scale, sweep, gain, handles, readings, poles, onGain, onHandle, onReading } = props;
  const { x, y, unit, width, height } = scale;
  const pointAt = ({ px, py }: Place): Point => ({
    re: frame.re + (px - width / 2) / unit,
    im: frame.im - (py - height / 2) / unit,
  });
  const placeOf = ({ re, im }: Point): Place => ({ px: x(re), py: y(im) });
  const drag = useDrag<Held>({
    take: (at) => {
      const halves = handles.flatMap((handle) => [handle.im, -handle.im].map((im) => ({ re: handle.re, im, handle })));
      const half = markAt(at, halves, placeOf);
      if (half) return { what: 'handle', handle: half.handle };
      const reading = markAt(at, readings, placeOf);
      if (reading) return { what: 'reading', id: reading.id };
      return gain !== null && markAt(at, poles, placeOf) ? { what: 'gain' } : undefined;
    },
    drag: (held, at) => {
      const to = pointAt(at);
      if (held.what === 'handle') return onHandle(held.handle, to);
      if (held.what === 'gain') {
        const nearest = nearestOnLocus(locus.fraction, locus.branches, to);
        if (nearest && nearest.gain > 0) onGain(nearest.gain);
        return;
      }
      const nearest = nearestOnBranches(sweep.branches, to);
      if (nearest) onReading(held.id, nearest.gain, nearest.branch);
    },
  });
  /** A reading where a branch comes nearest to a place, or only where it is there. */
  const read = (at: Place, which: 'nearest' | 'near' = 'nearest') => {
    const nearest = nearestOnBranches(sweep.branches, pointAt(at));
    if (nearest && (which === 'nearest' || isNear(at, placeOf(nearest)))) {
      props.onAddReading(nearest.gain, nearest.branch);
    }
  };
  return { drag, read };
}

const slider = 'cursor-grab outline-none [&:focus-visible_circle]:stroke-[3] [&:focus-visible>path]:stroke-[3]';

/** A zero or pole of the compensator, with its mirror image. */
function HandleMark({
  handle,
  scale: { x, y },
  onHandle,
}: Pick<DrawingProps, 'scale' | 'onHandle'> & { handle: Handle }) {
  const { name, kind, re, im, fine } = handle;
  return (
    <g
      data-handle={name}
      className={slider}
      {...sliderProps({
        label: `${kind === 'zero' ? 'Zero' : 'Pole'} ${name}`,
        value: re,
        words: formatPoint({ re, im }),
        onStep: ({ right, up }) => onHandle(handle, { re: re + right * fine, im: im + up * fine }),
      })}
    >
      {[im, ...(im > 0 ? [-im] : [])].map((at, half) => (
        <g key={half}>
          <circle cx={x(re)} cy={y(at)} r="10" className="fill-copper/10 stroke-copper" strokeWidth="1.2" />
          {kind === 'pole' ? (
            <Cross x={x(re)} y={y(at)} className="stroke-copper" />
          ) : (
            <circle cx={x(re)} cy={y(at)} r="4.5" className="fill-none stroke-copper" strokeWidth="1.8" />
          )}
        </g>
      ))}
      <Label x={x(re)} y={y(im) - 14} text={name.replace(/r$/, '')} />
    </g>
  );
}

function ReadingMark({
  reading: { id, re, im, gain, branch, words },
  scale: { x, y },
  sweep,
  onReading,
  onRemoveReading,
}: DrawingProps & { reading: PlaneReading }) {
  return (
    <g
      data-reading={id}
      className={slider}
      {...sliderProps({
        ...{ label: `Reading ${id}`, value: gain, words },
        onStep: ({ right, up }) => onReading(id, sweep.stepped(gain, right + up), branch),
        onRemove: () => onRemoveReading(id),
      })}
    >
      <path d={`M${x(re) - 5} ${y(im)}l5 -5l5 5l-5 5z`} className="fill-sheet stroke-copper" strokeWidth="1.8" />
      <Label x={x(re) + 9} y={y(im) + 4} anchor="start" text={String(id)} />
    </g>
  );
}

/** The gain as a slider, on the pole that is farthest to the right. */
function GainMark({
  poles,
  gain,
  scale: { x, y },
  onGain,
}: Pick<DrawingProps, 'poles' | 'scale' | 'onGain'> & { gain: number }) {
  const leading = [...poles].filter(({ im }) => im >= 0).sort((a, b) => b.re - a.re)[0];
  if (!leading) return null;
  return (
    <g
      data-gain-slider
      className={slider}
      {...sliderProps({
        label: 'Gain on the locus',
        value: gain,
        words: `K ${Number(gain.toPrecision(4))}`,
        onStep: ({ right, up }) => onGain(gain * 1.02 ** (right + up)),
      })}
    >
      <circle cx={x(leading.re)} cy={y(leading.im)} r="10" className="fill-transparent stroke-petrol/60" />
    </g>
  );
}
