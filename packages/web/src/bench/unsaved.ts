import type { Work } from './work';

/**
 * Work that has not reached the server yet is kept in this browser, per person and version, so that a reload without a
 * connection loses nothing.
 */
export interface Unsaved {
  keep(work: Work): void;
  forget(): void;
  /** What an earlier page left; undefined when everything had been saved. */
  find(): Work | undefined;
}

const prefix = 'nailset unsaved';

/** A browser without storage keeps nothing, and the page works all the same. */
export function unsavedOf(personId: string, versionId: string): Unsaved {
  const key = `${prefix} ${personId} ${versionId}`;
  return {
    keep: (work) => attempt(() => localStorage.setItem(key, JSON.stringify(work))),
    forget: () => attempt(() => localStorage.removeItem(key)),
    find() {
      const text = attempt(() => localStorage.getItem(key));
      if (!text) return undefined;
      return attempt(() => JSON.parse(text) as Work);
    },
  };
}

function attempt<Of>(work: () => Of): Of | undefined {
  try {
    return work();
  } catch {
    return undefined;
  }
}
