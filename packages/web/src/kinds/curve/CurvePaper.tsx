import { type SeenOf } from '@nailset/core';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';

/** The part on paper. */
export const CurvePaper = ({ part }: { part: SeenOf<'curve'> }) => (
  <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
);
