import {
  type Branch,
  formatNumber,
  formatPoint,
  formatPoints,
  nearestOnBranches,
  orProblem,
  type Pole,
  Problem,
  type Root,
} from '@nailset/core';
import { memo, useMemo, useRef, useState } from 'react';
import { LayerMenu } from '../../plane/LayerMenu';
import { frameAround, type Locus, locusOf, type PlaneFrame } from '../../plane/locus';
import {
  BranchPaths,
  DampingGrid,
  type Layers,
  PlaneAxes,
  type PlaneScale,
  planeScale,
  SpecialMarks,
} from '../../plane/LocusLayers';
import { onBranch } from '../../plane/readings';
import { planeAxes, planeView, planeWith } from '../../plane/view';
import { ZoomButtons } from '../../plane/ZoomButtons';
import { AxesMenu } from '../../plot/AxesMenu';
import { tenths } from '../../plot/frame';
import { mostReadings } from '../../plot/mostReadings';
import { PlotFrame } from '../../plot/PlotFrame';
import { placeOn } from '../../plot/pointer';
import { useTimeUnit } from '../../plot/timeUnit';
import { isNear, markAt, type Place, sliderProps, useDrag } from '../../plot/useDrag';
import { useSize } from '../../plot/useSize';
import { bothOf, useZoom } from '../../plot/useZoom';
import { ZoomBox } from '../../plot/ZoomBox';
import { NumberIn } from '../../shared/NumberIn';
import { Toggle } from '../../shared/Toggle';
import type { Drawn } from '../sheet/drawn';
import type { PaneProps } from './paneProps';
import { useHeld } from './useHeld';

interface Marks {
  readonly poles: readonly Pole[];
  readonly zeros: readonly Root[];
  readonly hidden: readonly Pole[];
}

const marksOf = ({ facts: { system, hidden } }: Drawn): Marks => ({
  poles: system?.poles ?? [],
  zeros: system?.zeros ?? [],
  hidden,
});

const firstLayers: Layers = {
  ...{ axis: true, asymptotes: true, breaks: true, crossings: true, angles: false, grid: false, region: false },
};

interface SetReading {
  readonly gain: number;
  readonly branch: number;
}

