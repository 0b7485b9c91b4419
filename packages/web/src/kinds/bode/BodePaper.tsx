import { type SeenOf } from '@nailset/core';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';

/** The part on paper. */
export const BodePaper = ({ part }: { part: SeenOf<'bode'> }) => (
  <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
);
