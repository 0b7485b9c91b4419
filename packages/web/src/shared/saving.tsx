import { type ReactNode, useEffect } from 'react';
import { useLatest } from './useLatest';

/** How far the work on the page has reached the server. */
export type Saving =
  | { state: 'saved'; at: string | null }
  | { state: 'saving' }
  | { state: 'offline' }
  | { state: 'refused'; message: string };

/** Pause after the last change before it is saved, and before a lost connection is tried again, in milliseconds. */
export const savePause = 700;
export const retryAfter = 4000;

/** Says how far the work has reached the server; `saved` words the good case, `way` leads out of a refusal. */
export function SavingNote({ saving, saved, way }: { saving: Saving; saved: ReactNode; way?: ReactNode }) {
  switch (saving.state) {
    case 'saved':
      return saved && <span>{saved}</span>;
    case 'saving':
      return <span>Saving …</span>;
    case 'offline':
      return (
        <span role="alert" className="text-copper">
          Not saved: no connection. Trying again …
        </span>
      );
    case 'refused':
      return (
        <span role="alert" className="text-brick">
          Not saved. {saving.message} {way}
        </span>
      );
  }
}

/** What saves the work that is on the page. */
const savers = new Set<() => Promise<unknown>>();

/** Saves all that is on the page, as far as it can be saved. */
export const saveAll = (): Promise<unknown> => Promise.allSettled([...savers].map((save) => save()));

/** Saves that are under way, of pages that were left included. */
const underWay = new Set<Promise<unknown>>();

/** Until everything that is being saved has been, or could not be. */
export const pendingSaves = (): Promise<unknown> => Promise.allSettled(underWay);

/** Saves what still waits to be saved when its view is left, and when `saveAll` is called. */
export function useSaveOnLeaving(save: () => Promise<unknown>): void {
  const latest = useLatest(save);
  useEffect(() => {
    const now = () => {
      const saving = latest.current();
      const watched = saving.catch(() => undefined).finally(() => underWay.delete(watched));
      underWay.add(watched);
      return saving;
    };
    savers.add(now);
    return () => {
      savers.delete(now);
      now().catch(() => undefined);
    };
  }, [latest]);
}

/** Asks before the page is left while something is not saved. */
export function useLeaveWarning(unsaved: boolean): void {
  useEffect(() => {
    if (!unsaved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [unsaved]);
}
