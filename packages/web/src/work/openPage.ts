import { nanoid } from 'nanoid';
import { keepInTab, keptInTab } from '../shared/keptHere';

/** One page in one tab: it follows itself, whichever exercise or version it shows. */
export interface OpenPage {
  /** Another one once Back has brought the page again after others. */
  readonly id: string;
  /** Counts its saves: a later one counts, whichever reaches the server first. */
  nextSave(): number;
}

const key = 'nailset page';

interface Left {
  readonly id: string;
  readonly saves: number;
}

function isLeft(left: unknown): left is Left {
  if (typeof left !== 'object' || left === null) return false;
  const { id, saves } = left as Partial<Record<keyof Left, unknown>>;
  return typeof id === 'string' && /^[\w-]{16}$/.test(id) && Number.isInteger(saves);
}

/** What the page before left in this tab. It is there once: a tab that is made a copy of this one finds nothing. */
function taken(): Left | undefined {
  const left = keptInTab(key);
  keepInTab(key, null);
  return isLeft(left) ? left : undefined;
}

const fresh = (): Left => ({ id: nanoid(16), saves: 0 });

/**
 * The page that this tab shows. After a reload it goes on under the same name and from the same count: a save that is
 * still on its way is its own, not another window’s. `window` tells when it goes and comes back.
 */
export function openPage(window: EventTarget = globalThis.window): OpenPage {
  let { id, saves } = taken() ?? fresh();
  window.addEventListener('pagehide', () => keepInTab(key, { id, saves }));
  window.addEventListener('pageshow', (event) => {
    if (!(event as PageTransitionEvent).persisted) return;
    const left = taken();
    // Back brought it as it was. Where another saved under its name, that is newer than what it shows.
    if (left?.id !== id || left.saves !== saves) ({ id, saves } = fresh());
  });
  return {
    get id() {
      return id;
    },
    nextSave: () => ++saves,
  };
}

/** One for as long as the page is there. */
export const thisPage = openPage();
