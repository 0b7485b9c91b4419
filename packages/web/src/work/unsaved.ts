import type { Work } from '../loop/action';
import { forgetHere, keepHere, keptHere, keyOf } from '../shared/keptHere';
import { isStoredWork } from './storedWork';

/** Revisions on the server from which answers were made, by part. */
export type Bases = Readonly<Record<string, number>>;

/** Work as it is kept in this browser, and the open page that keeps it. */
export interface Kept {
  readonly work: Work;
  readonly bases: Bases;
  readonly page: string;
}

/**
 * Work that has not reached the server yet is kept in this browser, per person and version, so that a reload without a
 * connection loses nothing.
 */
export interface Unsaved {
  keep(kept: Kept): void;
  /** Once everything of this page has been saved; what another page keeps stays. */
  forget(page: string): void;
  /** What an earlier page left; undefined when everything had been saved, or where it is not work of this release. */
  find(): Kept | undefined;
}

/** A browser without storage keeps nothing, and the page works all the same. */
export function unsavedOf(personId: string, versionId: string): Unsaved {
  const key = keyOf(personId, versionId);
  const find = (): Kept | undefined => {
    const kept = keptHere(key);
    // An earlier release kept the work alone.
    if (isStoredWork(kept)) return { work: kept, bases: {}, page: '' };
    return isKept(kept) ? kept : undefined;
  };
  return {
    keep: (kept) => keepHere(key, kept),
    forget(page) {
      if (find()?.page === page) forgetHere(key);
    },
    find,
  };
}

function isKept(kept: unknown): kept is Kept {
  if (typeof kept !== 'object' || kept === null) return false;
  const { work, bases, page } = kept as Partial<Record<keyof Kept, unknown>>;
  const hasBases =
    typeof bases === 'object' && bases !== null && Object.values(bases).every((base) => Number.isInteger(base));
  return hasBases && typeof page === 'string' && isStoredWork(work);
}
