import { type Design, readLines, type Sheet } from '@nailset/core';
import { type Drawn, drawnOf } from './drawn';
import { designLines } from './starts';

/** A design beside the one that is used: the same controller, calmer or quicker. */
export interface Candidate {
  readonly words: string;
  readonly design: Design;
}

/** The loops of designs that were not taken, each as it would be drawn. */
export function ghostsOf(sheet: Sheet, about: string, candidates: readonly Candidate[]): Drawn[] {
  return candidates.flatMap(({ words, design }) => {
    const before = sheet.lines.filter(({ text }) => text.trim());
    const lines = [...before, ...designLines(design, sheet.lines, about)];
    const all = drawnOf({ ...sheet, lines }, readLines(lines));
    return all
      .filter(({ line }) => line >= before.length)
      .map((each) => ({ ...each, id: `${each.id} ${words}`, label: `${each.label}, ${words}` }));
  });
}
