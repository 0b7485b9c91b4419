import { type SeenOf } from '@nailset/core';
import { BodeAxes, bodeScale } from '../../frequency/BodeAxes';
import { Measured } from '../../frequency/BodePlot';
import { PaperPicture, SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';
import { frameOfBode } from './frame';

const units = { hertz: false, ratio: false };

/** The part on paper: the measured points, to draw straight lines along, and a frame for each setting. */
export function BodePaper({ part }: { part: SeenOf<'bode'> }) {
  const frame = frameOfBode(part);
  return (
    <div className="break-inside-avoid">
      <PaperPicture label={`${part.target.name}: measured magnitude and phase over frequency.`} className="h-[95mm]">
        {(width, height) => {
          const scale = bodeScale(frame, units, width, height);
          return (
            <>
              <BodeAxes {...{ scale, frame, units }} />
              <Measured of="magnitude" data={part.target} scale={scale} />
              <Measured of="phase" data={part.target} scale={scale} />
            </>
          );
        }}
      </PaperPicture>
      <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
    </div>
  );
}
