import { fractionOf, parse, type SeenOf } from '@nailset/core';
import { useMemo } from 'react';
import { frameAround, locusOf } from '../../plane/locus';
import { OpenLoopMarks, PlaneAxes, planeScale } from '../../plane/LocusLayers';
import { AnswerBox, PaperPicture } from '../onPaper';
import { pointAsks } from './asks';

/** The part on paper: an empty plane with what is given of the loop, to mark on, and a frame for the numbers. */
export function PointsPaper({ part }: { part: SeenOf<'points'> }) {
  const given = useMemo(
    () =>
      part.loop === undefined
        ? undefined
        : locusOf(fractionOf(parse(part.loop), new Map()), { re: -1, im: 0, reach: 5 }),
    [part.loop],
  );
  const frame = frameAround([...(given?.poles ?? []), ...(given?.zeros ?? []), { re: -6, im: 4 }]);
  return (
    <div className="break-inside-avoid">
      {!part.prompt && <p>{pointAsks[part.what]}</p>}
      <PaperPicture label="s-plane, empty but for what is given of the loop." className="mt-1 h-[90mm]">
        {(width, height) => {
          const scale = planeScale(frame, width, height);
          return (
            <>
              <PlaneAxes scale={scale} />
              {given && <OpenLoopMarks locus={given} scale={scale} />}
            </>
          );
        }}
      </PaperPicture>
      <AnswerBox />
    </div>
  );
}
