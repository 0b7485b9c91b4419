import type { SheetLine } from '@nailset/core';

const names = ['G', 'C', 'H', 'L', 'T', 'K', 'P', 'F', 'M', 'N', 'Q', 'R'];

/** A name that no line has: a wanted one, with a number where it is taken. */
export function freeName(lines: readonly Pick<SheetLine, 'name'>[], wanted?: string): string {
  const taken = new Set(lines.map(({ name }) => name));
  const free = (wanted === undefined ? names : [wanted]).find((name) => !taken.has(name));
  if (free) return free;
  for (let k = 1; ; k++) if (!taken.has(`${wanted ?? 'G'}${k}`)) return `${wanted ?? 'G'}${k}`;
}

/** A random name as RFC 9562 has it, also on a page without https. */
export function freshId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = Array.from(bytes, (byte, k) =>
    (k === 6 ? (byte & 0x0f) | 0x40 : k === 8 ? (byte & 0x3f) | 0x80 : byte).toString(16).padStart(2, '0'),
  ).join('');
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
}
