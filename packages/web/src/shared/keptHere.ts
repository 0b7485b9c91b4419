import { jsonIn } from './json';

/** Work that is kept in this browser until it has reached the server. A browser without storage keeps nothing. */

const prefix = 'nailset unsaved';

export const keyOf = (personId: string, versionId: string): string => `${prefix} ${personId} ${versionId}`;

export const keepHere = (key: string, value: unknown): void =>
  void orNothing(() => localStorage.setItem(key, JSON.stringify(value)));

export const forgetHere = (key: string): void => orNothing(() => localStorage.removeItem(key));

/** What is kept under a key, whatever it is; undefined for nothing and for what is no JSON. */
export const keptHere = (key: string): unknown => parsed(orNothing(() => localStorage.getItem(key)));

/** The same for one tab, through its reloads. */
export const keepInTab = (key: string, value: unknown): void =>
  void orNothing(() => sessionStorage.setItem(key, JSON.stringify(value)));

export const keptInTab = (key: string): unknown => parsed(orNothing(() => sessionStorage.getItem(key)));

const parsed = (text: string | null | undefined): unknown => (text ? jsonIn(text) : undefined);

const keys = (personId: string): string[] =>
  orNothing(() => Object.keys(localStorage).filter((key) => key.startsWith(`${prefix} ${personId} `))) ?? [];

/** Everything of a person that is kept here, as text for people; empty for nothing. */
export const unsavedText = (personId: string): string =>
  keys(personId)
    .map((key) => orNothing(() => localStorage.getItem(key)) ?? '')
    .join('\n');

/** Throws away what is kept of a person, so that a page that cannot show it opens again. */
export const forgetAll = (personId: string): void => keys(personId).forEach(forgetHere);

function orNothing<Of>(work: () => Of): Of | undefined {
  try {
    return work();
  } catch {
    return undefined;
  }
}
