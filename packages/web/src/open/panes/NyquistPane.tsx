import { countEncirclements, orProblem, Problem } from '@nailset/core';
import { memo, useMemo } from 'react';
import type { BodeCurve } from '../../frequency/BodeAxes';
import { NyquistReadings } from '../../frequency/FrequencyReadings';
import { mirrored, nyquistFrame, nyquistPath, NyquistPicture, nyquistPoints } from '../../frequency/NyquistPicture';
import { type PlaneScale, planeScale } from '../../plane/LocusLayers';
import { planeAxes, planeWith } from '../../plane/view';
import { ZoomButtons } from '../../plane/ZoomButtons';
import { AxesMenu } from '../../plot/AxesMenu';
import { PlotFrame } from '../../plot/PlotFrame';
import { useTimeUnit } from '../../plot/timeUnit';
import { useSize } from '../../plot/useSize';
import type { Drawn } from '../sheet/drawn';
import { levelsOf, readingOf, spanOf } from '../sheet/frequencies';
import type { FrequencyProps } from './paneProps';
import { useHeld } from './useHeld';

/** Enough for a round curve where it turns. */
const points = 720;

/** G(jω) of every system and its mirror image, with the unit circle and −1. */
export default function NyquistPane({ drawn, chosen, kept, fits, className, tools, readings }: FrequencyProps) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const timeUnit = useTimeUnit();
  const held = useHeld(drawn.length > 0, fits, () => nyquistFrame);
  const frame = held.axes;
  const scale = useMemo(() => planeScale(frame, width, height), [frame, width, height]);
  // Wider than what Bode shows, so that the ends reach zero or the edge.
  const [from, to] = spanOf(drawn);
  const span = [from / 10, to * 10] as const;
  const all = drawn.flatMap((each) => {
    const curve = levelsOf(each, span, points);
    return curve ? [{ each, curve }] : [];
  });
  const ghosts = kept.flatMap((each) => ({ id: each.id, curve: levelsOf(each, span, points) }));
  const present = all.find(({ each }) => each.id === chosen?.id);
  return (
    <PlotFrame
      title="Nyquist"
      onFit={held.fit}
      className={className}
      table={() => ({
        heads: ['system', `ω, rad/${timeUnit}`, 'real part', 'imaginary part'],
        rows: all.flatMap(({ each, curve }) =>
          nyquistPoints(curve).flatMap(({ re, im }, k) =>
            k % 60 === 0 ? [[each.label, curve.omegas[k] ?? null, re, im]] : [],
          ),
        ),
      })}
      tools={
        <>
          {present && <Encircled of={present.each} />}
          <AxesMenu
            axes={planeAxes(scale)}
            wheel="always"
            onChange={(axis, ends) => held.set(planeWith(scale, axis, ends))}
          />
          <ZoomButtons
            onZoom={(factor) => held.set({ re: frame.re * factor, im: frame.im * factor, reach: frame.reach * factor })}
          />
          {tools}
        </>
      }
    >
      <div ref={place} className={`relative [contain:strict] bg-sheet ${className}`}>
        {width > 0 && (
          <NyquistPicture
            scale={scale}
            summary={`Nyquist plot of ${all.map(({ each }) => each.label).join(', ') || 'nothing'}, with −1 marked.`}
            wheel="always"
            onView={held.set}
            onBack={held.back}
          >
            {ghosts.map(
              ({ id, curve }) =>
                curve && (
                  <path
                    key={id}
                    d={nyquistPath(nyquistPoints(curve), scale)}
                    className="fill-none stroke-ghost"
                    strokeWidth="1.3"
                  />
                ),
            )}
            {all.map(({ each, curve }) => (
              <MirroredCurve key={each.id} {...{ each, curve, scale }} isChosen={each.id === chosen?.id} />
            ))}
            {present && <NyquistReadings {...{ readings, scale }} system={readingOf(present.each)} />}
          </NyquistPicture>
        )}
      </div>
    </PlotFrame>
  );
}

/** G(jω) of one system, and fainter its mirror image; it stays as it is while another moves. */
const MirroredCurve = memo(function MirroredCurve({
  each: { id, stroke },
  curve,
  scale,
  isChosen,
}: {
  each: Drawn;
  curve: BodeCurve;
  scale: PlaneScale;
  isChosen: boolean;
}) {
  const path = nyquistPath(nyquistPoints(curve), scale);
  return (
    <g className={`fill-none ${stroke.className}`} strokeDasharray={stroke.dash}>
      <path d={path} transform={mirrored(scale)} opacity="0.4" strokeWidth="1.3" />
      <path d={path} data-curve={`nyquist ${id}`} strokeWidth={isChosen ? 2.6 : 1.8} />
    </g>
  );
});

const counted = new WeakMap<Drawn['facts'], ReturnType<typeof countEncirclements> | Problem | null>();

function countOf(facts: Drawn['facts']) {
  const { system, deadTime } = facts;
  const count = counted.get(facts) ?? (system && orProblem(() => countEncirclements(system.fraction, deadTime)));
  counted.set(facts, count);
  return count;
}

/** What the criterion says of the loop round a system. */
function Encircled({ of: { label, facts } }: { of: Drawn }) {
  const count = countOf(facts);
  if (!count || count instanceof Problem || count.encirclements === null) return null;
  const { encirclements, closedLoopUnstable } = count;
  const times = encirclements === 0 ? 'not round −1' : `${Math.abs(encirclements)} × round −1`;
  const way = encirclements < 0 ? ', anticlockwise' : '';
  return (
    <span title={`${label}: ${times}${way}; the loop is ${closedLoopUnstable === 0 ? 'stable' : 'unstable'}`}>
      {times}
      {way}
    </span>
  );
}
