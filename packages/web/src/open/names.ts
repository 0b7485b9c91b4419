import type { SheetLine } from '@nailset/core';

const names = ['G', 'C', 'H', 'L', 'T', 'K', 'P', 'F', 'M', 'N', 'Q', 'R'];

/** A name that no line has: a wanted one, with a number where it is taken. */
export function freeName(lines: readonly Pick<SheetLine, 'name'>[], wanted?: string): string {
  const taken = new Set(lines.map(({ name }) => name));
  const free = (wanted === undefined ? names : [wanted]).find((name) => !taken.has(name));
  if (free) return free;
  for (let k = 1; ; k++) if (!taken.has(`${wanted ?? 'G'}${k}`)) return `${wanted ?? 'G'}${k}`;
}
