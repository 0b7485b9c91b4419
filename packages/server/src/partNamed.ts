import type { Part } from '@nailset/core';

/** The part that a table means by its id, its title or its letter. */
export function partNamed(parts: readonly Part[], name: string): Part | undefined {
  const wanted = name.trim().toLowerCase().replace(/\s+/g, ' ');
  return (
    parts.find(({ id }) => id.toLowerCase() === wanted) ??
    parts.find(({ title }) => title.toLowerCase().replace(/\s+/g, ' ') === wanted) ??
    (/^[a-z]$/.test(wanted) ? parts[wanted.charCodeAt(0) - 97] : undefined)
  );
}
