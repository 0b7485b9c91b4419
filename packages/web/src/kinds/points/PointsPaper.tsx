import { fractionOf, parse, type SeenOf } from '@nailset/core';
import { useMemo } from 'react';
import { frameAround, locusOf } from '../../plane/locus';
import { OpenLoopMarks, PlaneAxes, planeScale } from '../../plane/LocusLayers';
import { useSize } from '../../plot/useSize';
import { AnswerBox } from '../onPaper';
import { pointAsks } from './asks';

/** The part on paper: an empty plane with what is given of the loop, to mark on, and a frame for the numbers. */
export function PointsPaper({ part }: { part: SeenOf<'points'> }) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const given = useMemo(
    () =>
      part.loop === undefined
        ? undefined
        : locusOf(fractionOf(parse(part.loop), new Map()), { re: -1, im: 0, reach: 5 }),
    [part.loop],
  );
  const frame = frameAround([...(given?.poles ?? []), ...(given?.zeros ?? []), { re: -6, im: 4 }]);
  const scale = planeScale(frame, width, height);
  return (
    <div className="break-inside-avoid">
      {!part.prompt && <p>{pointAsks[part.what]}</p>}
      <div ref={place} className="mt-1 h-[90mm]">
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label="s-plane, empty but for what is given of the loop."
            className="block overflow-hidden text-[11px]"
          >
            <PlaneAxes scale={scale} />
            {given && <OpenLoopMarks locus={given} scale={scale} />}
          </svg>
        )}
      </div>
      <AnswerBox />
    </div>
  );
}
