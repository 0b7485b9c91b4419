import { nailLabel, quantities, type SeenOf, withUnit } from '@nailset/core';
import { SettingBoxes } from '../onPaper';
import { knobsOf } from '../students';

type Nail = SeenOf<'gains'>['nails'][number];

/** `Overshoot at most 15 %`; what a corridor asks for is drawn on the bench only. */
function words(nail: Nail): string {
  if (!('limit' in nail)) return nailLabel(nail);
  const bound = nail.relation === 'atMost' ? 'at most' : 'at least';
  return `${nailLabel(nail)} ${bound} ${withUnit(nail.limit, quantities[nail.quantity].unit)}`;
}

/** The part on paper. */
export const GainsPaper = ({ part }: { part: SeenOf<'gains'> }) => (
  <>
    <ul className="mt-1 grid gap-x-8 sm:grid-cols-2">
      {part.nails.map((nail) => (
        <li key={nail.id}>{words(nail)}</li>
      ))}
    </ul>
    <SettingBoxes names={knobsOf(part).map(({ name }) => name)} />
  </>
);
