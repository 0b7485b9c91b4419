import { type Pole, formatPoint, formatPoints, hiddenWords, nearestOnBranches, nearestOnLocus } from '@nailset/core';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef } from 'react';
import { flushSync } from 'react-dom';
import { placeOn } from '../plot/pointer';
import { PlotFrame } from '../plot/PlotFrame';
import { HiddenMode } from '../plot/PolePlane';
import { useSize } from '../plot/useSize';
import type { Handle } from './handles';
import {
  BranchPaths,
  Cross,
  DampingGrid,
  Label,
  type Layers,
  PlaneAxes,
  RegionMark,
  SpecialMarks,
  SweptPaths,
  planeScale,
  OpenLoopMarks,
} from './LocusLayers';
import { LayerMenu } from './LayerMenu';
import { type Locus, type PlaneFrame, type PoleRegion } from './locus';
import type { PlaneReading } from './readings';
import type { Sweep } from './sweep';

interface Point {
  readonly re: number;
  readonly im: number;
}

/** What is held while the pointer is down. */
type Held = { what: 'gain' } | { what: 'handle'; handle: Handle } | { what: 'reading'; id: number };

const near = 13;

/**
 * The root locus on a plane that holds still: present poles are dragged along it, the compensator's zeros and poles
 * freely, readings along their branch. Everything that is dragged is a slider for the keyboard.
 */
