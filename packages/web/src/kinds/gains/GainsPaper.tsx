import { nailLabel, type SeenOf } from '@nailset/core';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';

/** The part on paper. */
export const GainsPaper = ({ part }: { part: SeenOf<'gains'> }) => (
  <>
    <ul className="mt-1 grid gap-x-8 sm:grid-cols-2">
      {part.nails.map((nail) => (
        <li key={nail.id}>{nailLabel(nail)}</li>
      ))}
    </ul>
    <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
  </>
);
