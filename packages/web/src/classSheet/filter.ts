import { type ClassSheet, nailLabel, nailsIn, type Part, type SheetRow } from '@nailset/core';
import { slipsOf } from './summary';

/** Which rows of a class sheet are shown; one choice, as it stands in the address. */
export interface Choice {
  readonly value: string;
  readonly words: string;
}

/** Everything that rows can be chosen by: what was handed in, groups, and the slips and nails of the open part. */
export function choicesOf(sheet: ClassSheet, part: Part): { heading: string; choices: Choice[] }[] {
  const groups = [...new Set(sheet.rows.map(({ group }) => group))].filter(Boolean);
  groups.sort((a, b) => a.localeCompare(b, undefined, { numeric: true }));
  const slips = slipsOf(sheet, part.id).filter(({ id }) => id !== '' && !id.startsWith('missed '));
  return [
    {
      heading: 'Students',
      choices: [
        { value: '', words: 'everyone' },
        { value: 'none', words: 'nothing handed in' },
        { value: 'review', words: 'to review' },
      ],
    },
    { heading: 'Group', choices: groups.map((group) => ({ value: `group ${group}`, words: group })) },
    {
      heading: part.title,
      choices: [
        { value: 'open', words: 'not handed in' },
        { value: 'missed', words: 'missed' },
        ...nailsIn(part).map((nail) => ({ value: `nail ${nail.id}`, words: `misses ${nailLabel(nail)}` })),
        ...slips.map(({ id, words }) => ({ value: `slip ${id}`, words: words.slice(0, 70) })),
      ],
    },
  ].filter(({ choices }) => choices.length > 0);
}

/** Whether a row is shown under a choice, for the open part. */
export function isChosen(row: SheetRow, partId: string, value: string): boolean {
  const cells = Object.values(row.cells);
  const cell = row.cells[partId];
  const [what, ...rest] = value.split(' ');
  const name = rest.join(' ');
  switch (what) {
    case 'none':
      return cells.length === 0;
    case 'review':
      return cells.some(({ look }) => look);
    case 'group':
      return row.group === name;
    case 'open':
      return cell === undefined;
    case 'missed':
      return cell !== undefined && cell.checked && !cell.met;
    case 'nail':
      return cell?.items.some(({ id, met }) => id === name && !met) ?? false;
    case 'slip':
      return cell !== undefined && !cell.met && cell.slip?.id === name;
    default:
      return true;
  }
}

export type Order = 'points' | 'name' | 'group';

/** Rows in an order: most points first, or by name or group. */
export function inOrder(rows: readonly SheetRow[], order: Order): SheetRow[] {
  const byName = (a: SheetRow, b: SheetRow) => a.person.name.localeCompare(b.person.name);
  const orders: Record<Order, (a: SheetRow, b: SheetRow) => number> = {
    name: byName,
    points: (a, b) => (b.points ?? -1) - (a.points ?? -1) || byName(a, b),
    group: (a, b) => a.group.localeCompare(b.group, undefined, { numeric: true }) || byName(a, b),
  };
  return [...rows].sort(orders[order]);
}