export function LocusPlot({
  locus,
  frame,
  layers,
  onLayers,
  onFrame,
  poles,
  hidden,
  before,
  gain,
  handles,
  region,
  readings,
  sweep,
  onGain,
  onHandle,
  onReading,
  onAddReading,
  onRemoveReading,
  onFit,
  className,
}: {
  locus: Locus;
  frame: PlaneFrame;
  layers: Layers;
  onLayers: (layers: Layers) => void;
  onFrame: (frame: PlaneFrame) => void;
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
}) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const held = useRef<Held>(undefined);
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y, unit } = scale;

  const pointAt = (event: PointerEvent<SVGSVGElement>): Point & { px: number; py: number } => {
    const { px, py } = placeOn(event.currentTarget, event);
    return { px, py, re: frame.re + (px - width / 2) / unit, im: frame.im - (py - height / 2) / unit };
  };
  const isAt = ({ px, py }: { px: number; py: number }, { re, im }: Point) =>
    Math.hypot(x(re) - px, y(im) - py) <= near;
  const take = (at: ReturnType<typeof pointAt>): Held | undefined => {
    const handle = handles.find((each) => isAt(at, each) || isAt(at, { re: each.re, im: -each.im }));
    if (handle) return { what: 'handle', handle };
    const reading = readings.find((each) => isAt(at, each));
    if (reading) return { what: 'reading', id: reading.id };
    return gain !== null && poles.some((pole) => isAt(at, pole)) ? { what: 'gain' } : undefined;
  };
  const drag = (to: Point) => {
    const now = held.current;
    if (!now) return;
    if (now.what === 'handle') return onHandle(now.handle, to);
    if (now.what === 'gain') {
      const found = nearestOnLocus(locus.fraction, locus.branches, to);
      if (found && found.gain > 0) onGain(found.gain);
      return;
    }
    const found = nearestOnBranches(sweep.branches, to);
    if (found) onReading(now.id, found.gain, found.branch);
  };
  const begin = (event: PointerEvent<SVGSVGElement>) => {
    const at = pointAt(event);
    held.current = take(at);
    if (held.current) return event.currentTarget.setPointerCapture(event.pointerId);
    const found = nearestOnBranches(sweep.branches, at);
    if (found && Math.hypot(x(found.re) - at.px, y(found.im) - at.py) <= near) onAddReading(found.gain, found.branch);
  };
  const zoom = (factor: number) => onFrame({ re: frame.re * factor, im: frame.im, reach: frame.reach * factor });
  const keys = (event: KeyboardEvent) => {
    if (event.key === '+' || event.key === '-') zoom(event.key === '+' ? 0.8 : 1.25);
  };
  const slide = (change: (re: number, im: number) => void, remove?: () => void) => (event: KeyboardEvent) => {
    const size = event.shiftKey ? 10 : 1;
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (event.key === 'Delete' && remove) remove();
    else if (way) change(way[0]! * size, way[1]! * size);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const slider = (label: string, words: string, value: number, onKeyDown: (event: KeyboardEvent) => void) => ({
    role: 'slider',
    tabIndex: 0,
    'aria-label': label,
    'aria-valuetext': words,
    'aria-valuenow': Number(value.toPrecision(6)),
    onKeyDown,
    className: 'cursor-grab outline-none [&:focus-visible_circle]:stroke-[3] [&:focus-visible>path]:stroke-[3]',
  });
  const outside = poles.filter((pole) => x(pole.re) < 0 || x(pole.re) > width || y(pole.im) < 0 || y(pole.im) > height);
  const hasRegion = Object.values(region).some((value) => value !== null);
  const leading = [...poles].filter(({ im }) => im >= 0).sort((a, b) => b.re - a.re)[0];
  const summary = `Root locus with ${locus.poles.length} branches. Closed-loop poles at ${formatPoints(poles)}${
    hidden.length > 0 ? `; ${hiddenWords(hidden)}` : ''
  }.`;
  const table = () => ({
    heads: ['branch', sweep.name === 'K' ? 'gain' : sweep.name, 'real part', 'imaginary part'],
    rows: sweep.branches.flatMap(({ gains, re, im }, branch) => {
      const every = Math.max(1, Math.floor(gains.length / 40));
      return Array.from(gains.keys())
        .filter((k) => k % every === 0)
        .map((k) => [branch + 1, gains[k]!, re[k]!, im[k]!]);
    }),
  });

  return (
    <PlotFrame
      title="s-plane"
      onFit={onFit}
      table={table}
      className={className}
      tools={
        <>
          {outside.length > 0 && <span>{outside.length} farther out</span>}
          <LayerMenu layers={layers} hasRegion={hasRegion} onChange={onLayers} />
          <button type="button" className="link" aria-label="Zoom out" onClick={() => zoom(1.25)}>
            −
          </button>
          <button type="button" className="link" aria-label="Zoom in" onClick={() => zoom(0.8)}>
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
            role="group"
            aria-label={summary}
            className="block touch-none overflow-hidden text-[11px] select-none"
            onPointerDown={begin}
            onPointerMove={(event) => held.current && flushSync(() => drag(pointAt(event)))}
            onPointerUp={() => (held.current = undefined)}
            onKeyDown={keys}
          >
            <PlaneAxes scale={scale} />
            {layers.region && hasRegion && <RegionMark region={region} scale={scale} />}
            {layers.grid && <DampingGrid scale={scale} />}
            <SpecialMarks locus={locus} layers={layers} scale={scale} />
            <BranchPaths branches={locus.branches} scale={scale} />
            {sweep.branches !== locus.branches && <SweptPaths sweep={sweep} scale={scale} />}
            <OpenLoopMarks locus={locus} scale={scale} />
            {before.map((pole, k) => (
              <circle
                key={k}
                cx={x(pole.re)}
                cy={y(pole.im)}
                r="5"
                className="fill-none stroke-ghost"
                strokeWidth="1.4"
              />
            ))}
            {handles.map((handle) => {
              const { name, kind, re, im, fine } = handle;
              const label = `${kind === 'zero' ? 'Zero' : 'Pole'} ${name}`;
              return (
                <g
                  key={name}
                  data-handle={name}
                  {...slider(
                    label,
                    formatPoint({ re, im }),
                    re,
                    slide((dx, dy) => onHandle(handle, { re: re + dx * fine, im: im + dy * fine })),
                  )}
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
            })}
            {readings.map((reading) => (
              <g
                key={reading.id}
                data-reading={reading.id}
                {...slider(
                  `Reading ${reading.id}`,
                  reading.words,
                  reading.gain,
                  slide(
                    (dx, dy) => onReading(reading.id, sweep.stepped(reading.gain, dx + dy), reading.branch),
                    () => onRemoveReading(reading.id),
                  ),
                )}
              >
                <path
                  d={`M${x(reading.re) - 5} ${y(reading.im)}l5 -5l5 5l-5 5z`}
                  className="fill-sheet stroke-copper"
                  strokeWidth="1.8"
                />
                <Label x={x(reading.re) + 9} y={y(reading.im) + 4} anchor="start" text={String(reading.id)} />
              </g>
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
            {gain !== null && leading && (
              <g
                data-gain-slider
                {...slider(
                  'Gain on the locus',
                  `K ${Number(gain.toPrecision(4))}`,
                  gain,
                  slide((dx, dy) => onGain(gain * 1.02 ** (dx + dy))),
                )}
              >
                <circle cx={x(leading.re)} cy={y(leading.im)} r="10" className="fill-transparent stroke-petrol/60" />
              </g>
            )}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}