/** Poles and zeros of every system, and the root locus of the chosen one over a gain in its loop. */
export default function PlanePane({ drawn, chosen, kept, fits, className, tools }: PaneProps) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const [withLocus, setWithLocus] = useState(false);
  const [layers, setLayers] = useState(firstLayers);
  const [most, setMost] = useState<number | null>(null);
  const all = drawn.map((each) => ({ each, ...marksOf(each) }));
  const points = all.flatMap(({ poles, zeros, hidden }) => [...poles, ...zeros, ...hidden]);
  const held = useHeld(points.length > 0, fits, () => frameAround(points));
  const frame = held.axes;
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y } = scale;
  const isOut = ({ re, im }: Root) => x(re) < 0 || x(re) > width || y(im) < 0 || y(im) > height;
  const outside = width > 0 ? points.filter((point) => point.im >= 0 && isOut(point)).length : 0;
  const locus = useLocus(withLocus ? chosen : undefined, frame, most);
  const drawnLocus = locus instanceof Problem ? undefined : locus;
  const readings = useGainReadings(chosen?.id, drawnLocus, scale);
  const picture = useRef<SVGSVGElement>(null);
  const zoom = useZoom(
    picture,
    { left: 0, right: width, top: 0, bottom: height },
    { onView: (part) => held.set(planeView(scale, part)), onBack: held.back, onEnter: readings.addNear },
    { isOn: width > 0, wheel: 'always' },
  );
  const words = all
    .map(
      ({ each, poles, zeros }) =>
        `${each.label}: poles ${formatPoints(poles) || 'none'}, zeros ${formatPoints(zeros) || 'none'}`,
    )
    .join('; ');
  return (
    <PlotFrame
      title={drawnLocus ? `Locus of ${chosen?.label}` : 's-plane'}
      onFit={held.fit}
      className={className}
      table={() => ({ heads: ['system', '', 'real part', 'imaginary part'], rows: all.flatMap(rowsOf) })}
      tools={
        <>
          {outside > 0 && <span>{outside} outside the plot</span>}
          {locus instanceof Problem && <span>{locus.message}</span>}
          <Toggle on={withLocus} onChange={setWithLocus} words="Locus" />
          {drawnLocus ? (
            <LayerMenu layers={layers} hasRegion={false} onChange={setLayers} />
          ) : (
            <Toggle on={layers.grid} onChange={(grid) => setLayers({ ...layers, grid })} words="ζ, ωn" />
          )}
          <AxesMenu
            axes={planeAxes(scale)}
            wheel="always"
            reads={drawnLocus !== undefined}
            onChange={(axis, ends) => held.set(planeWith(scale, axis, ends))}
          >
            {drawnLocus && (
              <p className="flex items-baseline gap-2">
                <span className="w-20 text-slate">gain</span>
                <NumberIn
                  words="up to"
                  label="Largest gain of the locus"
                  value={most}
                  empty="∞"
                  isFine={(next) => next > 0}
                  onChange={setMost}
                />
              </p>
            )}
          </AxesMenu>
          <ZoomButtons
            onZoom={(factor) => held.set({ re: frame.re * factor, im: frame.im * factor, reach: frame.reach * factor })}
          />
          {tools}
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && (
          <svg
            ref={picture}
            width={width}
            height={height}
            role="group"
            aria-label={`s-plane. ${words}.`}
            className={`block touch-pan-y overflow-hidden text-[11px] select-none ${drawnLocus ? 'cursor-crosshair' : ''}`}
            {...bothOf(zoom.handlers, readings.drag)}
            onClick={(event) => readings.add(placeOn(event.currentTarget, event))}
          >
            <PlaneAxes scale={scale} />
            {layers.grid && <DampingGrid scale={scale} />}
            {drawnLocus && <BranchPaths branches={drawnLocus.branches} scale={scale} />}
            {drawnLocus && most === null && <SpecialMarks {...{ locus: drawnLocus, layers, scale }} />}
            {kept.map((each) => (
              <SystemMarks key={`kept ${each.id}`} {...{ each, scale }} className="stroke-ghost" />
            ))}
            {drawn.map((each) => (
              <g key={each.id} data-system={each.label}>
                <SystemMarks {...{ each, scale }} className={each.stroke.className} />
              </g>
            ))}
            {drawnLocus &&
              readings.set.map((reading, k) => (
                <GainReading
                  key={k}
                  {...{ reading, scale }}
                  branches={drawnLocus.branches}
                  onGain={(gain) => readings.change(k, { ...reading, gain })}
                  onRemove={() => readings.change(k)}
                />
              ))}
            <ZoomBox box={zoom.box} />
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}

/** Gains that someone reads on the locus of a system; they stay while its numbers change. */
function useGainReadings(id: string | undefined, locus: Locus | undefined, scale: PlaneScale) {
  const [kept, setKept] = useState<{ of: string | undefined; set: readonly SetReading[] }>({ of: id, set: [] });
  const branches = locus?.branches ?? [];
  const set = kept.of === id ? kept.set.filter(({ branch }) => branches[branch]) : [];
  const { frame, width, height, unit, x, y } = scale;
  const pointAt = ({ px, py }: Place) => ({
    re: frame.re + (px - width / 2) / unit,
    im: frame.im - (py - height / 2) / unit,
  });
  const change = (index: number, to?: SetReading) =>
    setKept({ of: id, set: to ? set.map((old, k) => (k === index ? to : old)) : set.toSpliced(index, 1) });
  const drag = useDrag<number>({
    take: (at) => {
      const placed = set.flatMap(({ gain, branch }, index) => {
        const path = branches[branch];
        if (!path) return [];
        const point = onBranch(path, gain);
        return [{ index, px: x(point.re), py: y(point.im) }];
      });
      return markAt(at, placed, (mark) => mark)?.index;
    },
    drag: (index, at) => {
      const old = set[index];
      const path = old && branches[old.branch];
      const nearest = path && nearestOnBranches([path], pointAt(at));
      if (nearest) change(index, { ...old, gain: nearest.gain });
    },
  });
  /** Where a branch comes nearest to a place. */
  const addNear = (at: Place) => {
    const nearest = nearestOnBranches(branches, pointAt(at));
    if (!nearest) return;
    const isOne = set.some(({ gain, branch }) => nearest.branch === branch && nearest.gain === gain);
    if (!isOne) setKept({ of: id, set: [...set.slice(1 - mostReadings), nearest] });
  };
  /** Where a branch is pointed at. */
  const add = (at: Place) => {
    const nearest = nearestOnBranches(branches, pointAt(at));
    if (nearest && isNear(at, { px: x(nearest.re), py: y(nearest.im) })) addNear(at);
  };
  return { set, change, drag, add, addNear };
}

/** Where the poles of the loop are for a gain: a diamond that is moved along its branch, small ones on the others. */
function GainReading({
  reading: { gain, branch },
  branches,
  scale,
  onGain,
  onRemove,
}: {
  reading: SetReading;
  branches: Locus['branches'];
  scale: PlaneScale;
  onGain: (gain: number) => void;
  onRemove: () => void;
}) {
  const unit = useTimeUnit();
  const { x, y } = scale;
  const line = branches[branch];
  if (!line) return null;
  const { re, im } = onBranch(line, gain);
  const size = Math.hypot(re, im);
  const zeta = size === 0 ? 0 : -re / size;
  const short = `K ${formatNumber(gain)}, ζ ${formatNumber(zeta)}`;
  return (
    <g
      data-reading={gain}
      className="cursor-pointer fill-plum outline-none [&:focus-visible>path]:stroke-ink"
      {...sliderProps({
        ...{ label: 'Gain on the locus', value: gain },
        words: `${short}, pole ${formatPoint({ re, im })}, ωn ${formatNumber(size)} rad/${unit}`,
        onStep: ({ right, up }) => onGain((gain || 1e-3) * 1.02 ** (right + up)),
        onRemove,
      })}
    >
      <title>{`pole ${formatPoint({ re, im })}, ωn ${formatNumber(size)} rad/${unit}`}</title>
      {branches.map((each, k) => {
        const at = onBranch(each, gain);
        return k !== branch && <circle key={k} cx={x(at.re)} cy={y(at.im)} r="3" />;
      })}
      <path d={`M${x(re) - 5.5} ${y(im)}l5.5 -5.5l5.5 5.5l-5.5 5.5z`} className="stroke-sheet" strokeWidth="1.8" />
      <text x={x(re) + 9} y={y(im) + 4} strokeWidth="3" className="stroke-sheet/85 [paint-order:stroke]">
        {short}
      </text>
    </g>
  );
}

const rowsOf = ({ each, poles, zeros, hidden }: Marks & { each: Drawn }) => [
  ...poles.map(({ re, im }) => [each.label, 'pole', re, im]),
  ...zeros.map(({ re, im }) => [each.label, 'zero', re, im]),
  ...hidden.map(({ re, im }) => [each.label, 'hidden mode', re, im]),
];

function useLocus(drawn: Drawn | undefined, frame: PlaneFrame, most: number | null): Locus | Problem | undefined {
  return useMemo(() => {
    const { system, deadTime } = drawn?.facts ?? { system: null, deadTime: 0 };
    if (!drawn) return undefined;
    if (!system || deadTime > 0) return new Problem('deadTime', 'No locus with dead time.');
    const locus = orProblem(() => locusOf(system.fraction, frame));
    if (locus instanceof Problem || most === null) return locus;
    return { ...locus, branches: locus.branches.map((branch) => upTo(branch, most)) };
  }, [drawn, frame, most]);
}

/** A branch that ends where the gain does. */
function upTo(branch: Branch, most: number): Branch {
  const count = branch.gains.findIndex((gain) => gain > most);
  if (count < 0) return branch;
  const { re, im } = onBranch(branch, most);
  const ended = (values: Float64Array, last: number) => Float64Array.from([...values.slice(0, count), last]);
  return { gains: ended(branch.gains, most), re: ended(branch.re, re), im: ended(branch.im, im) };
}

/** Crosses and circles; a mode that cancels is a cross in a dashed ring. */
const SystemMarks = memo(function SystemMarks({
  each,
  scale: { x, y },
  className,
}: {
  each: Drawn;
  scale: PlaneScale;
  className: string;
}) {
  const marks = marksOf(each);
  const cross = ({ re, im }: Root) => `M${tenths(x(re) - 4.5)} ${tenths(y(im) - 4.5)}l9 9m0 -9l-9 9`;
  return (
    <g className={`fill-none ${className}`} strokeWidth="1.8">
      {marks.zeros.map((zero, k) => (
        <circle key={`zero ${k}`} cx={x(zero.re)} cy={y(zero.im)} r="5" />
      ))}
      {marks.hidden.map((mode, k) => (
        <g key={`hidden ${k}`} data-hidden-mode>
          <path d={cross(mode)} />
          <circle cx={x(mode.re)} cy={y(mode.im)} r="8" strokeDasharray="2.5 2" />
        </g>
      ))}
      {/* One path for all: a browser draws it sooner than one for each. */}
      <path d={marks.poles.map(cross).join('')} />
      {marks.poles.map(
        (pole, k) =>
          pole.multiplicity > 1 && (
            <text key={k} x={x(pole.re) + 7} y={y(pole.im) - 7} className="fill-slate stroke-none">
              ×{pole.multiplicity}
            </text>
          ),
      )}
    </g>
  );
});
