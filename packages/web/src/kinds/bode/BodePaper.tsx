import { type SeenOf } from '@nailset/core';
import { useMemo } from 'react';
import { BodeAxes, bodeScale } from '../../frequency/BodeAxes';
import { Measured } from '../../frequency/BodePlot';
import { useSize } from '../../plot/useSize';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';
import { frameOfBode } from './frame';

const units = { hertz: false, ratio: false };

/** The part on paper: the measured points, to draw straight lines along, and a frame for each setting. */
export function BodePaper({ part }: { part: SeenOf<'bode'> }) {
  const [place, { width, height }] = useSize<HTMLDivElement>();
  const frame = useMemo(() => frameOfBode(part), [part]);
  const scale = useMemo(() => bodeScale(frame, units, width, height), [frame, width, height]);
  return (
    <div className="break-inside-avoid">
      <div ref={place} className="h-[95mm]">
        {width > 0 && (
          <svg
            width={width}
            height={height}
            role="img"
            aria-label={`${part.target.name}: measured magnitude and phase over frequency.`}
            className="block text-[11px]"
          >
            <BodeAxes {...{ scale, frame, units }} />
            <Measured of="magnitude" data={part.target} scale={scale} />
            <Measured of="phase" data={part.target} scale={scale} />
          </svg>
        )}
      </div>
      <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
    </div>
  );
}
