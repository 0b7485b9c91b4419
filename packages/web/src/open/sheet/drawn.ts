import {
  type Facts,
  factsOf,
  type LinePanes,
  type Member,
  must,
  orProblem,
  Problem,
  type ReadLine,
  type Sheet,
  type Transfer,
} from '@nailset/core';
import type { Stroke } from '../../plot/curves';

/** A system as every pane draws it, in one colour and dash. */
export interface Drawn {
  readonly id: string;
  /** As in `T` or `T, K = 2`. */
  readonly label: string;
  /** The line that it stands in. */
  readonly line: number;
  /** In which panes it is drawn. */
  readonly panes: LinePanes;
  readonly transfer: Transfer;
  /** What each of several inputs does alone, where they are driven together. */
  readonly parts?: Member['parts'];
  readonly states?: Member['states'];
  readonly limited?: Member['limited'];
  readonly facts: Facts;
  readonly stroke: Stroke;
}

/** One colour for each line that is drawn, told apart by more than their hue: the dashes differ as well. */
const colours: readonly (Pick<Stroke, 'className' | 'text'> & { dash?: string })[] = [
  { className: 'stroke-petrol', text: 'fill-petrol' },
  { className: 'stroke-copper', text: 'fill-copper', dash: '9 3' },
  { className: 'stroke-plum', text: 'fill-plum', dash: '4 3' },
  { className: 'stroke-moss', text: 'fill-moss', dash: '12 3 2 3' },
  { className: 'stroke-ink', text: 'fill-ink', dash: '2 3' },
  { className: 'stroke-brick', text: 'fill-brick', dash: '7 3 2 3 2 3' },
  { className: 'stroke-slate', text: 'fill-slate', dash: '16 4' },
];
const memberDashes = [undefined, '9 3', '4 3', '2 3', '12 3 2 3', '16 4', '7 3 2 3 2 3', '1 4'];

const made = new Map<string, Stroke>();

/** The stroke of a member of the so-many-th line that is drawn; the same object each time. */
export function strokeOf(place: number, member: number, several: boolean): Stroke {
  const key = `${place} ${member} ${several}`;
  const colour = colours[place % colours.length] ?? { className: 'stroke-petrol', text: 'fill-petrol' };
  const dash = several ? memberDashes[member % memberDashes.length] : colour.dash;
  const { className, text } = colour;
  const stroke = made.get(key) ?? { className, text, width: 2, ...(dash ? { dash } : {}) };
  made.set(key, stroke);
  return stroke;
}

/** Members for several values share a colour; signals of one line have each their own. */
function strokeFor(place: number, k: number, { over, plant }: Extract<ReadLine, { kind: 'system' }>): Stroke {
  const probes = plant?.probes.length ?? 1;
  return strokeOf(place + (k % probes), Math.floor(k / probes), over !== null);
}

/** Which colour a line begins with; undefined for one that is not drawn. */
export function placesOf(sheet: Sheet, read: readonly ReadLine[]): (number | undefined)[] {
  let next = 0;
  return sheet.lines.map(({ drawn }, k) => {
    const line = read[k];
    if (!drawn || line?.kind !== 'system') return undefined;
    const place = next;
    next += line.plant?.probes.length ?? 1;
    return place;
  });
}

/** Everything that is drawn, from the top line on; what has no facts is left out. */
export function drawnOf(sheet: Sheet, read: readonly ReadLine[]): Drawn[] {
  return placesOf(sheet, read).flatMap((place, line) => {
    const meaning = read[line];
    if (place === undefined || meaning?.kind !== 'system') return [];
    const { name, panes } = must(sheet.lines[line]);
    return meaning.members.flatMap((member, k) => {
      const facts = factsFor(member);
      if (facts instanceof Problem) return [];
      const label = member.words ? `${name}, ${member.words}` : name;
      const now = { id: `${line} ${k}`, label, line, panes, ...member, facts, stroke: strokeFor(place, k, meaning) };
      const before = shown.get(member);
      const isSame = before && drawnAs.every((key) => before[key] === now[key]);
      if (!isSame) shown.set(member, now);
      return [isSame ? before : now];
    });
  });
}

/** How each was drawn last: one that is drawn so again is the same object, and stays on the page as it is. */
const shown = new WeakMap<Member, Drawn>();
const drawnAs = ['id', 'label', 'panes', 'facts', 'stroke'] as const;

const known = new WeakMap<Transfer, Facts | Problem>();

export function factsFor({ transfer, limited }: Pick<Member, 'transfer' | 'limited'>): Facts | Problem {
  const facts = known.get(transfer) ?? orProblem(() => factsOf(transfer, limited));
  known.set(transfer, facts);
  return facts;
}
