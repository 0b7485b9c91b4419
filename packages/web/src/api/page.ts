import type { Person, Session } from '@nailset/core';
import { useSyncExternalStore } from 'react';

/** Whose page this is, and who has signed in in this browser since, in another tab. */
export interface PageOwner {
  readonly person: Person | null;
  readonly other: Person | null;
}

let owner: PageOwner = { person: null, other: null };
const listeners = new Set<() => void>();

function change(next: PageOwner): void {
  owner = next;
  for (const tell of listeners) tell();
}

/** Whose page this is by now. */
export const pageOwner = (): PageOwner => owner;

/** The same for views. */
export const usePageOwner = (): PageOwner =>
  useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, pageOwner);

/**
 * Whether the page may follow this session: it belongs to nobody yet, or to the same person. Where it is someone
 * else's, the page stays with its owner and is told.
 */
export function follows({ person }: Pick<Session, 'person'>): boolean {
  if (owner.person && person && owner.person.id !== person.id) {
    change({ ...owner, other: person });
    return false;
  }
  // A session that has ended leaves the page with its owner; what is still sent from it is theirs alone.
  if (person && (owner.person?.id !== person.id || owner.other)) change({ person, other: null });
  return true;
}

/** Signing in or out in this tab: the page belongs to whoever is there next. */
export const letGo = (): void => change({ person: null, other: null });
