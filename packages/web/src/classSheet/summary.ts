import type { ClassSheet } from '@nailset/core';

/** How many handed in, and how many answers want a person's look. */
export function summarise(sheet: Pick<ClassSheet, 'rows'>): { handedIn: number; look: number } {
  const cells = sheet.rows.map((row) => Object.values(row.cells));
  return {
    handedIn: cells.filter((own) => own.length > 0).length,
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
    tenths[Math.min(9, Math.max(0, Math.ceil(points / width - 1e-9) - 1))]!.students += 1;
  }
  return tenths;
}
