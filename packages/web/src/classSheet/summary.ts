import {
  type Answer,
  type ClassSheet,
  type DrawValues,
  must,
  nailLabel,
  type Part,
  type SheetCell,
} from '@nailset/core';

/** How many handed in, and how many answers want a person's look. */
export function summarise(sheet: Pick<ClassSheet, 'rows'>): { handedIn: number; look: number } {
  const cells = sheet.rows.map((row) => Object.values(row.cells));
  return {
    handedIn: cells.filter((attempts) => attempts.length > 0).length,
    look: cells.flat().filter((cell) => cell.look).length,
  };
}

/** How many students reached each share of the points, in tenths; those who handed nothing in are left out. */
export function pointsByTenth(
  sheet: Pick<ClassSheet, 'rows' | 'outOf'>,
): { from: number; to: number; students: number }[] {
  const width = sheet.outOf / 10 || 1;
  const tenths = Array.from({ length: 10 }, (_, k) => ({ from: k * width, to: (k + 1) * width, students: 0 }));
  for (const { points } of sheet.rows) {
    if (points === null) continue;
    must(tenths[Math.min(9, Math.max(0, Math.ceil(points / width - 1e-9) - 1))]).students += 1;
  }
  return tenths;
}

/** One student's best answer to a part. */
export interface PartAnswer {
  readonly submissionId: string;
  readonly name: string;
  readonly values: DrawValues;
  readonly answer: Answer;
  readonly met: boolean;
}

/** Everyone's best answer to one part, in the order of the class. */
export function answersTo(sheet: Pick<ClassSheet, 'rows' | 'flock'>, partId: string): PartAnswer[] {
  const given = new Map(sheet.flock.map((entry) => [entry.submissionId, entry]));
  return sheet.rows.flatMap(({ person, cells }) => {
    const cell = cells[partId];
    const entry = cell && given.get(cell.submissionId);
    if (!entry) return [];
    const { submissionId, values, answer } = entry;
    return [{ submissionId, name: person.name, values, answer, met: cell.met }];
  });
}

/** A slip with everyone who made it; `id` is empty for answers that miss in no way that is known. */
export interface SlipGroup {
  readonly id: string;
  readonly words: string;
  readonly cells: readonly { readonly submissionId: string; readonly name: string }[];
}

/** What was missed of several nails, where no slip says why. */
function missedNails(part: Part | undefined, { items }: SheetCell): { id: string; words: string } | undefined {
  if (part?.kind !== 'gains') return undefined;
  const missed = part.nails.filter(({ id }) => items.some((item) => item.id === id && !item.met));
  if (missed.length === 0) return undefined;
  const all = missed.length === part.nails.length;
  return {
    id: `missed ${missed.map(({ id }) => id).join(' ')}`,
    words: all ? 'No nail holds.' : `Missed: ${missed.map(nailLabel).join(', ')}.`,
  };
}

/** The slips of a part, the commonest first, and last what was not recognised. Answers that are met have none. */
export function slipsOf(sheet: Pick<ClassSheet, 'rows' | 'parts'>, partId: string): SlipGroup[] {
  const part = sheet.parts.find(({ id }) => id === partId);
  const groups = new Map<string, { id: string; words: string; cells: { submissionId: string; name: string }[] }>();
  for (const { person, cells } of sheet.rows) {
    const cell = cells[partId];
    if (!cell || cell.met || !cell.checked) continue;
    const { id, words } = cell.slip ?? missedNails(part, cell) ?? { id: '', words: 'missed in other ways' };
    const group = groups.get(id) ?? { id, words, cells: [] };
    group.cells.push({ submissionId: cell.submissionId, name: person.name });
    groups.set(id, group);
  }
  return [...groups.values()].sort((a, b) => Number(!a.id) - Number(!b.id) || b.cells.length - a.cells.length);
}

/** How many chose each option of a part. */
export function choiceCounts(
  part: Extract<Part, { kind: 'choice' }>,
  answers: readonly Pick<PartAnswer, 'answer'>[],
): number[] {
  return part.options.map(
    ({ id }) => answers.filter(({ answer }) => answer.kind === 'choice' && answer.chosen.includes(id)).length,
  );
}

export const firstNameOf = (name: string): string => must(name.split(' ')[0]);

/** What to call people among these: by first name, with an initial where two share it, in full where that is not enough. */
export function shortNames(names: readonly string[]): (name: string) => string {
  const people = [...new Set(names)];
  const initialled = (name: string): string => {
    const [first, ...others] = name.split(' ');
    return [first, others.at(-1)?.replace(/^(.).*/su, '$1.')].filter(Boolean).join(' ');
  };
  const isOnly = (short: (name: string) => string, name: string): boolean =>
    people.filter((other) => short(other) === short(name)).length === 1;
  const called = new Map(
    people.map((name) => [name, [firstNameOf, initialled].find((short) => isOnly(short, name))?.(name) ?? name]),
  );
  return (name) => called.get(name) ?? name;
}
