import { attempt, formatPoints, type Pole, Problem, type Root } from '@nailset/core';
import { useMemo, useState } from 'react';
import { frameAround, type Locus, locusOf, type PlaneFrame } from '../plane/locus';
import { BranchPaths, DampingGrid, PlaneAxes, type PlaneScale, planeScale } from '../plane/LocusLayers';
import { ZoomButtons } from '../plane/ZoomButtons';
import { PlotFrame } from '../plot/PlotFrame';
import { useSize } from '../plot/useSize';
import type { Drawn } from './drawn';
import type { PaneProps } from './panes';
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

/** Poles and zeros of every system, and the root locus of the chosen one over a gain in its loop. */
export function PlanePane({ drawn, chosen, kept, fits, className }: PaneProps) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const [withLocus, setWithLocus] = useState(false);
  const [withGrid, setWithGrid] = useState(false);
  const all = drawn.map((each) => ({ each, ...marksOf(each) }));
  const points = all.flatMap(({ poles, zeros, hidden }) => [...poles, ...zeros, ...hidden]);
  const [frame, setFrame, fit] = useHeld(points.length > 0, fits, () => frameAround(points));
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  const { x, y } = scale;
  const isOut = ({ re, im }: Root) => x(re) < 0 || x(re) > width || y(im) < 0 || y(im) > height;
  const outside = width > 0 ? points.filter((point) => point.im >= 0 && isOut(point)).length : 0;
  const locus = useLocus(withLocus ? chosen : undefined, frame);
  const words = all
    .map(
      ({ each, poles, zeros }) =>
        `${each.label}: poles ${formatPoints(poles) || 'none'}, zeros ${formatPoints(zeros) || 'none'}`,
    )
    .join('; ');
  return (
    <PlotFrame
      title="s-plane"
      onFit={fit}
      className={className}
      table={() => ({ heads: ['system', '', 'real part', 'imaginary part'], rows: all.flatMap(rowsOf) })}
      tools={
        <>
          {outside > 0 && <span>{outside} farther out</span>}
          {locus instanceof Problem && <span>{locus.message}</span>}
          <Toggle on={withLocus} onChange={setWithLocus} words="Locus" />
          <Toggle on={withGrid} onChange={setWithGrid} words="ζ, ωn" />
          <ZoomButtons onZoom={(factor) => setFrame({ re: frame.re * factor, im: 0, reach: frame.reach * factor })} />
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label={`s-plane. ${words}.`}
            className="block overflow-hidden text-[11px]"
          >
            <PlaneAxes scale={scale} />
            {withGrid && <DampingGrid scale={scale} />}
            {locus && !(locus instanceof Problem) && <BranchPaths branches={locus.branches} scale={scale} />}
            {kept.map((each) => (
              <SystemMarks key={`kept ${each.id}`} marks={marksOf(each)} scale={scale} className="stroke-ghost" />
            ))}
            {all.map(({ each, ...marks }) => (
              <g key={each.id} data-system={each.label}>
                <SystemMarks marks={marks} scale={scale} className={each.stroke.className} />
              </g>
            ))}
          </svg>
        )}
      </div>
    </PlotFrame>
  );
}

const rowsOf = ({ each, poles, zeros, hidden }: Marks & { each: Drawn }) => [
  ...poles.map(({ re, im }) => [each.label, 'pole', re, im]),
  ...zeros.map(({ re, im }) => [each.label, 'zero', re, im]),
  ...hidden.map(({ re, im }) => [each.label, 'hidden mode', re, im]),
];

function useLocus(of: Drawn | undefined, frame: PlaneFrame): Locus | Problem | undefined {
  return useMemo(() => {
    const { system, deadTime } = of?.facts ?? { system: null, deadTime: 0 };
    if (!of) return undefined;
    if (!system || deadTime > 0) return new Problem('deadTime', 'No locus with dead time.');
    return attempt(() => locusOf(system.fraction, frame));
  }, [of, frame]);
}

/** Crosses and circles; a mode that cancels is a cross in a dashed ring. */
function SystemMarks({ marks, scale: { x, y }, className }: { marks: Marks; scale: PlaneScale; className: string }) {
  const cross = ({ re, im }: Root) => `M${x(re) - 4.5} ${y(im) - 4.5}l9 9m0 -9l-9 9`;
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
      {marks.poles.map((pole, k) => (
        <g key={`pole ${k}`}>
          <path d={cross(pole)} />
          {pole.multiplicity > 1 && (
            <text x={x(pole.re) + 7} y={y(pole.im) - 7} className="fill-slate stroke-none">
              ×{pole.multiplicity}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

export function Toggle({ on, words, onChange }: { on: boolean; words: string; onChange: (on: boolean) => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`link ${on ? 'font-medium text-ink decoration-ink' : ''}`}
      onClick={() => onChange(!on)}
    >
      {words}
    </button>
  );
}
